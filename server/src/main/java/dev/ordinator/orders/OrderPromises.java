package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.PROMISE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * When orders arrive: what buyers were told, and what is to be expected as things stand. The first
 * date that is known is the promise; it stays, whatever happens, until somebody renews it.
 */
@Component
public class OrderPromises {
  private final DSLContext db;
  private final Events events;
  private final Clock clock;

  OrderPromises(DSLContext db, Events events, Clock clock) {
    this.db = db;
    this.events = events;
    this.clock = clock;
  }

  /** Why a date was promised. */
  public enum Why {
    /** Nodes send it. */
    ROUTED,
    /** It waits, and what it waits for is expected. */
    WAITS,
    /** The one before could not be kept. */
    RENEWED
  }

  /** A date that was promised, and when. */
  public record Given(LocalDate arrivesOn, Why why, String actor, Instant at) {}

  /** Last one first. */
  public List<Given> of(long orderId) {
    return db.select(PROMISE.ARRIVES_ON, PROMISE.WHY, PROMISE.ACTOR, PROMISE.AT)
        .from(PROMISE)
        .where(PROMISE.ORDER_ID.eq(orderId))
        .orderBy(PROMISE.ID.desc())
        .fetch(r -> new Given(r.value1(), Why.valueOf(r.value2()), r.value3(), r.value4()));
  }

  /**
   * Notes when an order arrives as things stand; if nothing was promised yet, that is promised.
   *
   * @param on null: nobody can say
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void expect(long orderId, @Nullable LocalDate on, Why why, String actor) {
    var before =
        db.select(SALES_ORDER.PROMISED_ON, SALES_ORDER.EXPECTED_ON)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(orderId))
            .fetchSingle();
    if (!Objects.equals(before.value2(), on)) {
      db.update(SALES_ORDER)
          .set(SALES_ORDER.EXPECTED_ON, on)
          .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
          .where(SALES_ORDER.ID.eq(orderId))
          .execute();
      LocalDate promised = before.value1();
      if (promised != null && (on == null || on.isAfter(promised))) {
        events.record(
            EventKind.WAITING,
            orderId,
            null,
            actor,
            "The promise breaks: "
                + (on == null ? "nobody can say when it arrives" : "arrives " + Texts.day(on)),
            "promised " + Texts.day(promised));
      }
    }
    if (before.value1() == null && on != null) {
      promise(orderId, on, why, actor);
    }
  }

  /** Another date is promised instead. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void renew(long orderId, LocalDate on, String actor) {
    promise(orderId, on, Why.RENEWED, actor);
  }

  private void promise(long orderId, LocalDate on, Why why, String actor) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.PROMISED_ON, on)
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
    db.insertInto(PROMISE)
        .set(PROMISE.ORDER_ID, orderId)
        .set(PROMISE.ARRIVES_ON, on)
        .set(PROMISE.WHY, why.name())
        .set(PROMISE.ACTOR, actor)
        .set(PROMISE.AT, clock.instant())
        .execute();
  }
}
