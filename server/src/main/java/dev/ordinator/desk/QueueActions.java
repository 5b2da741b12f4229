package dev.ordinator.desk;

import dev.ordinator.backorders.Lacking;
import dev.ordinator.backorders.Substitution;
import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.desk.RouteNow.Turn;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.RoutingWishes;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.Routing;
import dev.ordinator.stock.StockLedger;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** What people do to orders that wait, many at once; each is seen before it is done. */
@Service
class QueueActions {
  private final Transactions transactions;
  private final Orders orders;
  private final RouteStep routing;
  private final Routing routes;
  private final Lacking lacking;
  private final Substitution substitution;
  private final Cancellations cancellations;
  private final RoutingWishes wishes;
  private final Snags snags;
  private final Events events;

  QueueActions(
      Transactions transactions,
      Orders orders,
      RouteStep routing,
      Routing routes,
      Lacking lacking,
      Substitution substitution,
      Cancellations cancellations,
      RoutingWishes wishes,
      Snags snags,
      Events events) {
    this.transactions = transactions;
    this.orders = orders;
    this.routing = routing;
    this.routes = routes;
    this.lacking = lacking;
    this.substitution = substitution;
    this.cancellations = cancellations;
    this.wishes = wishes;
    this.snags = snags;
    this.events = events;
  }

  enum Action {
    /** Sends it now, whoever is in front. */
    RELEASE,
    /** What is there is sent, the rest waits. */
    IN_PART,
    /** It waits until all of it is there. */
    WHOLE,
    /** What it lacks is cancelled, and the channel told. */
    CANCEL,
    /** Something else is sent instead of what it lacks. */
    REPLACE
  }

  /**
   * What an action does, or would do.
   *
   * @param done false: it can't be done, and {@code what} says why
   */
  record Effect(long orderId, String orderNumber, String buyer, boolean done, String what) {}

  List<Effect> preview(Set<Long> orderIds, Action action, String actor) {
    return each(orderIds, action, actor, transactions::preview);
  }

  List<Effect> carryOut(Set<Long> orderIds, Action action, String actor) {
    return each(orderIds, action, actor, transactions::get);
  }

  /** How one order's change is made: it stays, or is only looked at. */
  private interface Way {
    String of(Supplier<String> change);
  }

  private List<Effect> each(Set<Long> orderIds, Action action, String actor, Way way) {
    List<Effect> effects = new ArrayList<>();
    for (long id : orderIds) {
      OrderHead head = orders.head(id);
      boolean done = true;
      String what;
      try {
        what = way.of(() -> act(orders.lock(id), action, actor));
      } catch (Problem why) {
        done = false;
        what = Texts.of(why);
      } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile faster) {
        done = false;
        what = "another order was faster; look again";
      }
      effects.add(new Effect(id, head.number(), head.buyerName(), done, what));
    }
    return effects;
  }

  private String act(OrderHead order, Action action, String actor) {
    if (!order.waiting()) {
      throw Problem.conflict("it does not wait any more");
    }
    return switch (action) {
      case RELEASE -> release(order, actor);
      case IN_PART -> {
        goes(order, true, actor);
        yield routing.fromQueue(order) == Turn.SENT
            ? "what is there is sent, the rest waits"
            : "nothing of it is there yet; what comes is sent";
      }
      case WHOLE -> {
        goes(order, false, actor);
        yield "waits until all of it is there";
      }
      case CANCEL -> cancel(order, actor);
      case REPLACE -> {
        String instead = String.join(", ", substitution.offered(order.id()));
        substitution.replace(order, actor);
        yield instead;
      }
    };
  }

  private String release(OrderHead order, String actor) {
    if (order.held()) {
      throw Problem.conflict("it is held");
    }
    switch (routing.fromQueue(order)) {
      case SENT -> {}
      case STUCK -> throw Problem.conflict("there is not enough for it now");
      case LATER -> throw Problem.conflict("orders of its channel are not routed now");
    }
    events.record(EventKind.WAITING, order.id(), actor, "Sent before its turn");
    return routes.isWhole(order.id()) ? "all of it is sent" : "some of it is sent, the rest waits";
  }

  private void goes(OrderHead order, boolean inPart, String actor) {
    wishes.add(
        order.id(),
        Optional.empty(),
        Optional.empty(),
        new RoutingWishes.Short(Optional.empty(), Optional.of(inPart), Optional.empty()),
        Set.of(),
        Set.of());
    events.record(
        EventKind.WAITING,
        order.id(),
        actor,
        inPart ? "May go in part" : "Waits until it is whole");
    orders.wake(List.of(order.id()));
  }

  /** An order may wait for what is short, whatever its channel says. */
  void letWait(long id, String actor) {
    transactions.run(() -> {
      orders.lock(id);
      wishes.add(
          id,
          Optional.empty(),
          Optional.empty(),
          new RoutingWishes.Short(Optional.of(true), Optional.empty(), Optional.empty()),
          Set.of(),
          Set.of());
      events.record(EventKind.WAITING, id, actor, "May wait for what is short");
      snags.close(SnagCause.NOT_TO_WAIT, id, actor);
      orders.wake(List.of(id));
    });
  }

  private String cancel(OrderHead order, String actor) {
    Map<Long, Long> units = lacking.units(order.id(), Set.of());
    if (units.isEmpty()) {
      throw Problem.conflict("it lacks nothing any more");
    }
    String what =
        orders.lines(order.id()).stream()
            .filter(line -> units.containsKey(line.id()))
            .map((OrderLine line) -> units.get(line.id()) + " × " + line.title())
            .collect(Collectors.joining(", "));
    cancellations.part(order, units, "it is short", actor);
    return "cancels " + what;
  }
}
