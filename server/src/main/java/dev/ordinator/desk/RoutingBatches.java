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
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
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
  private static final int ROUNDS = 20;
  private static final Logger LOG = LoggerFactory.getLogger(RoutingBatches.class);

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
    SortedMap<Integer, List<Long>> before = new TreeMap<>();
    for (int round = 0; round < ROUNDS; round++) {
      SortedMap<Integer, List<Long>> waiting = times.waiting(channel, MOST);
      if (waiting.equals(before)) {
        return; // nobody is left, or who is waits for the next batch
      }
      waiting.values().forEach(this::routeClass);
      before = waiting;
    }
  }

  private void routeClass(List<Long> ids) {
    Batch batch = decided(ids);
    int others = batch.decided().size() - 1;
    batch.decided().forEach(d -> tried(d.order().id(), order -> carryOut(d, order, others)));
    batch.alone().forEach(id -> tried(id, step::alone));
  }

  /** If they can't be decided together, one by one: then one that fails spoils no other. */
  private Batch decided(List<Long> ids) {
    try {
      return routing.decide(ids);
    } catch (RuntimeException e) {
      LOG.error("{} orders could not be decided together", ids.size(), e);
      return new Batch(List.of(), ids, 0, 0);
    }
  }

  private void carryOut(Decided decided, OrderHead order, int others) {
    routing
        .carryOut(decided, order, others, ROUTER)
        // alone it says why, or has what was left after all
        .ifPresentOrElse(result -> step.done(order, result), () -> step.alone(order));
  }

  /** Leaves the order waiting if it lost a race. */
  private void tried(long id, Consumer<OrderHead> what) {
    try {
      transactions.run(() -> {
        OrderHead order = orders.lock(id);
        if (!orders.awaitsBatch(id)) {
          return;
        }
        if (order.held()) {
          orders.setNext(id, null);
        } else {
          what.accept(order);
        }
      });
    } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile faster) {
      // decided anew in the next round, on what there is then
    } catch (RuntimeException e) {
      LOG.error("routing order {} failed; tried again with the next batch", id, e);
    }
  }
}
