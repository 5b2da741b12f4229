package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.core.routing.Trips.Trip;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** What nodes could do for an order on a rung: as parts of a plan, and each by itself. */
final class NodeOffers {
  private final OrderDemand order;
  private final Basket basket;
  private final Rung rung;
  private final Policy policy;
  private final Situation situation;
  private final Map<String, List<Trip>> trips;

  /** By item of the basket, then by the node's place. */
  private final @Nullable Offer[][] offers;

  /**
   * @param trips to the order's zone, by their node's code
   */
  NodeOffers(
      OrderDemand order,
      Basket basket,
      Rung rung,
      Policy policy,
      Situation situation,
      Map<String, List<Trip>> trips) {
    this.order = order;
    this.basket = basket;
    this.rung = rung;
    this.policy = policy;
    this.situation = situation;
    this.trips = trips;
    this.offers = new Offer[basket.items()][];
    for (int item = 0; item < offers.length; item++) {
      offers[item] = situation.offers(basket.item(item).sku());
    }
  }

  /**
   * The nodes that may send some of it, in listed order.
   *
   * @param withPlace only those that have a place left on their day
   */
  List<Source> sources(boolean withPlace) {
    List<Source> sources = new ArrayList<>();
    List<Node> nodes = situation.network().nodes();
    for (int place = 0; place < nodes.size(); place++) {
      Node node = nodes.get(place);
      if (hasAny(place)
          && barred(node) == null
          && (!withPlace || situation.hasCapacity(node.code()))) {
        Source source = source(node, place);
        if (source.hasAny()) {
          sources.add(source);
        }
      }
    }
    return sources;
  }

  /** Whether anything is said to be there of what is asked for. */
  private boolean hasAny(int place) {
    for (@Nullable Offer[] byPlace : offers) {
      if (byPlace[place] != null) {
        return true;
      }
    }
    return false;
  }

  private Source source(Node node, int place) {
    Offer[] own = new Offer[basket.items()];
    Arrays.setAll(own, item -> offer(place, item));
    return new Source(node, place, order, basket, rung.late(), trips(node), own, policy);
  }

  /** What a node has of an item: nothing, if it is not said. */
  private Offer offer(int place, int item) {
    Offer said = offers[item][place];
    return said == null
        ? Offer.nothing(situation.network().nodes().get(place).code(), basket.item(item).sku())
        : said;
  }

  private List<Trip> trips(Node node) {
    return trips.getOrDefault(node.code(), List.of());
  }

  /** What a node could do alone: all of it, at what cost; or what rules it out. */
  Finding alone(Node node) {
    RuledOut barred = barred(node);
    if (barred != null) {
      return new Finding.Out(barred, List.of());
    }
    int place = situation.network().place(node.code());
    List<String> missing = skus(i -> offer(place, i).available() < basket.demand(i));
    if (!missing.isEmpty()) {
      LocalDate soonest = soonest(trips(node)).orElse(node.today(situation.now()));
      return new Finding.Out(RuledOut.NO_STOCK, missing, expiring(place, missing, soonest));
    }
    List<String> fixed = skus(i -> !Source.mayTravel(basket.item(i), node, order));
    if (!fixed.isEmpty()) {
      return new Finding.Out(RuledOut.MAY_NOT_TRAVEL, fixed);
    }
    return byLane(node, place);
  }

  private Finding byLane(Node node, int place) {
    List<Trip> carrying =
        trips(node).stream()
            .filter(trip -> skus(i -> !carries(trip.lane(), basket.item(i))).isEmpty())
            .toList();
    if (carrying.isEmpty()) {
      return new Finding.Out(RuledOut.NO_LANE, List.of());
    }
    if (carrying.stream().noneMatch(trip -> perishing(place, trip.arrival()).isEmpty())) {
      LocalDate soonest = soonest(carrying).orElseThrow();
      List<String> perishing = perishing(place, soonest);
      return new Finding.Out(
          RuledOut.EXPIRES_TOO_SOON, perishing, expiring(place, perishing, soonest));
    }
    Source source = source(node, place);
    long[] all = new long[basket.size()];
    long[] demand = new long[basket.items()];
    for (int l = 0; l < all.length; l++) {
      all[l] = basket.quantity(l);
      demand[basket.itemOf(l)] += all[l];
    }
    if (source.ways().stream().noneMatch(way -> way.carries(demand))) {
      return new Finding.Out(RuledOut.TOO_LATE, List.of());
    }
    if (!situation.hasCapacity(node.code())) {
      return new Finding.Out(RuledOut.AT_CAPACITY, List.of());
    }
    return new Finding.Priced(source.consignment(all));
  }

  private @Nullable RuledOut barred(Node node) {
    String code = node.code();
    if (!order.from().serving().isEmpty() && !order.from().serving().contains(code)) {
      return RuledOut.NOT_SERVING;
    }
    if (order.from().pickUp() != null && !order.from().pickUp().equals(code)) {
      return RuledOut.COLLECTED_ELSEWHERE;
    }
    if (!rung.nodes().admits(node, order.to().country())) {
      return RuledOut.NOT_ON_RUNG;
    }
    if (order.from().excluded().contains(code)) {
      return RuledOut.EXCLUDED_BY_RULE;
    }
    if (situation.network().isPaused(code)) {
      return RuledOut.PAUSED;
    }
    return order.from().refused().contains(code) ? RuledOut.REFUSED : null;
  }

  private static boolean carries(Lane lane, Item item) {
    return lane.carries(item.hazard());
  }

  /** SKUs of which too few last long enough if they arrive on that day. */
  private List<String> perishing(int place, LocalDate arrival) {
    return skus(i -> offer(place, i).arrivingOn(arrival) < basket.demand(i));
  }

  /** Units of some items that are there, but would not last if they arrived on that day. */
  private long expiring(int place, List<String> skus, LocalDate arrival) {
    return IntStream.range(0, basket.items())
        .filter(i -> skus.contains(basket.item(i).sku()))
        .mapToLong(i -> offer(place, i).expiringBefore(arrival))
        .sum();
  }

  private static Optional<LocalDate> soonest(List<Trip> trips) {
    return trips.stream().map(Trip::arrival).min(LocalDate::compareTo);
  }

  private List<String> skus(IntPredicate which) {
    return IntStream.range(0, basket.items())
        .filter(which)
        .mapToObj(i -> basket.item(i).sku())
        .toList();
  }
}
