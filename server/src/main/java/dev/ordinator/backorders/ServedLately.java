package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.backorders.QueueStore.End;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Whom a queue has served in the last days. */
@Component
class ServedLately {
  private static final Duration LATELY = Duration.ofDays(14);
  private static final int MOST = 50;

  private final DSLContext db;
  private final Clock clock;

  ServedLately(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * @param units of the item that it had waited for
   */
  record Served(long orderId, String orderNumber, String buyer, long units, Instant at) {}

  /** The last one first. */
  List<Served> of(long itemId) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            BACKORDER.UNITS,
            BACKORDER.CLOSED_AT)
        .from(BACKORDER)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
        .where(BACKORDER.ITEM_ID.eq(itemId))
        .and(BACKORDER.CLOSED_HOW.eq(End.SERVED.name()))
        .and(BACKORDER.CLOSED_AT.gt(clock.instant().minus(LATELY)))
        .orderBy(BACKORDER.CLOSED_AT.desc(), BACKORDER.ID.desc())
        .limit(MOST)
        .fetch(r -> new Served(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
  }
}
