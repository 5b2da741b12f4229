package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.ALLOCATION_PLAN;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoops;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Settings of runs kept under a name; those with a time are run and committed by themselves. */
@Service
class RunPlans {
  private static final int LEAST_MINUTES = 5;
  private static final int MOST_MINUTES = 10_080;

  private final DSLContext db;
  private final Runs runs;
  private final Transactions transactions;
  private final JsonMapper json;
  private final Clock clock;

  RunPlans(
      DSLContext db,
      Runs runs,
      Transactions transactions,
      JsonMapper json,
      Clock clock,
      WorkLoops loops) {
    this.db = db;
    this.runs = runs;
    this.transactions = transactions;
    this.json = json;
    this.clock = clock;
    loops.add("allocation-plans", this::runDue);
  }

  /**
   * @param everyMinutes null: only by hand
   */
  record Plan(
      long id,
      String name,
      RunSettings settings,
      @Nullable Integer everyMinutes,
      @Nullable Instant nextAt,
      String madeBy) {}

  /**
   * @param everyMinutes 5 minutes to a week; null: only by hand
   */
  record Wish(String name, RunSettings settings, @Nullable Integer everyMinutes) {}

  List<Plan> all() {
    return db.selectFrom(ALLOCATION_PLAN)
        .orderBy(ALLOCATION_PLAN.NAME)
        .fetch(r ->
            new Plan(
                r.getId(),
                r.getName(),
                json.readValue(r.getSettings(), RunSettings.class),
                r.getEveryMinutes(),
                r.getNextAt(),
                r.getMadeBy()));
  }

  /** Keeps settings under a name; those that had it before are forgotten. */
  @Transactional
  void keep(Wish wish, String actor) {
    wish.settings().checked();
    if (wish.name().isBlank() || wish.name().length() > 80) {
      throw Problem.invalid("name", "1 to 80 characters");
    }
    Integer minutes = wish.everyMinutes();
    if (minutes != null && (minutes < LEAST_MINUTES || minutes > MOST_MINUTES)) {
      throw Problem.invalid("everyMinutes", "5 minutes to a week, or none: by hand");
    }
    String settings = json.writeValueAsString(wish.settings());
    Instant next = minutes == null ? null : clock.instant().plus(Duration.ofMinutes(minutes));
    db.insertInto(ALLOCATION_PLAN)
        .set(ALLOCATION_PLAN.NAME, wish.name().strip())
        .set(ALLOCATION_PLAN.SETTINGS, settings)
        .set(ALLOCATION_PLAN.EVERY_MINUTES, minutes)
        .set(ALLOCATION_PLAN.NEXT_AT, next)
        .set(ALLOCATION_PLAN.MADE_BY, actor)
        .onDuplicateKeyUpdate()
        .set(ALLOCATION_PLAN.SETTINGS, settings)
        .set(ALLOCATION_PLAN.EVERY_MINUTES, minutes)
        .set(ALLOCATION_PLAN.NEXT_AT, next)
        .set(ALLOCATION_PLAN.MADE_BY, actor)
        .execute();
  }

  @Transactional
  void forget(long id) {
    if (db.deleteFrom(ALLOCATION_PLAN).where(ALLOCATION_PLAN.ID.eq(id)).execute() == 0) {
      throw Problem.notFound("plan " + id);
    }
  }

  boolean runDue() {
    Optional<Plan> due = transactions.get(this::claimDue);
    due.ifPresent(plan -> {
      var run = runs.preview(plan.name(), plan.settings(), plan.madeBy());
      if (run.given() > 0) {
        runs.commit(run.id(), plan.madeBy());
      }
    });
    return due.isPresent();
  }

  private Optional<Plan> claimDue() {
    Instant now = clock.instant();
    return db.selectFrom(ALLOCATION_PLAN)
        .where(ALLOCATION_PLAN.NEXT_AT.le(now))
        .limit(1)
        .forUpdate()
        .skipLocked()
        .fetchOptional()
        .map(r -> {
          int minutes = r.getEveryMinutes() == null ? MOST_MINUTES : r.getEveryMinutes();
          db.update(ALLOCATION_PLAN)
              .set(ALLOCATION_PLAN.NEXT_AT, now.plus(Duration.ofMinutes(minutes)))
              .where(ALLOCATION_PLAN.ID.eq(r.getId()))
              .execute();
          return new Plan(
              r.getId(),
              r.getName(),
              json.readValue(r.getSettings(), RunSettings.class),
              minutes,
              now,
              r.getMadeBy());
        });
  }
}
