package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.orders.Step;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** When the orders of a channel are routed: each as it is approved, or together so often. */
@Service
public class RoutingTimes {
  private static final int MOST_MINUTES = 24 * 60;

  private final DSLContext db;
  private final Events events;
  private final Clock clock;

  RoutingTimes(DSLContext db, Events events, Clock clock) {
    this.db = db;
    this.events = events;
    this.clock = clock;
  }

  /**
   * @param minutes between two batches; null: each order at once
   * @param nextAt when the next batch is due
   * @param waiting orders that wait for it
   */
  record Times(
      String channel,
      String name,
      @Nullable Integer minutes,
      @Nullable Instant nextAt,
      int waiting) {}

  List<Times> all() {
    var waiting =
        DSL.field(
            DSL.selectCount()
                .from(SALES_ORDER)
                .where(SALES_ORDER.CHANNEL_ID.eq(CHANNEL.ID))
                .and(SALES_ORDER.NEXT_STEP.eq(Step.BATCH.name())));
    return db.select(
            CHANNEL.CODE, CHANNEL.NAME, CHANNEL.BATCH_MINUTES, CHANNEL.NEXT_BATCH_AT, waiting)
        .from(CHANNEL)
        .orderBy(CHANNEL.ID)
        .fetch(r -> new Times(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
  }

  public boolean inBatches(long channelId) {
    return db.fetchExists(CHANNEL, CHANNEL.ID.eq(channelId).and(CHANNEL.BATCH_MINUTES.isNotNull()));
  }

  /**
   * @param minutes null: each at once; those that wait are then routed now
   * @throws Problem if there is no such channel, or it is not 1 to 1440 minutes
   */
  @Transactional
  void set(String channel, @Nullable Integer minutes, String who) {
    if (minutes != null && (minutes < 1 || minutes > MOST_MINUTES)) {
      throw Problem.invalid("minutes", "1 to 1,440 minutes, or none: each order at once");
    }
    long id =
        db.select(CHANNEL.ID)
            .from(CHANNEL)
            .where(CHANNEL.CODE.eq(channel))
            .fetchOptional(CHANNEL.ID)
            .orElseThrow(() -> Problem.notFound("channel " + channel));
    Instant now = clock.instant();
    db.update(CHANNEL)
        .set(CHANNEL.BATCH_MINUTES, minutes)
        .set(CHANNEL.NEXT_BATCH_AT, minutes == null ? null : now.plus(Duration.ofMinutes(minutes)))
        .where(CHANNEL.ID.eq(id))
        .execute();
    if (minutes == null) {
      db.update(SALES_ORDER)
          .set(SALES_ORDER.NEXT_STEP, Step.ROUTE.name())
          .set(SALES_ORDER.NEXT_STEP_AT, now)
          .where(SALES_ORDER.CHANNEL_ID.eq(id))
          .and(SALES_ORDER.NEXT_STEP.eq(Step.BATCH.name()))
          .execute();
    }
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        who,
        minutes == null
            ? "Orders of channel " + channel + " are routed at once"
            : "Orders of channel %s are routed together every %d minutes"
                .formatted(channel, minutes),
        "");
  }

  /** Takes the next channel whose batch is due; its next one is then due in its minutes. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<Long> claimDue() {
    Instant now = clock.instant();
    var due =
        db.select(CHANNEL.ID, CHANNEL.BATCH_MINUTES)
            .from(CHANNEL)
            .where(CHANNEL.NEXT_BATCH_AT.le(now))
            .orderBy(CHANNEL.NEXT_BATCH_AT)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOptional();
    due.ifPresent(channel ->
        db.update(CHANNEL)
            .set(CHANNEL.NEXT_BATCH_AT, now.plus(Duration.ofMinutes(channel.value2())))
            .where(CHANNEL.ID.eq(channel.value1()))
            .execute());
    return due.map(channel -> channel.value1());
  }

  /** The orders that wait for a channel's batch, by priority class. */
  public SortedMap<Integer, List<Long>> waiting(long channelId, int most) {
    return db.select(SALES_ORDER.PRIORITY, SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.CHANNEL_ID.eq(channelId))
        .and(SALES_ORDER.NEXT_STEP.eq(Step.BATCH.name()))
        .orderBy(SALES_ORDER.PRIORITY, SALES_ORDER.ID)
        .limit(most)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                TreeMap::new,
                Collectors.mapping(r -> r.value2(), Collectors.toList())));
  }
}
