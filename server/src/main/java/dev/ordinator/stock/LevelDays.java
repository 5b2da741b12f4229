package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.LEVEL_DAY;
import static dev.ordinator.schema.Tables.LEVEL_SNAPSHOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.val;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * What there was to be had when each day began, for {@value #KEPT_DAYS} days. Of a level, days are
 * kept on which it differs from the day before; in between, the ledger says what came and went.
 */
@Configuration
public class LevelDays {
  private static final int KEPT_DAYS = 100;
  private static final Duration LOOK_EVERY = Duration.ofMinutes(5);

  private final DSLContext db;
  private final Transactions transactions;
  private final OrdinatorSettings settings;
  private final Clock clock;

  LevelDays(DSLContext db, Transactions transactions, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.transactions = transactions;
    this.settings = settings;
    this.clock = clock;
  }

  /** A day of which levels were kept, and when that was. */
  public record Snapshot(LocalDate day, Instant at) {}

  /**
   * @param units what anybody could have; below zero if safety stock was not reached
   */
  public record Level(long itemId, String node, long units) {}

  /** Units that came, or if negative left, without being sent to a buyer. */
  public record Change(Instant at, long itemId, String node, long units) {}

  @Bean
  RecurringTask<Void> keepLevelsOfTheDay() {
    return Tasks.recurring("keep-levels-of-the-day", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> keepToday());
  }

  /** Keeps the levels of today, unless that was done already. */
  public void keepToday() {
    LocalDate today = LocalDate.ofInstant(clock.instant(), settings.timeZone());
    transactions.run(() -> {
      int fresh =
          db.insertInto(LEVEL_SNAPSHOT)
              .set(LEVEL_SNAPSHOT.DAY, today)
              .set(LEVEL_SNAPSHOT.TAKEN_AT, clock.instant())
              .onDuplicateKeyIgnore()
              .execute();
      if (fresh == 1) {
        keep(today);
        forget(today.minusDays(KEPT_DAYS));
      }
    });
  }

  private void keep(LocalDate today) {
    var last = LEVEL_DAY.as("last");
    var lastDay =
        DSL.field(
            select(max(LEVEL_DAY.DAY))
                .from(LEVEL_DAY)
                .where(LEVEL_DAY.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
                .and(LEVEL_DAY.NODE_ID.eq(STOCK_LEVEL.NODE_ID)));
    db.insertInto(LEVEL_DAY, LEVEL_DAY.ITEM_ID, LEVEL_DAY.NODE_ID, LEVEL_DAY.DAY, LEVEL_DAY.FREE)
        .select(
            select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, val(today), Levels.FREE)
                .from(STOCK_LEVEL)
                .leftJoin(last)
                .on(last.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
                .and(last.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
                .and(last.DAY.eq(lastDay))
                .where(last.FREE.isNull())
                .or(last.FREE.ne(Levels.FREE)))
        .execute();
  }

  /** What was last kept before a day stays, as long as it is what held on that day. */
  private void forget(LocalDate before) {
    var later = LEVEL_DAY.as("later");
    db.deleteFrom(LEVEL_DAY)
        .where(LEVEL_DAY.DAY.lt(before))
        .and(
            exists(
                selectOne()
                    .from(later)
                    .where(later.ITEM_ID.eq(LEVEL_DAY.ITEM_ID))
                    .and(later.NODE_ID.eq(LEVEL_DAY.NODE_ID))
                    .and(later.DAY.gt(LEVEL_DAY.DAY))
                    .and(later.DAY.le(before))))
        .execute();
    db.deleteFrom(LEVEL_SNAPSHOT).where(LEVEL_SNAPSHOT.DAY.lt(before)).execute();
  }

  /** The last snapshot that was taken before a moment. */
  public Optional<Snapshot> before(Instant moment) {
    return db.select(LEVEL_SNAPSHOT.DAY, LEVEL_SNAPSHOT.TAKEN_AT)
        .from(LEVEL_SNAPSHOT)
        .where(LEVEL_SNAPSHOT.TAKEN_AT.le(moment))
        .orderBy(LEVEL_SNAPSHOT.DAY.desc())
        .limit(1)
        .fetchOptional(r -> new Snapshot(r.value1(), r.value2()));
  }

  /** The first snapshot that is kept. */
  public Optional<Snapshot> first() {
    return db.select(LEVEL_SNAPSHOT.DAY, LEVEL_SNAPSHOT.TAKEN_AT)
        .from(LEVEL_SNAPSHOT)
        .orderBy(LEVEL_SNAPSHOT.DAY)
        .limit(1)
        .fetchOptional(r -> new Snapshot(r.value1(), r.value2()));
  }

  /** Snapshots of later days, the earliest first. */
  public List<Snapshot> after(LocalDate day) {
    return db.select(LEVEL_SNAPSHOT.DAY, LEVEL_SNAPSHOT.TAKEN_AT)
        .from(LEVEL_SNAPSHOT)
        .where(LEVEL_SNAPSHOT.DAY.gt(day))
        .orderBy(LEVEL_SNAPSHOT.DAY)
        .fetch(r -> new Snapshot(r.value1(), r.value2()));
  }

  /** All levels of a day that was kept. */
  public void levels(LocalDate day, Consumer<Level> each) {
    var newer = LEVEL_DAY.as("newer");
    read(
        LEVEL_DAY.DAY.eq(
            DSL.field(
                select(max(newer.DAY))
                    .from(newer)
                    .where(newer.ITEM_ID.eq(LEVEL_DAY.ITEM_ID))
                    .and(newer.NODE_ID.eq(LEVEL_DAY.NODE_ID))
                    .and(newer.DAY.le(day)))),
        each);
  }

  /** The levels of a day that differ from the snapshot before it. */
  public void changed(LocalDate day, Consumer<Level> each) {
    read(LEVEL_DAY.DAY.eq(day), each);
  }

  private void read(org.jooq.Condition which, Consumer<Level> each) {
    try (var rows =
        db.select(LEVEL_DAY.ITEM_ID, NODE.CODE, LEVEL_DAY.FREE)
            .from(LEVEL_DAY)
            .join(NODE)
            .on(NODE.ID.eq(LEVEL_DAY.NODE_ID))
            .where(which)
            .fetchLazy()) {
      rows.forEach(r -> each.accept(new Level(r.value1(), r.value2(), r.value3())));
    }
  }

  /**
   * What came and went between two moments otherwise than for buyers: received, counted, moved,
   * scrapped. Later changes of safety stock and earmarks are not in it.
   */
  public List<Change> changes(Instant after, Instant until) {
    return db.select(STOCK_MOVEMENT.AT, STOCK_MOVEMENT.ITEM_ID, NODE.CODE, STOCK_MOVEMENT.QUANTITY)
        .from(STOCK_MOVEMENT)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_MOVEMENT.NODE_ID))
        .where(STOCK_MOVEMENT.AT.gt(after))
        .and(STOCK_MOVEMENT.AT.le(until))
        .and(STOCK_MOVEMENT.CONSIGNMENT_ID.isNull())
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .orderBy(STOCK_MOVEMENT.AT, STOCK_MOVEMENT.ID)
        .fetch(r -> new Change(r.value1(), r.value2(), r.value3(), r.value4()));
  }
}
