package dev.ordinator.routing;

import dev.ordinator.channels.Channels;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.Routing.Outlook;
import java.util.List;
import java.util.function.BiFunction;
import org.springframework.stereotype.Component;

/**
 * An order as if nothing of it had been sent to a node that has not begun to pack: it is taken back
 * for the look, in a transaction that is rolled back.
 */
@Component
class OpenAgain {
  private final Transactions transactions;
  private final Orders orders;
  private final Channels channels;
  private final Consignments consignments;
  private final Routing routing;

  OpenAgain(
      Transactions transactions,
      Orders orders,
      Channels channels,
      Consignments consignments,
      Routing routing) {
    this.transactions = transactions;
    this.orders = orders;
    this.channels = channels;
    this.consignments = consignments;
    this.routing = routing;
  }

  /**
   * @throws Problem if nothing of the order can be routed any more, or not yet
   */
  <T> T look(long orderId, BiFunction<OrderHead, Outlook, T> look) {
    return transactions.preview(() -> {
      OrderHead order = orders.lock(orderId);
      if (order.level() == null) {
        throw Problem.conflict(order.number() + " is stuck before it can be routed");
      }
      consignments.withdrawUnpacked(orderId, "preview", "");
      List<OrderLine> open = routing.open(orderId);
      if (open.isEmpty()) {
        throw Problem.conflict("all of it is being packed, has left, or was cancelled");
      }
      return look.apply(
          order, routing.outlook(order, open, channels.byId(order.channelId()).terms().nodes()));
    });
  }
}
