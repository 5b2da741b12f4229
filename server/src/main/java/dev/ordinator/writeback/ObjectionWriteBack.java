package dev.ordinator.writeback;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.Asked;
import dev.ordinator.channels.Connector.ObjectionNotice;
import dev.ordinator.channels.Connector.ObjectionSink;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import java.util.UUID;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Tells a channel that a change or a cancellation that it asked for is not followed. */
@Component
public class ObjectionWriteBack implements Outbox.Delivery {
  private final Orders orders;
  private final OutboxPosts outbox;
  private final Telling telling;
  private final JsonMapper json;

  ObjectionWriteBack(Orders orders, OutboxPosts outbox, Telling telling, JsonMapper json) {
    this.orders = orders;
    this.outbox = outbox;
    this.telling = telling;
    this.json = json;
  }

  record Objection(Asked about, String reason) {}

  /** Notes that the channel is to be told; each decision is told. */
  public void note(OrderHead order, Asked about, String reason) {
    outbox.post(
        kind(),
        order,
        null,
        kind() + ":" + order.number() + ":" + UUID.randomUUID(),
        json.writeValueAsString(new Objection(about, reason)));
  }

  @Override
  public Outbox.Kind kind() {
    return Outbox.Kind.OBJECTION;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_CHANNEL;
  }

  @Override
  public String deliver(Outbox.Message message) {
    OrderHead order = orders.head(message.orderId());
    Channel channel = telling.channelOf(order);
    Objection objection = json.readValue(message.body(), Objection.class);
    return telling.tell(
        channel,
        ObjectionSink.class,
        sink -> {
          sink.pushObjection(
              channel,
              new ObjectionNotice(
                  message.onceKey(), order.externalId(), objection.about(), objection.reason()));
          return objection.reason();
        });
  }
}
