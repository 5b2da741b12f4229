package dev.ordinator.platform;

import static dev.ordinator.schema.Tables.EVENT;

import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** The append-only record of what happened, written in the transaction of what it tells of. */
@Component
public class Events {
  private final DSLContext db;
  private final Clock clock;
  private final ApplicationEventPublisher listeners;

  Events(DSLContext db, Clock clock, ApplicationEventPublisher listeners) {
    this.db = db;
    this.clock = clock;
    this.listeners = listeners;
  }

  /** Something happened to an order, in the transaction that is under way. */
  public record Happened(EventKind kind, long orderId) {}

  /**
   * One line of an order's timeline.
   *
   * @param actor who or what did it
   * @param text what happened, as a sentence
   * @param why the reason; empty if the text says it all
   */
  public record Entry(long id, Instant at, EventKind kind, String actor, String text, String why) {}

  /** What happened to an order, before the order has its id. */
  public record Fact(EventKind kind, String actor, String text, String why) {}

  public void record(EventKind kind, long orderId, String actor, String text) {
    record(kind, orderId, null, actor, text, "");
  }

  public void record(
      EventKind kind,
      @Nullable Long orderId,
      @Nullable Long consignmentId,
      String actor,
      String text,
      String why) {
    db.insertInto(EVENT)
        .set(EVENT.AT, clock.instant())
        .set(EVENT.KIND, kind.name())
        .set(EVENT.ACTOR, actor)
        .set(EVENT.ORDER_ID, orderId)
        .set(EVENT.CONSIGNMENT_ID, consignmentId)
        .set(EVENT.TEXT, Texts.cut(text, 1000))
        .set(EVENT.WHY, Texts.cut(why, 1000))
        .execute();
    if (orderId != null) {
      listeners.publishEvent(new Happened(kind, orderId));
    }
  }

  /** What happened to many orders at once, each in its own order; in one go. */
  public void recordAll(Map<Long, List<Fact>> facts) {
    Instant now = clock.instant();
    RowBatch rows = new RowBatch(db, EVENT);
    for (Map.Entry<Long, List<Fact>> ofOrder : facts.entrySet()) {
      for (Fact fact : ofOrder.getValue()) {
        Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
        row.put(EVENT.AT, now);
        row.put(EVENT.KIND, fact.kind().name());
        row.put(EVENT.ACTOR, fact.actor());
        row.put(EVENT.ORDER_ID, ofOrder.getKey());
        row.put(EVENT.TEXT, Texts.cut(fact.text(), 1000));
        row.put(EVENT.WHY, Texts.cut(fact.why(), 1000));
        rows.add(row);
        listeners.publishEvent(new Happened(fact.kind(), ofOrder.getKey()));
      }
    }
    rows.insert();
  }

  /** An order's timeline, oldest first. */
  public List<Entry> ofOrder(long orderId) {
    return db.select(EVENT.ID, EVENT.AT, EVENT.KIND, EVENT.ACTOR, EVENT.TEXT, EVENT.WHY)
        .from(EVENT)
        .where(EVENT.ORDER_ID.eq(orderId))
        .orderBy(EVENT.ID)
        .fetch(r ->
            new Entry(
                r.value1(),
                r.value2(),
                EventKind.valueOf(r.value3()),
                r.value4(),
                r.value5(),
                r.value6()));
  }
}
