package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Service;

/**
 * How often people sent orders elsewhere than the router had, by the reason they gave: what is
 * overruled again and again is for the rulebook.
 */
@Service
class Overrides {
  private static final int MOST = 50;

  private final DSLContext db;
  private final Clock clock;

  Overrides(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * @param orderId the latest order that was sent elsewhere for it, with who did it and when
   */
  record Counted(String reason, long times, long orderId, String number, String by, Instant at) {}

  /** The most frequent reason first; reasons that differ only in case are the same. */
  List<Counted> since(Duration back) {
    var times = DSL.count();
    var latest = DSL.max(DECISION.ID);
    var byReason =
        DSL.select(times.as("times"), latest.as("latest"))
            .from(DECISION)
            .where(DECISION.OVERRIDE_REASON.isNotNull())
            .and(DECISION.AT.ge(clock.instant().minus(back)))
            .groupBy(DECISION.OVERRIDE_REASON)
            .orderBy(times.desc(), latest.desc())
            .limit(MOST)
            .asTable("by_reason");
    var counted = DSL.field(DSL.name("by_reason", "times"), Long.class);
    var last = DSL.field(DSL.name("by_reason", "latest"), Long.class);
    return db.select(
            DECISION.OVERRIDE_REASON,
            counted,
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            DECISION.ACTOR,
            DECISION.AT)
        .from(byReason)
        .join(DECISION)
        .on(DECISION.ID.eq(last))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(DECISION.ORDER_ID))
        .orderBy(counted.desc(), last.desc())
        .fetch(r ->
            new Counted(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }
}
