package dev.ordinator.core.routing;

import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.core.routing.Situation.Perishable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.NavigableSet;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.IntToLongFunction;

/**
 * What the orders of a batch share, by number: units of an item at a node, and places on nodes'
 * days. Of what perishes there is a number more for each day that some of it lasts to: what arrives
 * by a day needs some that lasts that long, and so counts against all that end before.
 */
final class Shelves {
  private final Situation situation;

  /** By SKU, then by node. */
  private final Map<String, Map<String, Stock>> stock = new HashMap<>();

  /** Of nodes with a limit. */
  private final Map<String, Integer> places = new LinkedHashMap<>();

  private final List<String> skus = new ArrayList<>();
  private final List<Integer> bases = new ArrayList<>();
  private long[] have = new long[64];
  private int size;

  /**
   * An item at a node.
   *
   * @param any its number, alone
   * @param lasting by the day to which some lasts, the last there is for what does not perish: the
   *     numbers that what must last so long counts against, its own first; empty if nothing
   *     perishes
   */
  private record Stock(Offer offer, int[] any, NavigableMap<LocalDate, int[]> lasting) {
    int number() {
      return any[0];
    }
  }

  /**
   * @param demands of the orders that share it
   */
  Shelves(Situation situation, List<OrderDemand> demands) {
    this.situation = situation;
    for (Node node : situation.network().nodes()) {
      situation
          .capacityLeft(node.code())
          .ifPresent(left -> places.put(node.code(), add("", size, left)));
    }
    for (OrderDemand demand : demands) {
      for (OrderDemand.Line line : demand.lines()) {
        stock.computeIfAbsent(line.item().sku(), this::number);
      }
    }
  }

  private Map<String, Stock> number(String sku) {
    Map<String, Stock> byNode = new LinkedHashMap<>();
    for (Node node : situation.network().nodes()) {
      Offer offer = situation.offer(node.code(), sku);
      if (offer.available() > 0) {
        byNode.put(node.code(), number(offer));
      }
    }
    return byNode;
  }

  private Stock number(Offer offer) {
    int base = add(offer.sku(), size, offer.available());
    if (offer.perishable().isEmpty()) {
      return new Stock(offer, new int[] {base}, Collections.emptyNavigableMap());
    }
    NavigableSet<LocalDate> days = new TreeSet<>(Set.of(LocalDate.MAX));
    offer.perishable().forEach(some -> days.add(lastArrival(some)));
    NavigableMap<LocalDate, int[]> lasting = new TreeMap<>();
    int[] numbers = {base};
    for (LocalDate day : days) {
      numbers = Arrays.copyOf(numbers, numbers.length + 1);
      numbers[numbers.length - 1] = add(offer.sku(), base, offer.arrivingOn(day));
      lasting.put(day, numbers);
    }
    return new Stock(offer, new int[] {base}, lasting);
  }

  private static LocalDate lastArrival(Perishable some) {
    return Objects.requireNonNullElse(some.lastArrival(), LocalDate.MAX);
  }

  private int add(String sku, int base, long there) {
    skus.add(sku);
    bases.add(base);
    if (size == have.length) {
      have = Arrays.copyOf(have, 2 * size);
    }
    have[size] = Math.max(0, there);
    return size++;
  }

  /** How many numbers there are. */
  int size() {
    return size;
  }

  long[] have() {
    return Arrays.copyOf(have, size);
  }

  long have(int number) {
    return have[number];
  }

  /** The item that a number is of; empty: places. */
  String sku(int number) {
    return skus.get(number);
  }

  /** The number of the item at the node that a number is of; its own if it is that or places. */
  int base(int number) {
    return bases.get(number);
  }

  /** The number of an item at a node; −1 if there is none of it. */
  int ofStock(String node, String sku) {
    Stock some = stock.getOrDefault(sku, Map.of()).get(node);
    return some == null ? -1 : some.number();
  }

  /** The number of a node's places; −1 if it has no limit. */
  int ofPlaces(String node) {
    return places.getOrDefault(node, -1);
  }

  /**
   * @param demand of the order that the plan is for
   */
  Takes takes(Plan plan, OrderDemand demand) {
    Takes.Sum sum = new Takes.Sum();
    for (PlannedConsignment sent : plan.consignments()) {
      Integer place = places.get(sent.node());
      if (place != null) {
        sum.add(place, 1);
      }
      for (PlannedConsignment.Line line : sent.lines()) {
        String sku = demand.line(line.id()).item().sku();
        for (int number : numbers(sent.node(), sku, sent.arrival())) {
          sum.add(number, line.quantity());
        }
      }
    }
    return sum.takes();
  }

  /** The numbers of which a unit of an item takes one each, if a node sends it to arrive then. */
  int[] numbers(String node, String sku, LocalDate arrival) {
    Stock some = stock(node, sku);
    return some.lasting().isEmpty() ? some.any() : some.lasting().ceilingEntry(arrival).getValue();
  }

  private Stock stock(String node, String sku) {
    return Objects.requireNonNull(Objects.requireNonNull(stock.get(sku)).get(node));
  }

  /** What there is for an order when others have taken some, by number. */
  Situation left(OrderDemand demand, IntToLongFunction taken) {
    Map<String, Integer> capacities = new HashMap<>();
    places.forEach(
        (node, number) -> capacities.put(node, (int) (have[number] - taken.applyAsLong(number))));
    List<Offer> offers = new ArrayList<>();
    for (OrderDemand.Line line : demand.lines()) {
      for (Stock some : Objects.requireNonNull(stock.get(line.item().sku())).values()) {
        offers.add(left(some, taken));
      }
    }
    return situation.with(capacities, offers);
  }

  private Offer left(Stock some, IntToLongFunction taken) {
    List<Perishable> lasting = new ArrayList<>();
    // what lasts to a day at least, the latest day first; what lasts longer is taken off it
    long longer = 0;
    for (Map.Entry<LocalDate, int[]> entry : some.lasting().descendingMap().entrySet()) {
      LocalDate day = entry.getKey();
      long least = Long.MAX_VALUE;
      for (int number : entry.getValue()) {
        least = Math.min(least, have[number] - taken.applyAsLong(number));
      }
      lasting.add(new Perishable(day.equals(LocalDate.MAX) ? null : day, least - longer));
      longer = least;
    }
    return some.offer().with(have[some.number()] - taken.applyAsLong(some.number()), lasting);
  }
}
