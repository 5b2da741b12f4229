package dev.ordinator.desk;

import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.routing.BatchRouting;
import dev.ordinator.routing.BatchRouting.Batch;
import dev.ordinator.routing.BatchRouting.Decided;
import dev.ordinator.routing.Routing;
import dev.ordinator.routing.RoutingPauses;
import dev.ordinator.routing.RoutingTimes;
import dev.ordinator.stock.StockLedger;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;

/**
 * Routes the orders that wait for their channel's batch: one priority class after the other, each
 * order in a transaction of its own on what was decided for all of its class. Whom somebody else
 * was faster than is decided anew with those who are in the same case.
 */
@Service
class RoutingBatches {
  private static final String ROUTER = "router";
  private static final int MOST = 1_000;
  private static final int ROUNDS = 5;

  private final RoutingTimes times;
  private final RoutingPauses pauses;
  private final BatchRouting routing;
  private final RouteStep step;
  private final Orders orders;
  private final Transactions transactions;

  RoutingBatches(
      RoutingTimes times,
      RoutingPauses pauses,
      BatchRouting routing,
      RouteStep step,
      Orders orders,
      Transactions transactions,
      WorkLoops loops) {
    this.times = times;
    this.pauses = pauses;
    this.routing = routing;
    this.step = step;
    this.orders = orders;
    this.transactions = transactions;
    loops.add("routing-batches", this::workOnOne);
  }

  boolean workOnOne() {
    Optional<Long> channel = transactions.get(times::claimDue);
    channel.filter(c -> !pauses.stop(c)).ifPresent(this::route);
    return channel.isPresent();
  }

  private void route(long channel) {
    int left = Integer.MAX_VALUE;
    for (int round = 0; round < ROUNDS; round++) {
      var waiting = times.waiting(channel, MOST);
      int now = waiting.values().stream().mapToInt(List::size).sum();
      if (now == 0 || now == left) {
        return; // what is left waits for the next batch
      }
      left = now;
      waiting.values().forEach(this::routeClass);
    }
  }

  private void routeClass(List<Long> ids) {
    Batch batch = routing.decide(ids);
    int others = batch.decided().size() - 1;
    batch.decided().forEach(d -> tried(d.order().id(), () -> carryOut(d, others)));
    batch.alone().forEach(id -> tried(id, () -> step.alone(orders.lock(id))));
  }

  private void carryOut(Decided decided, int others) {
    OrderHead order = orders.lock(decided.order().id());
    if (routing.carryOut(decided, order, others, ROUTER)) {
      step.routed(order);
    } else {
      // says why, or has what was left after all
      step.alone(order);
    }
  }

  /** Leaves the order waiting if it lost a race. */
  private void tried(long id, Runnable what) {
    try {
      transactions.run(() -> {
        OrderHead order = orders.lock(id);
        if (!orders.awaitsBatch(id)) {
          return;
        }
        if (order.held()) {
          orders.setNext(id, null);
        } else {
          what.run();
        }
      });
    } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile faster) {
      // decided anew in the next round, on what there is then
    }
  }
}
