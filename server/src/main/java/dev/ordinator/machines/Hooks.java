package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.HOOK;
import static dev.ordinator.schema.Tables.HOOK_DELIVERY;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Events.Happened;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import tools.jackson.databind.json.JsonMapper;

/**
 * What machines are told by webhook. A message is written down in the transaction of what it tells
 * of, one for each webhook that wants its kind, and delivered afterwards.
 */
@Service
class Hooks {
  private final DSLContext db;
  private final Channels channels;
  private final Orders orders;
  private final OrderStates states;
  private final JsonMapper json;
  private final Clock clock;

  Hooks(
      DSLContext db,
      Channels channels,
      Orders orders,
      OrderStates states,
      JsonMapper json,
      Clock clock) {
    this.db = db;
    this.channels = channels;
    this.orders = orders;
    this.states = states;
    this.json = json;
    this.clock = clock;
  }

  /** What a message tells of. */
  enum Kind {
    ORDER_SHIPPED,
    ORDER_DELIVERED,
    ORDER_CANCELLED,
    ORDER_REFUNDED,
    STOCK_CHANGED;

    /** As messages write it: order.shipped. */
    String type() {
      return name().toLowerCase(Locale.ROOT).replace('_', '.');
    }

    static Set<Kind> of(String words) {
      return Arrays.stream(words.split(" ", -1)).map(Kind::valueOf).collect(Collectors.toSet());
    }
  }

  /** When the transaction is about to be committed, so that all of what it changed is told. */
  @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT)
  void tellOf(Happened happened) {
    Kind kind =
        switch (happened.kind()) {
          case HANDED_OVER -> Kind.ORDER_SHIPPED;
          case DELIVERED -> Kind.ORDER_DELIVERED;
          case CANCELLED -> Kind.ORDER_CANCELLED;
          // who comes to us holds the payment, and is told to pay back
          case REFUND_ASKED -> Kind.ORDER_REFUNDED;
          default -> null;
        };
    if (kind == null) {
      return;
    }
    OrderHead order = orders.head(happened.orderId());
    Channel channel = channels.byId(order.channelId());
    if (channel.kind() == ChannelKind.MACHINE && channel.writesBack()) {
      tell(channel.id(), kind, order.id(), Map.of("order", states.of(order)));
    }
  }

  /** Writes a message down for each webhook of the channel that wants its kind. */
  void tell(long channelId, Kind kind, @Nullable Long orderId, Map<String, Object> data) {
    Instant now = clock.instant();
    Map<String, Object> message = new LinkedHashMap<>();
    message.put("type", kind.type());
    message.put("timestamp", now.toString());
    message.put("data", data);
    String body = json.writeValueAsString(message);
    db
        .select(HOOK.ID, HOOK.KINDS)
        .from(HOOK)
        .where(HOOK.CHANNEL_ID.eq(channelId))
        .and(HOOK.ACTIVE.isTrue())
        .fetch()
        .stream()
        .filter(hook -> Kind.of(hook.value2()).contains(kind))
        .forEach(hook ->
            db.insertInto(HOOK_DELIVERY)
                .set(HOOK_DELIVERY.HOOK_ID, hook.value1())
                .set(
                    HOOK_DELIVERY.MESSAGE_ID,
                    "msg_" + UUID.randomUUID().toString().replace("-", ""))
                .set(HOOK_DELIVERY.KIND, kind.name())
                .set(HOOK_DELIVERY.ORDER_ID, orderId)
                .set(HOOK_DELIVERY.BODY, body)
                .set(HOOK_DELIVERY.STATE, "PENDING")
                .set(HOOK_DELIVERY.DUE_AT, now)
                .set(HOOK_DELIVERY.CREATED_AT, now)
                .execute());
  }
}
