package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.PlannedConsignment.Cost;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.core.routing.Trips.Trip;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A node that may send some of an order: how much of each item, by which lanes, at what cost. */
final class Source {
  /**
   * A lane that it may go by.
   *
   * @param lateness what arriving then costs
   * @param most units of each item of the basket that may go by it
   */
  record Way(Trip trip, long lateness, long[] most) {
    LocalDate arrival() {
      return trip.arrival();
    }

    /** What carriage and lateness of so many grams come to. */
    long cost(long billable) {
      return trip.lane().rates().carriage(billable) + lateness;
    }

    /** They come to no less, whatever is sent. */
    long least() {
      return trip.least() + lateness;
    }

    boolean carries(long[] units) {
      for (int item = 0; item < units.length; item++) {
        if (units[item] > most[item]) {
          return false;
        }
      }
      return true;
    }
  }

  private final Node node;
  private final int place;
  private final OrderDemand order;
  private final Basket basket;
  private final Policy policy;
  private final Offer[] offers;
  private final List<Way> ways;
  private final long[] most;
  private final long[] unitCost;
  private final long costPerConsignment;
  private final Tariff tariff;

  /**
   * @param place of the node in the listed order
   * @param trips to the order's zone, of its level or better, in listed order
   * @param offers what the node has, by item of the basket
   */
  Source(
      Node node,
      int place,
      OrderDemand order,
      Basket basket,
      Late late,
      List<Trip> trips,
      Offer[] offers,
      Policy policy) {
    this.node = node;
    this.place = place;
    this.order = order;
    this.basket = basket;
    this.policy = policy;
    this.offers = offers;
    this.unitCost = new long[offers.length];
    for (int item = 0; item < unitCost.length; item++) {
      unitCost[item] =
          node.handling().perUnit() + offers[item].purchasePrice() - offers[item].clearanceCredit();
    }
    this.costPerConsignment = node.handling().perConsignment();
    List<Way> allowed = new ArrayList<>(trips.size());
    long[] byAny = null;
    for (Trip trip : trips) {
      long daysLate = daysLate(order.arriveBy(), trip.arrival());
      if (late == Late.ALLOW || daysLate == 0) {
        long[] byLane = most(trip);
        if (byAny != null && Arrays.equals(byLane, byAny)) {
          // mostly the same by all, which then is kept once: a batch has very many
          byLane = byAny;
        }
        allowed.add(new Way(trip, policy.latePenaltyPerDay() * daysLate, byLane));
        byAny = byAny == null ? byLane : larger(byAny, byLane);
      }
    }
    this.ways = List.copyOf(allowed);
    this.most = byAny == null ? new long[offers.length] : byAny;
    this.tariff = new Tariff(ways, basket);
  }

  private Source(Source other, Worth worth, long saved) {
    this.node = other.node;
    this.place = other.place;
    this.order = other.order;
    this.basket = other.basket;
    this.policy = other.policy;
    this.ways = other.ways;
    this.offers = other.offers;
    this.most = other.most;
    this.tariff = other.tariff;
    this.unitCost = other.unitCost.clone();
    for (int item = 0; item < unitCost.length; item++) {
      boolean has = most[item] > 0;
      unitCost[item] += (has ? worth.unit(node.code(), basket.item(item).sku()) : 0) - saved;
    }
    this.costPerConsignment = other.costPerConsignment + worth.place(node.code());
  }

  /**
   * The same, with what it takes from others and what it saves.
   *
   * @param saved by each unit that it sends
   */
  Source charged(Worth worth, long saved) {
    return worth == Worth.NOTHING && saved == 0 ? this : new Source(this, worth, saved);
  }

  static long daysLate(@Nullable LocalDate arriveBy, LocalDate arrival) {
    return arriveBy == null ? 0 : Math.max(0, ChronoUnit.DAYS.between(arriveBy, arrival));
  }

  static boolean mayTravel(Item item, Node node, OrderDemand order) {
    boolean handled = item.hazard() == null || node.hazards().contains(item.hazard());
    return handled && !item.bannedCountries().contains(order.to().country());
  }

  private static long[] larger(long[] one, long[] other) {
    if (one == other) {
      return one;
    }
    long[] larger = one.clone();
    for (int item = 0; item < larger.length; item++) {
      larger[item] = Math.max(larger[item], other[item]);
    }
    return larger;
  }

  private long[] most(Trip trip) {
    long[] most = new long[offers.length];
    for (int i = 0; i < most.length; i++) {
      Item item = basket.item(i);
      if (trip.lane().carries(item.hazard()) && mayTravel(item, node, order)) {
        most[i] = Math.clamp(offers[i].arrivingOn(trip.arrival()), 0, basket.demand(i));
      }
    }
    return most;
  }

  Node node() {
    return node;
  }

  int place() {
    return place;
  }

  List<Way> ways() {
    return ways;
  }

  /** Units of an item that it can send at most, by the best of its ways for that. */
  long most(int item) {
    return most[item];
  }

  boolean hasAny() {
    for (long units : most) {
      if (units > 0) {
        return true;
      }
    }
    return false;
  }

  /**
   * What a unit costs, and is worth to others, less what it saves, besides what the whole
   * consignment costs.
   */
  long unitCost(int item) {
    return unitCost[item];
  }

  long costPerLine() {
    return node.handling().perLine();
  }

  long costPerConsignment() {
    return costPerConsignment;
  }

  /** What carriage and lateness of a consignment can come to. */
  Tariff tariff() {
    return tariff;
  }

  /** The way by which a consignment goes: the cheapest that carries it, of equals the first. */
  @Nullable Way wayFor(long[] unitsByItem, long billable) {
    Way best = null;
    long least = Long.MAX_VALUE;
    for (Way way : ways) {
      long cost = way.cost(billable);
      if (cost < least && way.carries(unitsByItem)) {
        best = way;
        least = cost;
      }
    }
    return best;
  }

  /**
   * The ways by which a consignment may go if others take some of what there is: the cheapest, and
   * of what perishes also each that is dearer and sooner, as less of it needs to last.
   *
   * @return the cheapest first; none if no way carries it
   */
  List<Way> waysFor(long[] unitsByItem, long billable) {
    Way cheapest = wayFor(unitsByItem, billable);
    if (cheapest == null) {
      return List.of();
    }
    if (!perishes(unitsByItem)) {
      return List.of(cheapest);
    }
    List<Way> useful = new ArrayList<>(List.of(cheapest));
    List<Way> byCost = new ArrayList<>(ways);
    byCost.sort(Comparator.comparingLong(way -> way.cost(billable)));
    for (Way way : byCost) {
      if (way.carries(unitsByItem) && way.arrival().isBefore(useful.getLast().arrival())) {
        useful.add(way);
      }
    }
    return useful;
  }

  private boolean perishes(long[] unitsByItem) {
    for (int item = 0; item < unitsByItem.length; item++) {
      if (unitsByItem[item] > 0 && !offers[item].perishable().isEmpty()) {
        return true;
      }
    }
    return false;
  }

  long billable(long[] unitsByLine) {
    long weight = 0;
    long volume = 0;
    for (int l = 0; l < unitsByLine.length; l++) {
      weight += basket.weight(l) * unitsByLine[l];
      volume += basket.volume(l) * unitsByLine[l];
    }
    return policy.billableWeight(weight, volume);
  }

  /**
   * The consignment with so many units of each line, by the way by which it goes.
   *
   * @throws IllegalArgumentException if no way carries it
   */
  PlannedConsignment consignment(long[] unitsByLine) {
    long[] unitsByItem = new long[basket.items()];
    for (int l = 0; l < unitsByLine.length; l++) {
      unitsByItem[basket.itemOf(l)] += unitsByLine[l];
    }
    Way way = wayFor(unitsByItem, billable(unitsByLine));
    if (way == null) {
      throw new IllegalArgumentException("no lane from " + node.code() + " carries it");
    }
    return consignment(unitsByLine, way);
  }

  /** The consignment with so many units of each line, by a way that carries it. */
  PlannedConsignment consignment(long[] unitsByLine, Way way) {
    long purchase = 0;
    long clearance = 0;
    long units = 0;
    List<PlannedConsignment.Line> lines = new ArrayList<>();
    for (int l = 0; l < unitsByLine.length; l++) {
      if (unitsByLine[l] > 0) {
        Offer offer = offers[basket.itemOf(l)];
        purchase += offer.purchasePrice() * unitsByLine[l];
        clearance += offer.clearanceCredit() * unitsByLine[l];
        units += unitsByLine[l];
        lines.add(new PlannedConsignment.Line(basket.line(l).id(), unitsByLine[l]));
      }
    }
    long billable = billable(unitsByLine);
    Lane lane = way.trip().lane();
    LocalDate handOver = way.trip().handOver();
    LocalDate arriveBy = order.arriveBy();
    return new PlannedConsignment(
        node.code(),
        lane.carrier(),
        lane.service(),
        handOver,
        arriveBy == null ? handOver : lane.shipBy(arriveBy, node.calendar()),
        way.arrival(),
        billable,
        new Cost(
            lane.rates().carriage(billable),
            node.handling().of(lines.size(), units),
            purchase,
            clearance,
            way.lateness()),
        lines);
  }
}
