package dev.ordinator.core.routing;

import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Trips.Trip;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Everything outside the order that routing looks at, at one moment. */
public final class Situation {

  /**
   * Units that must arrive in time.
   *
   * @param lastArrival the last day on which they may arrive; null: whenever
   */
  public record Perishable(@Nullable LocalDate lastArrival, long units) {}

  /**
   * What a node has of an item.
   *
   * @param available units
   * @param purchasePrice minor units per unit that must be bought in; 0 for own stock
   * @param clearanceCredit minor units per unit by which using it up is welcome
   * @param perishable what of it is free, by how long it lasts; empty: it does not perish
   */
  public record Offer(
      String node,
      String sku,
      long available,
      long purchasePrice,
      long clearanceCredit,
      List<Perishable> perishable) {
    public Offer {
      perishable = List.copyOf(perishable);
    }

    public Offer(
        String node, String sku, long available, long purchasePrice, long clearanceCredit) {
      this(node, sku, available, purchasePrice, clearanceCredit, List.of());
    }

    static Offer nothing(String node, String sku) {
      return new Offer(node, sku, 0, 0, 0);
    }

    /** So many fewer, taken from what lasts the shortest of what still arrives in time. */
    Offer less(long units, LocalDate arrival) {
      List<Perishable> left = new ArrayList<>();
      long toTake = units;
      for (Perishable p : perishable.stream().sorted(SHORTEST_FIRST).toList()) {
        LocalDate last = p.lastArrival();
        long some = last != null && last.isBefore(arrival) ? 0 : Math.min(toTake, p.units());
        toTake -= some;
        left.add(new Perishable(last, p.units() - some));
      }
      return new Offer(node, sku, available - units, purchasePrice, clearanceCredit, left);
    }

    private static final Comparator<Perishable> SHORTEST_FIRST =
        Comparator.comparing(
            Perishable::lastArrival, Comparator.nullsLast(Comparator.naturalOrder()));

    /** Of the same, what else there is. */
    Offer with(long units, List<Perishable> lasting) {
      return new Offer(node, sku, units, purchasePrice, clearanceCredit, lasting);
    }

    /** Units that would not last long enough if they arrived on that day. */
    long expiringBefore(LocalDate arrival) {
      return perishable.stream()
          .filter(p -> p.lastArrival() != null && p.lastArrival().isBefore(arrival))
          .mapToLong(Perishable::units)
          .sum();
    }

    /** Units that still last long enough if they arrive on that day. */
    long arrivingOn(LocalDate arrival) {
      if (perishable.isEmpty()) {
        return available;
      }
      long lasting =
          perishable.stream()
              .filter(p -> p.lastArrival() == null || !p.lastArrival().isBefore(arrival))
              .mapToLong(Perishable::units)
              .sum();
      return Math.min(available, lasting);
    }
  }

  /** So many full days of a node are planned over; who would wait longer waits for a person. */
  private static final int DAYS_AHEAD = 14;

  private final Instant now;
  private final Network network;
  private final Trips trips;
  private final Map<String, Integer> capacityLeft;

  /** By SKU, then by the place of the node in the network; null: nothing is said of it. */
  private final Map<String, @Nullable Offer[]> offers = new HashMap<>();

  /** What is said of an item of which nothing is said. */
  private final @Nullable Offer[] none;

  /**
   * @param capacityLeft consignments that a node can still take; a node not in it has no limit
   * @param offers at most one per node and SKU; those of nodes outside the network don’t count
   */
  public Situation(
      Instant now, Network network, Map<String, Integer> capacityLeft, List<Offer> offers) {
    this.now = now;
    this.network = network;
    this.trips = new Trips(now, network);
    this.capacityLeft = Map.copyOf(capacityLeft);
    this.none = new Offer[network.nodes().size()];
    addAll(offers);
  }

  private Situation(Situation other, Map<String, Integer> places, List<Offer> stock) {
    this.now = other.now;
    this.network = other.network;
    this.trips = other.trips;
    this.capacityLeft = places;
    this.none = other.none;
    addAll(stock);
  }

  private Situation(Situation other, Network network, Map<String, Integer> places) {
    this.now = other.now;
    this.network = network;
    this.trips = new Trips(now, network);
    this.capacityLeft = places;
    this.none = other.none;
    this.offers.putAll(other.offers);
  }

  private Situation(Situation other) {
    this.now = other.now;
    this.network = other.network;
    this.trips = other.trips;
    this.capacityLeft = new HashMap<>(other.capacityLeft);
    this.none = other.none;
    other.offers.forEach((sku, byPlace) -> offers.put(sku, byPlace.clone()));
  }

  private void addAll(List<Offer> some) {
    for (Offer offer : some) {
      int place = network.place(offer.node());
      if (place >= 0) {
        offers.computeIfAbsent(offer.sku(), sku -> none.clone())[place] = offer;
      }
    }
  }

  /** The same moment and network with other places and stock. */
  Situation with(Map<String, Integer> places, List<Offer> stock) {
    return new Situation(this, places, stock);
  }

  /** The same, as if the days on which nodes are full were none on which they work. */
  Situation afterFullDays(PlacesLeft places) {
    Map<String, Set<LocalDate>> full = new HashMap<>();
    Map<String, Integer> left = new HashMap<>();
    for (Node node : network.nodes()) {
      Set<LocalDate> days = new HashSet<>();
      LocalDate day = node.handOverDay(now);
      while (days.size() < DAYS_AHEAD && places.on(node.code(), day) <= 0) {
        days.add(day);
        day = node.withDaysOff(days).handOverDay(now);
      }
      full.put(node.code(), days);
      left.put(node.code(), places.on(node.code(), day));
    }
    return new Situation(this, network.withDaysOff(full), left);
  }

  /** The same, to be {@link #take taken} from. */
  Situation copy() {
    return new Situation(this);
  }

  /** What a consignment takes is there no more. */
  void take(PlannedConsignment consignment, Map<String, String> skuByLine) {
    capacityLeft.computeIfPresent(consignment.node(), (node, left) -> left - 1);
    for (PlannedConsignment.Line line : consignment.lines()) {
      @Nullable Offer[] byPlace = offers(Objects.requireNonNull(skuByLine.get(line.id())));
      int place = network.place(consignment.node());
      Offer offer = place < 0 ? null : byPlace[place];
      if (offer != null) {
        byPlace[place] = offer.less(line.quantity(), consignment.arrival());
      }
    }
  }

  public Instant now() {
    return now;
  }

  public Network network() {
    return network;
  }

  /**
   * How an order gets from nodes to its buyer, by their codes: at its level of service or better.
   */
  Map<String, List<Trip>> trips(OrderDemand order) {
    if (order.from().pickUp() != null) {
      return trips.collected();
    }
    return network
        .zoneOf(order.to())
        .map(zone -> trips.to(zone.code(), order.level()))
        .orElse(Map.of());
  }

  /** Consignments that a node can still take; empty: it has no limit. */
  public OptionalInt capacityLeft(String node) {
    Integer left = capacityLeft.get(node);
    return left == null ? OptionalInt.empty() : OptionalInt.of(left);
  }

  boolean hasCapacity(String node) {
    return capacityLeft.getOrDefault(node, Integer.MAX_VALUE) > 0;
  }

  /** What a node has of an item: nothing, if it is not said. */
  public Offer offer(String node, String sku) {
    int place = network.place(node);
    Offer offer = place < 0 ? null : offers(sku)[place];
    return offer == null ? Offer.nothing(node, sku) : offer;
  }

  /** What nodes have of an item, by their places in the network; null: nothing is said of it. */
  @Nullable Offer[] offers(String sku) {
    return offers.getOrDefault(sku, none);
  }
}
