package dev.ordinator.core.routing;

import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Situation.Perishable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableSet;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.LongUnaryOperator;

/**
 * What the orders of a batch share, by number: units of an item at a node, and places on nodes'
 * days. Of what perishes there is a number more for each day that some of it lasts to: what arrives
 * by a day needs some that lasts that long, and so counts against all that end before.
 */
final class Shelves {
  private final Situation situation;
  private final Map<String, Map<String, Integer>> stock = new HashMap<>();
  private final Map<String, Integer> places = new HashMap<>();
  private final Map<Lasting, Integer> lasting = new HashMap<>();
  private final List<String> skus = new ArrayList<>();
  private final List<Integer> bases = new ArrayList<>();
  private long[] have = new long[64];
  private int size;

  private record Lasting(String node, String sku, LocalDate day) {}

  /**
   * What a plan takes.
   *
   * @param what numbers, ascending
   * @param units of each
   */
  record Takes(int[] what, long[] units) {
    static final Takes NOTHING = new Takes(new int[0], new long[0]);

    /** Units of what has a number. */
    long of(int number) {
      int at = Arrays.binarySearch(what, number);
      return at < 0 ? 0 : units[at];
    }

    boolean same(Takes other) {
      return Arrays.equals(what, other.what) && Arrays.equals(units, other.units);
    }
  }

  Shelves(Situation situation) {
    this.situation = situation;
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

  /** The number of an item at a node; −1 if no plan took any of it yet. */
  int ofStock(String node, String sku) {
    return stock.getOrDefault(node, Map.of()).getOrDefault(sku, -1);
  }

  /** The number of a node's places; −1 if it has no limit, or no plan took any yet. */
  int ofPlaces(String node) {
    return places.getOrDefault(node, -1);
  }

  /** Gives numbers to all that an order could take, as far as it does not perish. */
  void number(OrderDemand demand) {
    for (Node node : situation.network().nodes()) {
      for (OrderDemand.Line line : demand.lines()) {
        Situation.Offer offer = situation.offer(node.code(), line.item().sku());
        if (offer.available() > 0) {
          stock
              .computeIfAbsent(node.code(), n -> new HashMap<>())
              .computeIfAbsent(offer.sku(), s -> add(s, size, offer.available()));
        }
      }
    }
  }

  Takes takes(Plan plan, Map<String, String> skuByLine) {
    Map<Integer, Long> taken = new TreeMap<>();
    for (PlannedConsignment sent : plan.consignments()) {
      OptionalInt capacity = situation.capacityLeft(sent.node());
      if (capacity.isPresent()) {
        int place = places.computeIfAbsent(sent.node(), node -> add("", size, capacity.getAsInt()));
        taken.merge(place, 1L, Long::sum);
      }
      for (PlannedConsignment.Line line : sent.lines()) {
        String sku = Objects.requireNonNull(skuByLine.get(line.id()));
        for (int number : numbers(sent, sku)) {
          taken.merge(number, line.quantity(), Long::sum);
        }
      }
    }
    return new Takes(
        taken.keySet().stream().mapToInt(Integer::intValue).toArray(),
        taken.values().stream().mapToLong(Long::longValue).toArray());
  }

  /** What there is for an order when others have taken some, by number. */
  Situation left(OrderDemand demand, LongUnaryOperator taken) {
    Map<String, Integer> capacities = new HashMap<>();
    List<Situation.Offer> offers = new ArrayList<>();
    for (Node node : situation.network().nodes()) {
      String code = node.code();
      OptionalInt capacity = situation.capacityLeft(code);
      if (capacity.isPresent()) {
        Integer number = places.get(code);
        long less = number == null ? 0 : taken.applyAsLong(number);
        capacities.put(code, (int) (capacity.getAsInt() - less));
      }
      for (OrderDemand.Line line : demand.lines()) {
        Situation.Offer offer = situation.offer(code, line.item().sku());
        if (offer.available() > 0) {
          offers.add(left(offer, taken));
        }
      }
    }
    return situation.with(capacities, offers);
  }

  private Situation.Offer left(Situation.Offer offer, LongUnaryOperator taken) {
    int number = ofStock(offer.node(), offer.sku());
    if (number < 0) {
      return offer;
    }
    List<Perishable> lasting = new ArrayList<>();
    if (!offer.perishable().isEmpty()) {
      // what lasts to a day at least, the latest day first; what lasts longer is taken off it
      long longer = 0;
      for (LocalDate day : days(offer).descendingSet()) {
        long some = Long.MAX_VALUE;
        for (LocalDate before : days(offer).headSet(day, true)) {
          Integer from = this.lasting.get(new Lasting(offer.node(), offer.sku(), before));
          long less = from == null ? 0 : taken.applyAsLong(from);
          some = Math.min(some, offer.arrivingOn(before) - less);
        }
        lasting.add(new Perishable(day.equals(LocalDate.MAX) ? null : day, some - longer));
        longer = some;
      }
    }
    return offer.with(have[number] - taken.applyAsLong(number), lasting);
  }

  private List<Integer> numbers(PlannedConsignment sent, String sku) {
    Situation.Offer offer = situation.offer(sent.node(), sku);
    List<Integer> numbers = new ArrayList<>();
    int base =
        stock
            .computeIfAbsent(sent.node(), node -> new HashMap<>())
            .computeIfAbsent(sku, s -> add(sku, size, offer.available()));
    numbers.add(base);
    if (!offer.perishable().isEmpty()) {
      NavigableSet<LocalDate> days = days(offer);
      LocalDate needed = Objects.requireNonNull(days.ceiling(sent.arrival()));
      for (LocalDate day : days.headSet(needed, true)) {
        numbers.add(
            lasting.computeIfAbsent(
                new Lasting(sent.node(), sku, day), l -> add(sku, base, offer.arrivingOn(day))));
      }
    }
    return numbers;
  }

  /** The days to which some lasts; the last there is, for what does not perish. */
  private static NavigableSet<LocalDate> days(Situation.Offer offer) {
    NavigableSet<LocalDate> days = new TreeSet<>(List.of(LocalDate.MAX));
    for (Perishable some : offer.perishable()) {
      days.add(Objects.requireNonNullElse(some.lastArrival(), LocalDate.MAX));
    }
    return days;
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
}
