package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.SNAG;

import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.rates.RatesCame;
import org.jooq.DSLContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** When the rate that orders waited for has come, they go on. */
@Component
class Arrivals {
  private final DSLContext db;
  private final Snags snags;

  Arrivals(DSLContext db, Snags snags) {
    this.db = db;
    this.snags = snags;
  }

  /** Those whose rate is still not there come back with the same snag. */
  @EventListener
  void ratesCame(RatesCame came) {
    db.select(SNAG.SUBJECT)
        .from(SNAG)
        .where(SNAG.CAUSE.eq(SnagCause.NO_RATE.name()))
        .and(SNAG.CLOSED_AT.isNull())
        .fetch(SNAG.SUBJECT)
        .forEach(currency -> snags.close(SnagCause.NO_RATE, currency, came.actor()));
  }
}
