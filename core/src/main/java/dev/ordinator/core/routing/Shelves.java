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
import org.jspecify.annotations.Nullable;

/**
 * What the orders of a batch share, by number: units of an item at a node, and places on nodes'
 * days. Of what perishes there is a number more for each day that some of it lasts to: what arrives
 * by a day needs some that lasts that long, and so counts against all that end before.
 */
final class Shelves {
  private final Situation situation;

  /** By SKU. */
  private final Map<String, Shelf> stock = new HashMap<>();

  /** Of nodes with a limit; they have the first numbers. */
  private final Map<String, Integer> places = new LinkedHashMap<>();

  private int[] item = new int[64];
  private int[] base = new int[64];
  private long[] have = new long[64];
  private int size;

  /**
   * An item.
   *
   * @param item its number among items
   * @param byPlace of the node in the network; null: there is none
   */
  private record Shelf(int item, @Nullable Stock[] byPlace) {}

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
          .ifPresent(left -> places.put(node.code(), add(-1, size, left)));
    }
    for (OrderDemand demand : demands) {
      for (OrderDemand.Line line : demand.lines()) {
        stock.computeIfAbsent(line.item().sku(), sku -> shelf(stock.size(), sku));
      }
    }
  }

  private Shelf shelf(int itsItem, String sku) {
    @Nullable Offer[] offers = situation.offers(sku);
    @Nullable Stock[] byPlace = new Stock[offers.length];
    for (int place = 0; place < offers.length; place++) {
      Offer offer = offers[place];
      if (offer != null && offer.available() > 0) {
        byPlace[place] = number(itsItem, offer);
      }
    }
    return new Shelf(itsItem, byPlace);
  }

  private Stock number(int itsItem, Offer offer) {
    int first = add(itsItem, size, offer.available());
    if (offer.perishable().isEmpty()) {
      return new Stock(offer, new int[] {first}, Collections.emptyNavigableMap());
    }
    NavigableSet<LocalDate> days = new TreeSet<>(Set.of(LocalDate.MAX));
    offer.perishable().forEach(some -> days.add(lastArrival(some)));
    NavigableMap<LocalDate, int[]> lasting = new TreeMap<>();
    int[] numbers = {first};
    for (LocalDate day : days) {
      numbers = Arrays.copyOf(numbers, numbers.length + 1);
      numbers[numbers.length - 1] = add(itsItem, first, offer.arrivingOn(day));
      lasting.put(day, numbers);
    }
    return new Stock(offer, new int[] {first}, lasting);
  }

  private static LocalDate lastArrival(Perishable some) {
    return Objects.requireNonNullElse(some.lastArrival(), LocalDate.MAX);
  }

  private int add(int itsItem, int itsBase, long there) {
    if (size == have.length) {
      item = Arrays.copyOf(item, 2 * size);
      base = Arrays.copyOf(base, 2 * size);
      have = Arrays.copyOf(have, 2 * size);
    }
    item[size] = itsItem;
    base[size] = itsBase;
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

  /** How many items there are. */
  int items() {
    return stock.size();
  }

  /** The number among items of one that some order asks for. */
  int item(String sku) {
    return shelf(sku).item();
  }

  /** The item that a number is of; −1: places. */
  int itemOf(int number) {
    return item[number];
  }

  /** How many numbers are places; they are the first. */
  int places() {
    return places.size();
  }

  /** The number of the item at the node that a number is of; its own if it is that or places. */
  int base(int number) {
    return base[number];
  }

  /** The number of an item at a node; −1 if there is none of it. */
  int ofStock(String node, String sku) {
    Shelf shelf = stock.get(sku);
    Stock some = shelf == null ? null : shelf.byPlace()[situation.network().place(node)];
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
    return Objects.requireNonNull(shelf(sku).byPlace()[situation.network().place(node)]);
  }

  private Shelf shelf(String sku) {
    return Objects.requireNonNull(stock.get(sku));
  }

  /** What there is for an order when others have taken some, by number. */
  Situation left(OrderDemand demand, IntToLongFunction taken) {
    Map<String, Integer> capacities = new HashMap<>();
    places.forEach(
        (node, number) -> capacities.put(node, (int) (have[number] - taken.applyAsLong(number))));
    List<Offer> offers = new ArrayList<>();
    for (OrderDemand.Line line : demand.lines()) {
      for (Stock some : shelf(line.item().sku()).byPlace()) {
        if (some != null) {
          offers.add(left(some, taken));
        }
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
