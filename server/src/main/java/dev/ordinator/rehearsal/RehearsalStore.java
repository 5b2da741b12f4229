package dev.ordinator.rehearsal;

import static dev.ordinator.schema.Tables.EDITION;
import static dev.ordinator.schema.Tables.REHEARSAL;
import static dev.ordinator.schema.Tables.REHEARSAL_ORDER;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.abs;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.rehearsal.SideBySide.Different;
import dev.ordinator.routing.Decisions.Kept;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Rehearsals as they are kept. */
@Repository
class RehearsalStore {
  private static final int SHOWN = 30;

  /** A worker that was not heard of for so long is gone. */
  private static final Duration LEASE = Duration.ofMinutes(2);

  private final DSLContext db;
  private final Clock clock;

  RehearsalStore(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  enum State {
    WAITING,
    RUNNING,
    DONE,
    CANCELLED,
    FAILED
  }

  /**
   * @param edition number of the draft's edition
   * @param against number of the edition that was live
   * @param stale the draft has been changed since
   * @param orders how many are routed again; 0 until that is known
   * @param problem why it failed; empty: it did not
   */
  record Head(
      long id,
      int edition,
      int against,
      int days,
      State state,
      boolean stale,
      int orders,
      int done,
      String by,
      Instant at,
      @Nullable Instant endedAt,
      String problem) {}

  /** What a worker needs of a rehearsal. */
  record Work(long id, String body, long againstId, int days, Instant begunAt) {}

  /**
   * An order whose outcome would change.
   *
   * @param byDraft false: the live edition would now decide otherwise as well
   * @param wasCost minor units of the base currency; null: nothing could be sent
   * @param wasNodes codes
   */
  record Changed(
      long orderId,
      String number,
      String country,
      boolean byDraft,
      @Nullable Long wasCost,
      @Nullable Long wouldCost,
      List<String> wasNodes,
      List<String> wouldNodes) {}

  /** The decision that was really made, and what would be decided. */
  record Both(long decisionId, Kept would) {}

  long begin(long draftId, int changes, String body, long againstId, int days, String by) {
    return db.insertInto(REHEARSAL)
        .set(REHEARSAL.EDITION_ID, draftId)
        .set(REHEARSAL.CHANGES, changes)
        .set(REHEARSAL.BODY, body)
        .set(REHEARSAL.AGAINST_ID, againstId)
        .set(REHEARSAL.DAYS, days)
        .set(REHEARSAL.STATE, State.WAITING.name())
        .set(REHEARSAL.BEGUN_BY, by)
        .set(REHEARSAL.BEGUN_AT, clock.instant())
        .set(REHEARSAL.BEAT_AT, clock.instant())
        .returningResult(REHEARSAL.ID)
        .fetchSingle()
        .value1();
  }

  /** The next that nobody works on; what a dead worker left is begun anew. */
  Optional<Work> claim() {
    Optional<Work> work =
        db.select(
                REHEARSAL.ID,
                REHEARSAL.BODY,
                REHEARSAL.AGAINST_ID,
                REHEARSAL.DAYS,
                REHEARSAL.BEGUN_AT)
            .from(REHEARSAL)
            .where(REHEARSAL.STATE.eq(State.WAITING.name()))
            .or(
                REHEARSAL
                    .STATE
                    .eq(State.RUNNING.name())
                    .and(REHEARSAL.BEAT_AT.lt(clock.instant().minus(LEASE))))
            .orderBy(REHEARSAL.ID)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOptional(
                r -> new Work(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
    work.ifPresent(w -> {
      db.deleteFrom(REHEARSAL_ORDER).where(REHEARSAL_ORDER.REHEARSAL_ID.eq(w.id())).execute();
      db.update(REHEARSAL)
          .set(REHEARSAL.STATE, State.RUNNING.name())
          .set(REHEARSAL.DONE, 0)
          .set(REHEARSAL.BEAT_AT, clock.instant())
          .where(REHEARSAL.ID.eq(w.id()))
          .execute();
    });
    return work;
  }

  /**
   * @return false if nobody wants it any more
   */
  boolean cameTo(long id, int done, int of) {
    return db.update(REHEARSAL)
            .set(REHEARSAL.DONE, done)
            .set(REHEARSAL.ORDERS, of)
            .set(REHEARSAL.BEAT_AT, clock.instant())
            .where(REHEARSAL.ID.eq(id))
            .and(REHEARSAL.STATE.eq(State.RUNNING.name()))
            .execute()
        == 1;
  }

  void keep(long id, Different different) {
    PastOrder order = different.order();
    Outcome was = order.was();
    Outcome would = different.would();
    Kept decision = different.decision();
    db.insertInto(REHEARSAL_ORDER)
        .set(REHEARSAL_ORDER.REHEARSAL_ID, id)
        .set(REHEARSAL_ORDER.ORDER_ID, order.head().id())
        .set(REHEARSAL_ORDER.DECISION_ID, order.decisionId())
        .set(REHEARSAL_ORDER.BY_DRAFT, different.byDraft())
        .set(REHEARSAL_ORDER.WAS_COST, was.filled() ? was.cost() : null)
        .set(REHEARSAL_ORDER.WOULD_COST, would.filled() ? would.cost() : null)
        .set(REHEARSAL_ORDER.WAS_NODES, was.nodes())
        .set(REHEARSAL_ORDER.WOULD_NODES, would.nodes())
        .set(REHEARSAL_ORDER.RUNG, decision.rung())
        .set(REHEARSAL_ORDER.RUNG_NAME, decision.rungName())
        .set(REHEARSAL_ORDER.RUNGS, decision.rungs())
        .set(REHEARSAL_ORDER.GROUNDS, decision.grounds())
        .execute();
  }

  void done(long id, String result) {
    end(id, State.DONE, "", result);
  }

  void failed(long id, String problem) {
    end(id, State.FAILED, problem, null);
  }

  /**
   * @return false if it had ended already
   */
  boolean cancel(long id) {
    return end(id, State.CANCELLED, "", null);
  }

  private boolean end(long id, State state, String problem, @Nullable String result) {
    return db.update(REHEARSAL)
            .set(REHEARSAL.STATE, state.name())
            .set(REHEARSAL.ENDED_AT, clock.instant())
            .set(REHEARSAL.PROBLEM, problem)
            .set(REHEARSAL.RESULT, result)
            .where(REHEARSAL.ID.eq(id))
            .and(REHEARSAL.STATE.in(State.WAITING.name(), State.RUNNING.name()))
            .execute()
        == 1;
  }

  void remove(long id) {
    db.deleteFrom(REHEARSAL).where(REHEARSAL.ID.eq(id)).execute();
  }

  /** Whether one of that draft is under way. */
  boolean isUnderWay(long draftId) {
    return db.fetchExists(
        REHEARSAL,
        REHEARSAL
            .EDITION_ID
            .eq(draftId)
            .and(REHEARSAL.STATE.in(State.WAITING.name(), State.RUNNING.name())));
  }

  /** The latest first. */
  List<Head> all() {
    return heads(noCondition());
  }

  Optional<Head> head(long id) {
    return heads(REHEARSAL.ID.eq(id)).stream().findFirst();
  }

  private List<Head> heads(Condition which) {
    var against = EDITION.as("against");
    return db.select(
            REHEARSAL.ID,
            EDITION.NUMBER,
            against.NUMBER,
            REHEARSAL.DAYS,
            REHEARSAL.STATE,
            EDITION.CHANGES.ne(REHEARSAL.CHANGES),
            REHEARSAL.ORDERS,
            REHEARSAL.DONE,
            REHEARSAL.BEGUN_BY,
            REHEARSAL.BEGUN_AT,
            REHEARSAL.ENDED_AT,
            REHEARSAL.PROBLEM)
        .from(REHEARSAL)
        .join(EDITION)
        .on(EDITION.ID.eq(REHEARSAL.EDITION_ID))
        .join(against)
        .on(against.ID.eq(REHEARSAL.AGAINST_ID))
        .where(which)
        .orderBy(REHEARSAL.ID.desc())
        .limit(SHOWN)
        .fetch(r ->
            new Head(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                State.valueOf(r.value5()),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11(),
                r.value12()));
  }

  Optional<String> result(long id) {
    return db.select(REHEARSAL.RESULT)
        .from(REHEARSAL)
        .where(REHEARSAL.ID.eq(id))
        .fetchOptional(REHEARSAL.RESULT);
  }

  /**
   * Orders whose outcome would change, those first that it would change the most for.
   *
   * @param all also those that the live edition would now decide otherwise as well
   */
  List<Changed> changed(long id, boolean all, int most) {
    var difference =
        abs(coalesce(REHEARSAL_ORDER.WOULD_COST, 0L).minus(coalesce(REHEARSAL_ORDER.WAS_COST, 0L)));
    var filledOrNot = REHEARSAL_ORDER.WAS_COST.isNull().ne(REHEARSAL_ORDER.WOULD_COST.isNull());
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.SHIP_COUNTRY,
            REHEARSAL_ORDER.BY_DRAFT,
            REHEARSAL_ORDER.WAS_COST,
            REHEARSAL_ORDER.WOULD_COST,
            REHEARSAL_ORDER.WAS_NODES,
            REHEARSAL_ORDER.WOULD_NODES)
        .from(REHEARSAL_ORDER)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(REHEARSAL_ORDER.ORDER_ID))
        .where(REHEARSAL_ORDER.REHEARSAL_ID.eq(id))
        .and(all ? noCondition() : REHEARSAL_ORDER.BY_DRAFT.isTrue())
        .orderBy(filledOrNot.desc(), difference.desc(), SALES_ORDER.ID)
        .limit(most)
        .fetch(r ->
            new Changed(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                codes(r.value7()),
                codes(r.value8())));
  }

  Optional<Both> both(long id, long orderId) {
    return db.select(
            REHEARSAL_ORDER.DECISION_ID,
            REHEARSAL_ORDER.RUNG,
            REHEARSAL_ORDER.RUNGS,
            REHEARSAL_ORDER.RUNG_NAME,
            coalesce(REHEARSAL_ORDER.WOULD_COST, 0L),
            REHEARSAL_ORDER.GROUNDS)
        .from(REHEARSAL_ORDER)
        .where(REHEARSAL_ORDER.REHEARSAL_ID.eq(id))
        .and(REHEARSAL_ORDER.ORDER_ID.eq(orderId))
        .fetchOptional(r ->
            new Both(
                r.value1(), new Kept(r.value2(), r.value3(), r.value4(), r.value5(), r.value6())));
  }

  private static List<String> codes(String text) {
    return text.isEmpty() ? List.of() : List.of(text.split(","));
  }
}
