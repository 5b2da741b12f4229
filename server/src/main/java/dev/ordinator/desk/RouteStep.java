package dev.ordinator.desk;

import dev.ordinator.channels.Channels;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.orders.Step;
import dev.ordinator.routing.Routing;
import dev.ordinator.routing.RoutingPauses;
import dev.ordinator.routing.RoutingTimes;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.StockedItem;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Routes an order, or says why that can't be yet; all in the caller's transaction. */
@Component
class RouteStep {
  private static final String ROUTER = "router";
  private static final Duration FULL_PAUSE = Duration.ofMinutes(10);

  /** The end of a pause wakes what it stopped; this is for what that missed. */
  private static final Duration STOPPED_PAUSE = Duration.ofMinutes(10);

  private static final Duration SECOND_LOOK = Duration.ofSeconds(2);
  private static final List<SnagCause> UNROUTED =
      List.of(SnagCause.NO_STOCK, SnagCause.NO_ROUTE, SnagCause.NODES_FULL);

  private final Orders orders;
  private final Snags snags;
  private final Channels channels;
  private final Items items;
  private final Routing routing;
  private final RoutingPauses pauses;
  private final RoutingTimes times;
  private final RuleDesk rules;
  private final Clock clock;

  RouteStep(
      Orders orders,
      Snags snags,
      Channels channels,
      Items items,
      Routing routing,
      RoutingPauses pauses,
      RoutingTimes times,
      RuleDesk rules,
      Clock clock) {
    this.orders = orders;
    this.snags = snags;
    this.channels = channels;
    this.items = items;
    this.routing = routing;
    this.pauses = pauses;
    this.times = times;
    this.rules = rules;
    this.clock = clock;
  }

  /** An order's turn has come: it is routed now, or with others of its channel later. */
  void step(OrderHead order) {
    if (order.held()) {
      orders.setNext(order.id(), null);
    } else if (pauses.stop(order.channelId())) {
      orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(STOPPED_PAUSE));
    } else if (times.inBatches(order.channelId())) {
      orders.awaitBatch(order.id());
    } else {
      alone(order);
    }
  }

  /** Routes an order by itself. */
  void alone(OrderHead order) {
    Set<String> serving = channels.byId(order.channelId()).terms().nodes();
    done(order, routing.route(order, serving, ROUTER));
  }

  /** What comes next, by how routing an order ended. */
  void done(OrderHead order, Routing.Result result) {
    switch (result) {
      case Routing.Result.Routed() -> {
        orders.setWaiting(order.id(), false);
        snags.leave(order.id(), UNROUTED);
        routed(order);
      }
      case Routing.Result.Partly(Set<Long> itemIds) -> {
        snags.leave(order.id(), UNROUTED);
        orders.setWaiting(order.id(), true);
        items.byId(itemIds).byId().values().forEach(item -> shortOf(item, order));
        routed(order);
        shortOnce(order);
      }
      case Routing.Result.Short(Set<Long> itemIds) -> {
        // it may have been short of something else before
        snags.leave(order.id(), UNROUTED);
        orders.setWaiting(order.id(), true);
        rest(order, Step.ROUTE);
        items.byId(itemIds).byId().values().forEach(item -> shortOf(item, order));
        shortOnce(order);
      }
      case Routing.Result.Full() -> {
        orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(FULL_PAUSE));
        snag(
            Snags.About.of(
                SnagCause.NODES_FULL,
                "all",
                "Every node that could is full",
                "tried again every ten minutes; a node’s next day opens at its cut-off"),
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

  private void routed(OrderHead order) {
    orders.setNext(order.id(), Step.RELEASE);
    rules.apply(order.id(), RuleEvent.ROUTED);
  }

  /** What was left of an order that is released in part is looked at once more, and then waits. */
  void lookAtRest(OrderHead order) {
    if (order.snagged() && !routing.isWhole(order.id())) {
      orders.setNextAt(order.id(), Step.ROUTE, clock.instant().plus(SECOND_LOOK));
    }
  }

  /** Rules look when it is found short, not at every look that follows. */
  private void shortOnce(OrderHead order) {
    if (!order.snagged()) {
      rules.apply(order.id(), RuleEvent.SHORT);
    }
  }

  /**
   * An order waits for what a step found missing. That may have come between the look and the snag,
   * and then nobody would wake it: it is looked at once more.
   */
  void rest(OrderHead order, Step step) {
    if (order.snagged()) {
      orders.setNext(order.id(), null);
    } else {
      orders.setNextAt(order.id(), step, clock.instant().plus(SECOND_LOOK));
    }
  }

  private void shortOf(StockedItem item, OrderHead order) {
    snag(
        Snags.About.of(
                SnagCause.NO_STOCK,
                item.id(),
                item.name(),
                item.item().sku() + ": no node has enough for these orders")
            .item(item.id()),
        order);
  }

  private void snag(Snags.About about, OrderHead order) {
    snags.open(about, order.id(), OrderDesk.DESK);
  }
}
