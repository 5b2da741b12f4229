package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.ALLOCATION_RUN;
import static dev.ordinator.schema.Tables.ALLOCATION_RUN_LINE;
import static dev.ordinator.schema.Tables.ALLOCATION_RUN_PART;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toList;
import static java.util.stream.Collectors.toMap;

import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.core.allocation.AllocationRun.Part;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.RowBatch;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Runs and their logs. */
@Repository
class RunStore {
  private static final int BATCH = 5_000;
  private static final int KEPT = 200;
  private static final Duration CLAIM = Duration.ofMinutes(2);

  private final DSLContext db;
  private final JsonMapper json;
  private final Clock clock;

  RunStore(DSLContext db, JsonMapper json, Clock clock) {
    this.db = db;
    this.json = json;
    this.clock = clock;
  }

  enum State {
    PREVIEW,
    COMMITTING,
    COMMITTED,
    UNDONE
  }

  /** Why a line got what it got; beside core's reasons, that stock or order changed meanwhile. */
  enum Why {
    FULL,
    PART,
    SHARE,
    NONE_LEFT,
    TOO_SHORT_LIVED,
    LOT_EXCLUDED,
    TOO_FEW,
    ORDER_NOT_WHOLE,
    KIT,
    CHANGED
  }

  /**
   * A run.
   *
   * @param asked units, of which {@code given} were given, or would be
   * @param shortOrders orders that get less than they ask for
   * @param done lines carried out, of {@code lines}
   * @param changed lines that got less than was seen, as something had changed
   */
  record Run(
      long id,
      String name,
      RunSettings settings,
      State state,
      String madeBy,
      Instant madeAt,
      @Nullable String committedBy,
      @Nullable Instant committedAt,
      @Nullable String undoneBy,
      int orders,
      int lines,
      long asked,
      long given,
      int shortOrders,
      int done,
      int changed,
      int routedTo) {}

  /** A line of a run, with where it has its units from: node to units. */
  record Entry(
      int no,
      long orderId,
      long lineId,
      long itemId,
      boolean whole,
      long asked,
      long given,
      Why why,
      List<From> parts) {
    /** Whether it is given components: all of them, or none. */
    boolean ofKit() {
      return parts.stream().anyMatch(part -> part.item() != itemId);
    }
  }

  /**
   * @param item of a line for kits, a component
   * @param earmark out of which they come; 0: they were free
   * @param lotAt where the lot lies that is named; 0: none is
   */
  record From(long item, long node, long earmark, long lotAt, long units) {}

  long keep(String name, RunSettings settings, List<Given> given, String actor) {
    Map<Long, Boolean> full =
        given.stream()
            .collect(
                toMap(
                    g -> g.line().order(),
                    g -> g.units() == g.line().units(),
                    Boolean::logicalAnd,
                    LinkedHashMap::new));
    long id =
        db.insertInto(ALLOCATION_RUN)
            .set(ALLOCATION_RUN.NAME, name)
            .set(ALLOCATION_RUN.SETTINGS, json.writeValueAsString(settings))
            .set(ALLOCATION_RUN.STATE, State.PREVIEW.name())
            .set(ALLOCATION_RUN.MADE_BY, actor)
            .set(ALLOCATION_RUN.MADE_AT, clock.instant())
            .set(ALLOCATION_RUN.ORDERS_IN, full.size())
            .set(ALLOCATION_RUN.LINES_IN, given.size())
            .set(ALLOCATION_RUN.ASKED, given.stream().mapToLong(g -> g.line().units()).sum())
            .set(ALLOCATION_RUN.GIVEN, given.stream().mapToLong(Given::units).sum())
            .set(
                ALLOCATION_RUN.SHORT_ORDERS,
                (int) full.values().stream().filter(all -> !all).count())
            .returningResult(ALLOCATION_RUN.ID)
            .fetchSingle()
            .value1();
    for (int from = 0; from < given.size(); from += BATCH) {
      write(id, from, given.subList(from, Math.min(given.size(), from + BATCH)));
    }
    return id;
  }

  private void write(long run, int from, List<Given> given) {
    RowBatch lines = new RowBatch(db, ALLOCATION_RUN_LINE);
    RowBatch parts = new RowBatch(db, ALLOCATION_RUN_PART);
    int no = from;
    for (Given g : given) {
      Map<Field<?>, @Nullable Object> line = new LinkedHashMap<>();
      line.put(ALLOCATION_RUN_LINE.RUN_ID, run);
      line.put(ALLOCATION_RUN_LINE.NO, no);
      line.put(ALLOCATION_RUN_LINE.ORDER_ID, g.line().order());
      line.put(ALLOCATION_RUN_LINE.ORDER_LINE_ID, g.line().line());
      line.put(ALLOCATION_RUN_LINE.ITEM_ID, g.line().item());
      line.put(ALLOCATION_RUN_LINE.WHOLE, g.line().whole());
      line.put(ALLOCATION_RUN_LINE.ASKED, g.line().units());
      line.put(ALLOCATION_RUN_LINE.GIVEN, g.units());
      line.put(ALLOCATION_RUN_LINE.WHY, g.why().name());
      lines.add(line);
      for (Part p : g.parts()) {
        Map<Field<?>, @Nullable Object> part = new LinkedHashMap<>();
        part.put(ALLOCATION_RUN_PART.RUN_ID, run);
        part.put(ALLOCATION_RUN_PART.NO, no);
        part.put(ALLOCATION_RUN_PART.ITEM_ID, p.pool().item());
        part.put(ALLOCATION_RUN_PART.NODE_ID, p.pool().node());
        part.put(ALLOCATION_RUN_PART.FROM_EARMARK, p.pool().owner());
        part.put(ALLOCATION_RUN_PART.PLACE_ID, p.place());
        part.put(ALLOCATION_RUN_PART.UNITS, p.units());
        parts.add(part);
      }
      no++;
    }
    lines.insert();
    parts.insert();
  }

  /** Newest first. */
  List<Run> all() {
    return runs(ALLOCATION_RUN.ID.isNotNull());
  }

  Run run(long id) {
    return runs(ALLOCATION_RUN.ID.eq(id)).stream()
        .findFirst()
        .orElseThrow(() -> Problem.notFound("run " + id));
  }

  private List<Run> runs(Condition which) {
    return db.selectFrom(ALLOCATION_RUN)
        .where(which)
        .orderBy(ALLOCATION_RUN.ID.desc())
        .limit(KEPT)
        .fetch(r ->
            new Run(
                r.getId(),
                r.getName(),
                json.readValue(r.getSettings(), RunSettings.class),
                State.valueOf(r.getState()),
                r.getMadeBy(),
                r.getMadeAt(),
                r.getCommittedBy(),
                r.getCommittedAt(),
                r.getUndoneBy(),
                r.getOrdersIn(),
                r.getLinesIn(),
                r.getAsked(),
                r.getGiven(),
                r.getShortOrders(),
                r.getDone(),
                r.getChanged(),
                r.getRoutedTo()));
  }

  /** Lines from a number on, so many at most, none of their last order cut off. */
  List<Entry> entries(long run, int from, int most) {
    Map<Integer, List<From>> parts =
        db.select(
                ALLOCATION_RUN_PART.NO,
                ALLOCATION_RUN_PART.ITEM_ID,
                ALLOCATION_RUN_PART.NODE_ID,
                ALLOCATION_RUN_PART.FROM_EARMARK,
                ALLOCATION_RUN_PART.PLACE_ID,
                ALLOCATION_RUN_PART.UNITS)
            .from(ALLOCATION_RUN_PART)
            .where(ALLOCATION_RUN_PART.RUN_ID.eq(run))
            .and(ALLOCATION_RUN_PART.NO.ge(from))
            .and(ALLOCATION_RUN_PART.NO.lt(from + most))
            .orderBy(
                ALLOCATION_RUN_PART.NO, ALLOCATION_RUN_PART.NODE_ID, ALLOCATION_RUN_PART.ITEM_ID)
            .collect(
                groupingBy(
                    r -> r.value1(),
                    mapping(
                        r -> new From(r.value2(), r.value3(), r.value4(), r.value5(), r.value6()),
                        toList())));
    return db.select(
            ALLOCATION_RUN_LINE.NO,
            ALLOCATION_RUN_LINE.ORDER_ID,
            ALLOCATION_RUN_LINE.ORDER_LINE_ID,
            ALLOCATION_RUN_LINE.ITEM_ID,
            ALLOCATION_RUN_LINE.WHOLE,
            ALLOCATION_RUN_LINE.ASKED,
            ALLOCATION_RUN_LINE.GIVEN,
            ALLOCATION_RUN_LINE.WHY)
        .from(ALLOCATION_RUN_LINE)
        .where(ALLOCATION_RUN_LINE.RUN_ID.eq(run))
        .and(ALLOCATION_RUN_LINE.NO.ge(from))
        .orderBy(ALLOCATION_RUN_LINE.NO)
        .limit(most)
        .fetch(r ->
            new Entry(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                Why.valueOf(r.value8()),
                parts.getOrDefault(r.value1(), List.of())));
  }

  void begin(long run, String actor) {
    int begun =
        db.update(ALLOCATION_RUN)
            .set(ALLOCATION_RUN.STATE, State.COMMITTING.name())
            .set(ALLOCATION_RUN.COMMITTED_BY, actor)
            .set(ALLOCATION_RUN.COMMITTED_AT, clock.instant())
            .where(ALLOCATION_RUN.ID.eq(run))
            .and(ALLOCATION_RUN.STATE.eq(State.PREVIEW.name()))
            .execute();
    if (begun == 0) {
      throw Problem.conflict("it has been committed already");
    }
  }

  /** The next run that is being committed, kept from other instances for a while. */
  Optional<Long> claim() {
    Instant now = clock.instant();
    Optional<Long> run =
        db.select(ALLOCATION_RUN.ID)
            .from(ALLOCATION_RUN)
            .where(ALLOCATION_RUN.STATE.eq(State.COMMITTING.name()))
            .and(ALLOCATION_RUN.CLAIMED_UNTIL.isNull().or(ALLOCATION_RUN.CLAIMED_UNTIL.lt(now)))
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOptional(ALLOCATION_RUN.ID);
    run.ifPresent(id -> keepClaim(id, now));
    return run;
  }

  private void keepClaim(long run, Instant now) {
    db.update(ALLOCATION_RUN)
        .set(ALLOCATION_RUN.CLAIMED_UNTIL, now.plus(CLAIM))
        .where(ALLOCATION_RUN.ID.eq(run))
        .execute();
  }

  /** Locks a run for this transaction; gives how many of its lines are carried out. */
  int lock(long run) {
    keepClaim(run, clock.instant());
    return db.select(ALLOCATION_RUN.DONE)
        .from(ALLOCATION_RUN)
        .where(ALLOCATION_RUN.ID.eq(run))
        .forUpdate()
        .fetchSingle()
        .value1();
  }

  void done(long run, int lines, int changed, long lost) {
    db.update(ALLOCATION_RUN)
        .set(ALLOCATION_RUN.DONE, lines)
        .set(ALLOCATION_RUN.CHANGED, ALLOCATION_RUN.CHANGED.plus(changed))
        .set(ALLOCATION_RUN.GIVEN, ALLOCATION_RUN.GIVEN.minus(lost))
        .where(ALLOCATION_RUN.ID.eq(run))
        .execute();
  }

  void routed(long run, int lines) {
    keepClaim(run, clock.instant());
    db.update(ALLOCATION_RUN)
        .set(ALLOCATION_RUN.ROUTED_TO, lines)
        .where(ALLOCATION_RUN.ID.eq(run))
        .execute();
  }

  void finish(long run) {
    db.update(ALLOCATION_RUN)
        .set(ALLOCATION_RUN.STATE, State.COMMITTED.name())
        .where(ALLOCATION_RUN.ID.eq(run))
        .execute();
  }

  void undone(long run, String actor) {
    db.update(ALLOCATION_RUN)
        .set(ALLOCATION_RUN.STATE, State.UNDONE.name())
        .set(ALLOCATION_RUN.UNDONE_BY, actor)
        .set(ALLOCATION_RUN.UNDONE_AT, clock.instant())
        .where(ALLOCATION_RUN.ID.eq(run))
        .execute();
  }

  /** A line got less than was seen. */
  void changed(long run, int no, long given) {
    db.update(ALLOCATION_RUN_LINE)
        .set(ALLOCATION_RUN_LINE.GIVEN, given)
        .set(ALLOCATION_RUN_LINE.WHY, Why.CHANGED.name())
        .where(ALLOCATION_RUN_LINE.RUN_ID.eq(run))
        .and(ALLOCATION_RUN_LINE.NO.eq(no))
        .execute();
  }
}
