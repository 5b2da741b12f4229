package dev.ordinator.writeback;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.CancellationNotice;
import dev.ordinator.channels.Connector.CancellationSink;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Tells a channel that units of an order will not come. */
@Component
public class CancellationWriteBack implements Outbox.Delivery {
  private final Orders orders;
  private final OutboxPosts outbox;
  private final Telling telling;
  private final JsonMapper json;

  CancellationWriteBack(Orders orders, OutboxPosts outbox, Telling telling, JsonMapper json) {
    this.orders = orders;
    this.outbox = outbox;
    this.telling = telling;
    this.json = json;
  }

  /**
   * @param lines units as the channel counts them, by its own line ids
   */
  record Cancelled(String reason, Map<String, Long> lines) {}

  /** Notes that the channel is to be told that all is cancelled; once per order. */
  public void note(OrderHead order, String reason, Map<String, Long> lines) {
    note(order, "", reason, lines);
  }

  /** Notes that the channel is to be told of a part; there may be several. */
  public void notePart(OrderHead order, String reason, Map<String, Long> lines) {
    note(order, ":" + UUID.randomUUID(), reason, lines);
  }

  private void note(OrderHead order, String which, String reason, Map<String, Long> lines) {
    outbox.post(
        kind(),
        order,
        null,
        kind() + ":" + order.number() + ":cancelled" + which,
        json.writeValueAsString(new Cancelled(reason, lines)));
  }

  @Override
  public Outbox.Kind kind() {
    return Outbox.Kind.CANCELLATION;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_CHANNEL;
  }

  @Override
  public String deliver(Outbox.Message message) {
    OrderHead order = orders.head(message.orderId());
    Channel channel = telling.channelOf(order);
    Cancelled cancelled = json.readValue(message.body(), Cancelled.class);
    return telling.tell(
        channel,
        CancellationSink.class,
        sink -> {
          sink.pushCancellation(
              channel,
              new CancellationNotice(
                  message.onceKey(), order.externalId(), cancelled.reason(), cancelled.lines()));
          return "cancelled, " + cancelled.reason();
        });
  }
}
