package dev.ordinator.connecting;

import static dev.ordinator.schema.Tables.CARRIER_WORD;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.COLUMN_MAPPING;
import static dev.ordinator.schema.Tables.EXCHANGE;
import static dev.ordinator.schema.Tables.FEED_HOLD;
import static dev.ordinator.schema.Tables.FEED_HOLD_LINE;
import static dev.ordinator.schema.Tables.HOOK;
import static dev.ordinator.schema.Tables.HOOK_DELIVERY;
import static dev.ordinator.schema.Tables.IDEMPOTENCY_KEY;
import static dev.ordinator.schema.Tables.INTAKE_FILE;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.MACHINE_TOKEN;
import static dev.ordinator.schema.Tables.ORDER_NUMBER;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.PRICE_RULE;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.schema.Tables.ROUTING_PAUSE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SERVICE_WORD;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.WAITING_LIST;
import static dev.ordinator.schema.Tables.WEBHOOK_SEEN;
import static org.jooq.impl.DSL.select;

import dev.ordinator.channels.Channels;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Table;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Removes a channel that was never used, with what was said of it. Where anything came in, or
 * anybody was told anything, the record must stay: such a channel is paused instead.
 */
@Component
class ChannelRemoval {
  /** What is kept for ever. */
  static final List<Table<?>> KEEPING =
      List.of(SALES_ORDER, INTAKE_FILE, REFUSED_MESSAGE, OUTBOX, SNAG);

  /** What is removed with it, each after what refers to it. */
  static final List<Table<?>> ITS_OWN =
      List.of(
          COLUMN_MAPPING,
          MACHINE_TOKEN,
          IDEMPOTENCY_KEY,
          HOOK,
          PRICE_RULE,
          ROUTING_PAUSE,
          ORDER_NUMBER,
          SERVICE_WORD,
          CARRIER_WORD,
          WEBHOOK_SEEN,
          EXCHANGE,
          FEED_HOLD,
          LISTING);

  private final DSLContext db;
  private final Channels channels;
  private final Events events;

  ChannelRemoval(DSLContext db, Channels channels, Events events) {
    this.db = db;
    this.channels = channels;
    this.events = events;
  }

  /**
   * @throws Problem if there is no such channel, or something came in by it
   */
  @Transactional
  public void remove(long id, String actor) {
    String name = channels.byId(id).name();
    db.select(CHANNEL.ID).from(CHANNEL).where(CHANNEL.ID.eq(id)).forUpdate().execute();
    for (Table<?> table : KEEPING) {
      if (db.fetchExists(table, of(table, id))) {
        throw Problem.conflict(
            "something came in by " + name + ", which stays on record; pause it instead");
      }
    }
    var hooks = select(HOOK.ID).from(HOOK).where(HOOK.CHANNEL_ID.eq(id));
    db.deleteFrom(HOOK_DELIVERY).where(HOOK_DELIVERY.HOOK_ID.in(hooks)).execute();
    var holds = select(FEED_HOLD.ID).from(FEED_HOLD).where(FEED_HOLD.CHANNEL_ID.eq(id));
    db.deleteFrom(FEED_HOLD_LINE).where(FEED_HOLD_LINE.FEED_HOLD_ID.in(holds)).execute();
    var listings = select(LISTING.ID).from(LISTING).where(LISTING.CHANNEL_ID.eq(id));
    db.deleteFrom(WAITING_LIST).where(WAITING_LIST.LISTING_ID.in(listings)).execute();
    for (Table<?> table : ITS_OWN) {
      db.deleteFrom(table).where(of(table, id)).execute();
    }
    db.deleteFrom(CHANNEL).where(CHANNEL.ID.eq(id)).execute();
    events.record(EventKind.CHANNEL_CHANGED, null, null, actor, name + " was removed", "");
  }

  private static Condition of(Table<?> table, long channel) {
    return Objects.requireNonNull(table.field("channel_id", Long.class), table.getName())
        .eq(channel);
  }
}
