package dev.ordinator.returns;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.RefundNotice;
import dev.ordinator.channels.Connector.RefundSink;
import dev.ordinator.core.money.Money;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.writeback.Telling;
import org.springframework.stereotype.Component;

/** Tells a channel to pay a buyer back. With its yes the refund is settled. */
@Component
class RefundWriteBack implements Outbox.Delivery {
  private final Orders orders;
  private final Refunds refunds;
  private final RefundStore store;
  private final Telling telling;

  RefundWriteBack(Orders orders, Refunds refunds, RefundStore store, Telling telling) {
    this.orders = orders;
    this.refunds = refunds;
    this.store = store;
    this.telling = telling;
  }

  @Override
  public Outbox.Kind kind() {
    return Outbox.Kind.REFUND;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_CHANNEL;
  }

  @Override
  public String deliver(Outbox.Message message) {
    OrderHead order = orders.head(message.orderId());
    Channel channel = telling.channelOf(order);
    RefundCard refund = refunds.card(Long.parseLong(message.body()));
    Money amount = Money.of(refund.amount(), order.currency());
    return telling.tell(
        channel,
        RefundSink.class,
        sink -> {
          sink.pushRefund(
              channel,
              new RefundNotice(
                  message.onceKey(),
                  order.externalId(),
                  refund.reason(),
                  amount,
                  store.unitsOf(refund.id())));
          refunds.settle(refund.id(), channel.name(), "the channel has taken it on");
          return amount + " to be paid back, " + refund.reason();
        });
  }
}
