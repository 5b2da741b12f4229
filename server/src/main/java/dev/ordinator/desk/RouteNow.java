package dev.ordinator.desk;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.Routing;
import dev.ordinator.stock.StockLedger;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Routes an order whose turn it is, wherever it waits, in a transaction of its own. */
@Component
public class RouteNow {
  private static final int TRIES = 5;
  private static final Logger LOG = LoggerFactory.getLogger(RouteNow.class);

  private final Orders orders;
  private final RouteStep routing;
  private final Transactions transactions;

  RouteNow(Orders orders, RouteStep routing, Transactions transactions) {
    this.orders = orders;
    this.routing = routing;
    this.transactions = transactions;
  }

  /** What came of an order whose turn it was. */
  public enum Turn {
    /** It is on its way now, or some of it. */
    SENT,
    /** There is not enough for it, or no way there. */
    STUCK,
    /** Its channel is not routed now, or it is held: its turn comes later. */
    LATER
  }

  /** Routes an order; one that somebody was faster than, or that is held, has its turn later. */
  public Turn route(long id) {
    for (int attempt = 1; ; attempt++) {
      try {
        return transactions.get(() -> {
          OrderHead order = orders.lock(id);
          return order.stage() == Stage.APPROVED && !order.held()
              ? routing.fromQueue(order)
              : Turn.LATER;
        });
      } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile faster) {
        if (attempt == TRIES) {
          return Turn.LATER;
        }
      } catch (RuntimeException e) {
        LOG.error("routing order {} failed; it keeps its place", id, e);
        return Turn.STUCK;
      }
    }
  }
}
