package dev.ordinator.desk;

import dev.ordinator.backorders.Backorders;
import dev.ordinator.channels.Channels;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.desk.RouteNow.Turn;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Refusals;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderPromises;
import dev.ordinator.orders.OrderPromises.Why;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.Routing;
import dev.ordinator.routing.Routing.Shortage;
import dev.ordinator.routing.RoutingPauses;
import dev.ordinator.routing.RoutingTimes;
import dev.ordinator.stock.OrderEarmarks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Routes an order, or says why that can't be yet; all in the caller's transaction. */
@Component
class RouteStep {
  private static final String ROUTER = "router";
  private static final Duration FULL_PAUSE = Duration.ofMinutes(10);

  /** The end of a pause wakes what it stopped; this is for what that missed. */
  private static final Duration STOPPED_PAUSE = Duration.ofMinutes(10);

  private static final List<SnagCause> NO_WAY =
      List.of(SnagCause.NO_ROUTE, SnagCause.NODES_FULL, SnagCause.NOT_TO_WAIT);

  private final Orders orders;
  private final Snags snags;
  private final Channels channels;
  private final Backorders backorders;
  private final Consignments consignments;
  private final OrderPromises promises;
  private final OrderEarmarks earmarks;
  private final Routing routing;
  private final Refusals refusals;
  private final RoutingPauses pauses;
  private final RoutingTimes times;
  private final WhenShort whenShort;
  private final RuleDesk rules;
  private final OrdinatorSettings settings;
  private final Clock clock;

  RouteStep(
      Orders orders,
      Snags snags,
      Channels channels,
      Backorders backorders,
      Consignments consignments,
      OrderPromises promises,
      OrderEarmarks earmarks,
      Routing routing,
      Refusals refusals,
      RoutingPauses pauses,
      RoutingTimes times,
      WhenShort whenShort,
      RuleDesk rules,
      OrdinatorSettings settings,
      Clock clock) {
    this.orders = orders;
    this.snags = snags;
    this.channels = channels;
    this.backorders = backorders;
    this.consignments = consignments;
    this.promises = promises;
    this.earmarks = earmarks;
    this.routing = routing;
    this.refusals = refusals;
    this.pauses = pauses;
    this.times = times;
    this.whenShort = whenShort;
    this.rules = rules;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * An order's turn has come: it is routed now, or with others of its channel later. One that waits
   * for stock has its turn in the queue.
   */
  void step(OrderHead order) {
    if (order.held()) {
      orders.setNext(order.id(), null);
    } else if (order.waiting()) {
      orders.setNext(order.id(), null);
      backorders.tryAgain(order.id());
    } else if (pauses.stop(order.channelId())) {
      orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(STOPPED_PAUSE));
    } else if (times.inBatches(order.channelId())) {
      orders.awaitBatch(order.id());
    } else {
      alone(order);
    }
  }

  /** What an order waits for is there. */
  Turn fromQueue(OrderHead order) {
    if (pauses.stop(order.channelId())) {
      // the end of the pause wakes it, and it asks for its turn again
      orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(STOPPED_PAUSE));
      return Turn.LATER;
    }
    Routing.Result result = route(order);
    boolean sent =
        result instanceof Routing.Result.Routed || result instanceof Routing.Result.Partly;
    return sent ? Turn.SENT : Turn.STUCK;
  }

  /** Routes an order by itself. */
  void alone(OrderHead order) {
    route(order);
  }

  private Routing.Result route(OrderHead order) {
    Set<String> serving = channels.byId(order.channelId()).terms().nodes();
    Routing.Result result = routing.route(order, serving, ROUTER);
    done(order, result);
    return result;
  }

  /** What comes next, by how routing an order ended. */
  void done(OrderHead order, Routing.Result result) {
    snags.leave(order.id(), NO_WAY);
    switch (result) {
      case Routing.Result.Routed() -> {
        backorders.served(order.id());
        earmarks.endOf(order.id(), ROUTER);
        promises.expect(order.id(), consignments.arrival(order.id()), Why.ROUTED, ROUTER);
        routed(order);
      }
      case Routing.Result.Partly(List<Shortage> missing) -> {
        routed(order);
        whenShort.decide(order, missing);
      }
      case Routing.Result.Short(List<Shortage> missing) -> {
        orders.setNext(order.id(), null);
        whenShort.decide(order, missing);
      }
      case Routing.Result.Full() -> {
        orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(FULL_PAUSE));
        snag(
            Snags.About.of(
                SnagCause.NODES_FULL,
                "all",
                "Every node that could is full",
                "for two weeks to come; tried again every ten minutes, and when one gets more places"),
            order);
      }
      case Routing.Result.Refused() -> {
        // who had no time today may have some tomorrow
        orders.setNextAt(order.id(), Step.ROUTE, tomorrow());
        String who =
            refusals.of(order.id()).stream()
                .filter(Refusals.Card::stands)
                .map(Refusals.Card::words)
                .distinct()
                .collect(Collectors.joining("; "));
        snag(
            Snags.About.of(
                    SnagCause.NO_ROUTE,
                    order.id(),
                    order.number() + " to " + order.shipTo().country(),
                    "refused by " + who + "; in “Why here” they can be asked again")
                .order(order.id()),
            order);
      }
      case Routing.Result.NoWay() -> {
        orders.setNext(order.id(), null);
        snag(
            Snags.About.of(
                    SnagCause.NO_ROUTE,
                    order.id(),
                    order.number() + " to " + order.shipTo().country(),
                    "no node can send it there as asked; see “Why here”")
                .order(order.id()),
            order);
      }
    }
  }

  private Instant tomorrow() {
    ZoneId zone = settings.timeZone();
    return LocalDate.ofInstant(clock.instant(), zone).plusDays(1).atStartOfDay(zone).toInstant();
  }

  private void routed(OrderHead order) {
    orders.setNext(order.id(), Step.RELEASE);
    rules.apply(order.id(), RuleEvent.ROUTED);
  }

  private void snag(Snags.About about, OrderHead order) {
    snags.open(about, order.id(), OrderDesk.DESK);
  }
}
