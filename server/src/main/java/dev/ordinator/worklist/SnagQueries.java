package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.orders.SnagCause;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record1;
import org.jooq.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Open snags with what each blocks. */
@Component
public class SnagQueries {
  private static final int MOST = 200;

  /** Of more than so many, the rest is weighed when some of them are settled. */
  private static final int WEIGHED = 500;

  private final DSLContext db;

  SnagQueries(DSLContext db) {
    this.db = db;
  }

  /**
   * An open snag.
   *
   * @param orders orders that wait for it, {@code value} theirs in minor units of {@code currency}
   * @param firstOrder one of them, to open
   */
  public record OpenSnag(
      long id,
      SnagCause cause,
      String title,
      String detail,
      Instant openedAt,
      long orders,
      long value,
      String currency,
      @Nullable Long channelId,
      @Nullable String channelName,
      @Nullable Long listingId,
      @Nullable Long itemId,
      @Nullable Long orderId,
      @Nullable Long refusedId,
      @Nullable Long outboxId) {}

  /** How many stand at a channel: a listing to match, or a message that was refused. */
  public int ofChannels() {
    return db.fetchCount(
        SNAG,
        SNAG.CLOSED_AT.isNull().and(SNAG.LISTING_ID.isNotNull().or(SNAG.REFUSED_ID.isNotNull())));
  }

  /** How many there are, of whatever cause. */
  public int openInAll() {
    return db.fetchCount(SNAG, SNAG.CLOSED_AT.isNull());
  }

  /** Dearest first, of those that have been open longest. */
  public List<OpenSnag> open(String baseCurrency) {
    List<Long> longest =
        db.select(SNAG.ID)
            .from(SNAG)
            .where(SNAG.CLOSED_AT.isNull())
            .orderBy(SNAG.ID)
            .limit(WEIGHED)
            .fetch(SNAG.ID);
    var value = coalesce(sum(SALES_ORDER.BASE_TOTAL), val(BigDecimal.ZERO)).as("value");
    return db.select(
            SNAG.ID,
            SNAG.CAUSE,
            SNAG.TITLE,
            SNAG.DETAIL,
            SNAG.OPENED_AT,
            count(SALES_ORDER.ID).as("orders"),
            value,
            SNAG.CHANNEL_ID,
            CHANNEL.NAME,
            SNAG.LISTING_ID,
            SNAG.ITEM_ID,
            SNAG.ORDER_ID,
            SNAG.REFUSED_ID,
            SNAG.OUTBOX_ID)
        .from(SNAG)
        .leftJoin(CHANNEL)
        .on(CHANNEL.ID.eq(SNAG.CHANNEL_ID))
        .leftJoin(SNAG_ORDER)
        .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
        .leftJoin(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(SNAG_ORDER.ORDER_ID))
        .where(SNAG.ID.in(longest))
        .groupBy(SNAG.ID)
        .orderBy(value.desc(), SNAG.ID)
        .limit(MOST)
        .fetch(r ->
            new OpenSnag(
                r.get(SNAG.ID),
                SnagCause.valueOf(r.get(SNAG.CAUSE)),
                r.get(SNAG.TITLE),
                r.get(SNAG.DETAIL),
                r.get(SNAG.OPENED_AT),
                r.get("orders", Long.class),
                r.get(value).longValueExact(),
                baseCurrency,
                r.get(SNAG.CHANNEL_ID),
                r.get(CHANNEL.NAME),
                r.get(SNAG.LISTING_ID),
                r.get(SNAG.ITEM_ID),
                r.get(SNAG.ORDER_ID),
                r.get(SNAG.REFUSED_ID),
                r.get(SNAG.OUTBOX_ID)));
  }

  static Select<Record1<Long>> ordersOf(long snag) {
    return select(SNAG_ORDER.ORDER_ID).from(SNAG_ORDER).where(SNAG_ORDER.SNAG_ID.eq(snag));
  }
}
