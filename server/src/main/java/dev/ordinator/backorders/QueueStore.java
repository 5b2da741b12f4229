package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ITEM_QUEUE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.when;

import dev.ordinator.core.allocation.Places;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.Routing.Shortage;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Queues of items, as rows. */
@Repository
class QueueStore {
  private static final Duration CLAIM = Duration.ofMinutes(2);
  private static final Condition OPEN = BACKORDER.CLOSED_AT.isNull();
  private static final Field<Boolean> IN_PART =
      coalesce(SALES_ORDER.IN_PART, CHANNEL.IN_PART).as("goes_in_part");

  private final DSLContext db;
  private final OrdinatorSettings settings;
  private final Clock clock;

  QueueStore(DSLContext db, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.settings = settings;
    this.clock = clock;
  }

  /** How somebody left a queue. */
  enum End {
    SERVED,
    CANCELLED,
    /** Another item is sent instead. */
    REPLACED,
    /** It lacks something else now, or is looked at anew. */
    LEFT
  }

  /**
   * Somebody in a queue.
   *
   * @param lacking false: the item is there, and goes with the rest of the order
   * @param readyOn when it is there, as things stand; null: no day in sight
   * @param stuck there is enough, but no rung finds a way
   * @param claims whether its order may be served: it is not held, nor being looked at anew
   * @param ladder what was said of its order, as {@code maySplit} and {@code inPart}; null: nothing
   */
  record Row(
      long id,
      long orderId,
      String orderNumber,
      String buyer,
      long channelId,
      String channel,
      int priority,
      boolean held,
      boolean claims,
      @Nullable String ladder,
      @Nullable Boolean maySplit,
      @Nullable Boolean inPart,
      @Nullable LocalDate arriveBy,
      @Nullable LocalDate promisedOn,
      @Nullable LocalDate expectedOn,
      long lineId,
      long itemId,
      long units,
      boolean lacking,
      long place,
      Instant since,
      @Nullable LocalDate readyOn,
      boolean stuck) {}

  /** By item, who is served first in front. */
  Map<Long, List<Row>> queues(Collection<Long> itemIds) {
    return rows(BACKORDER.ITEM_ID.in(itemIds));
  }

  /** What orders wait for, by item. */
  Map<Long, List<Row>> ofOrders(Collection<Long> orderIds) {
    return rows(BACKORDER.ORDER_ID.in(orderIds));
  }

  private Map<Long, List<Row>> rows(Condition which) {
    return db.select(
            BACKORDER.ID,
            BACKORDER.ORDER_ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.CHANNEL_ID,
            CHANNEL.NAME,
            SALES_ORDER.PRIORITY,
            SALES_ORDER.HELD,
            SALES_ORDER.WAITING,
            SALES_ORDER.LADDER,
            SALES_ORDER.MAY_SPLIT,
            IN_PART,
            SALES_ORDER.ARRIVE_BY,
            SALES_ORDER.PROMISED_ON,
            SALES_ORDER.EXPECTED_ON,
            BACKORDER.ORDER_LINE_ID,
            BACKORDER.ITEM_ID,
            BACKORDER.UNITS,
            BACKORDER.LACKING,
            BACKORDER.PLACE,
            BACKORDER.SINCE,
            BACKORDER.READY_ON,
            BACKORDER.STUCK)
        .from(BACKORDER)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .where(which)
        .and(OPEN)
        .orderBy(BACKORDER.ITEM_ID, BACKORDER.PLACE, BACKORDER.ID)
        .fetchGroups(BACKORDER.ITEM_ID, QueueStore::row);
  }

  private static Row row(Record r) {
    return new Row(
        r.get(BACKORDER.ID),
        r.get(BACKORDER.ORDER_ID),
        r.get(SALES_ORDER.NUMBER),
        r.get(SALES_ORDER.BUYER_NAME),
        r.get(SALES_ORDER.CHANNEL_ID),
        r.get(CHANNEL.NAME),
        r.get(SALES_ORDER.PRIORITY),
        r.get(SALES_ORDER.HELD),
        r.get(SALES_ORDER.WAITING) && !r.get(SALES_ORDER.HELD),
        r.get(SALES_ORDER.LADDER),
        r.get(SALES_ORDER.MAY_SPLIT),
        r.get(IN_PART),
        r.get(SALES_ORDER.ARRIVE_BY),
        r.get(SALES_ORDER.PROMISED_ON),
        r.get(SALES_ORDER.EXPECTED_ON),
        r.get(BACKORDER.ORDER_LINE_ID),
        r.get(BACKORDER.ITEM_ID),
        r.get(BACKORDER.UNITS),
        r.get(BACKORDER.LACKING),
        r.get(BACKORDER.PLACE),
        r.get(BACKORDER.SINCE),
        r.get(BACKORDER.READY_ON),
        r.get(BACKORDER.STUCK));
  }

  void join(long orderId, Shortage shortage, long place) {
    db.insertInto(BACKORDER)
        .set(BACKORDER.ORDER_ID, orderId)
        .set(BACKORDER.ORDER_LINE_ID, shortage.lineId())
        .set(BACKORDER.ITEM_ID, shortage.itemId())
        .set(BACKORDER.UNITS, shortage.units())
        .set(BACKORDER.LACKING, shortage.lacking())
        .set(BACKORDER.PLACE, place)
        .set(BACKORDER.SINCE, clock.instant())
        .execute();
  }

  void change(long id, long units, boolean lacking) {
    db.update(BACKORDER)
        .set(BACKORDER.UNITS, units)
        .set(BACKORDER.LACKING, lacking)
        .where(BACKORDER.ID.eq(id))
        .execute();
  }

  void close(Collection<Long> ids, End how) {
    db.update(BACKORDER)
        .set(BACKORDER.CLOSED_AT, clock.instant())
        .set(BACKORDER.CLOSED_HOW, how.name())
        .where(BACKORDER.ID.in(ids))
        .and(OPEN)
        .execute();
  }

  void project(long id, @Nullable LocalDate readyOn, boolean stuck) {
    db.update(BACKORDER)
        .set(BACKORDER.READY_ON, readyOn)
        .set(BACKORDER.STUCK, stuck)
        .where(BACKORDER.ID.eq(id))
        .execute();
  }

  void place(long id, long place) {
    db.update(BACKORDER).set(BACKORDER.PLACE, place).where(BACKORDER.ID.eq(id)).execute();
  }

  /** Behind all of its class and those above it, in front of those below. */
  long placeFor(long itemId, int priority) {
    var last =
        db.select(BACKORDER.PLACE, SALES_ORDER.PRIORITY)
            .from(BACKORDER)
            .join(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
            .where(BACKORDER.ITEM_ID.eq(itemId))
            .and(OPEN)
            .orderBy(BACKORDER.PLACE.desc())
            .limit(1)
            .fetchOptional();
    if (last.isEmpty()) {
      return Places.first();
    }
    return last.get().value2() <= priority
        ? Places.behind(last.get().value1())
        : among(itemId, priority);
  }

  private long among(long itemId, int priority) {
    Long front =
        db.select(max(when(SALES_ORDER.PRIORITY.le(priority), BACKORDER.PLACE)))
            .from(BACKORDER)
            .join(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
            .where(BACKORDER.ITEM_ID.eq(itemId))
            .and(OPEN)
            .fetchSingle()
            .value1();
    Condition behind = front == null ? OPEN : OPEN.and(BACKORDER.PLACE.gt(front));
    Long back =
        db.select(min(BACKORDER.PLACE))
            .from(BACKORDER)
            .where(BACKORDER.ITEM_ID.eq(itemId))
            .and(behind)
            .fetchSingle()
            .value1();
    if (front == null || back == null) {
      return back == null ? Places.first() : Places.before(back);
    }
    return Places.between(front, back)
        .orElseGet(() -> {
          renumber(itemId);
          return among(itemId, priority);
        });
  }

  /** Gives all in a queue places with room between them. */
  void renumber(long itemId) {
    List<Long> ids =
        db.select(BACKORDER.ID)
            .from(BACKORDER)
            .where(BACKORDER.ITEM_ID.eq(itemId))
            .and(OPEN)
            .orderBy(BACKORDER.PLACE, BACKORDER.ID)
            .fetch(BACKORDER.ID);
    for (int k = 0; k < ids.size(); k++) {
      place(ids.get(k), Places.ofNth(k));
    }
  }

  /** Keeps others from reordering the queue until the transaction ends. */
  void lock(long itemId) {
    db.select(ITEM_QUEUE.MARKS)
        .from(ITEM_QUEUE)
        .where(ITEM_QUEUE.ITEM_ID.eq(itemId))
        .forUpdate()
        .fetch();
  }

  /**
   * Says that a queue is to be looked at.
   *
   * @param again whether those who are stuck are tried again
   */
  void mark(long itemId, boolean again) {
    var marked =
        db.insertInto(ITEM_QUEUE)
            .set(ITEM_QUEUE.ITEM_ID, itemId)
            .set(ITEM_QUEUE.MARKS, 1L)
            .set(ITEM_QUEUE.TRIED, again ? 1L : 0L)
            .onDuplicateKeyUpdate()
            .set(ITEM_QUEUE.MARKS, ITEM_QUEUE.MARKS.plus(1));
    (again ? marked.set(ITEM_QUEUE.TRIED, ITEM_QUEUE.MARKS) : marked).execute();
  }

  /** Marks every queue in which somebody is. */
  void markAll() {
    db.selectDistinct(BACKORDER.ITEM_ID)
        .from(BACKORDER)
        .where(OPEN)
        .orderBy(BACKORDER.ITEM_ID)
        .fetch(BACKORDER.ITEM_ID)
        .forEach(item -> mark(item, true));
  }

  /**
   * A queue that one instance looks at.
   *
   * @param marks how many changes it has seen
   * @param again whether those who are stuck are tried again
   */
  record Claim(long itemId, long marks, boolean again) {}

  Optional<Claim> claim() {
    Instant now = clock.instant();
    Optional<Claim> claim =
        db.select(ITEM_QUEUE.ITEM_ID, ITEM_QUEUE.MARKS, ITEM_QUEUE.LOOKED, ITEM_QUEUE.TRIED)
            .from(ITEM_QUEUE)
            .where(ITEM_QUEUE.STALE.isTrue())
            .and(ITEM_QUEUE.CLAIMED_UNTIL.isNull().or(ITEM_QUEUE.CLAIMED_UNTIL.lt(now)))
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOptional(r -> new Claim(r.value1(), r.value2(), r.value4() > r.value3()));
    claim.ifPresent(c -> claimUntil(c.itemId(), now.plus(CLAIM)));
    return claim;
  }

  void keepClaim(Claim claim) {
    claimUntil(claim.itemId(), clock.instant().plus(CLAIM));
  }

  private void claimUntil(long itemId, Instant until) {
    db.update(ITEM_QUEUE)
        .set(ITEM_QUEUE.CLAIMED_UNTIL, until)
        .where(ITEM_QUEUE.ITEM_ID.eq(itemId))
        .execute();
  }

  void looked(Claim claim) {
    db.update(ITEM_QUEUE)
        .set(ITEM_QUEUE.LOOKED, claim.marks())
        .setNull(ITEM_QUEUE.CLAIMED_UNTIL)
        .where(ITEM_QUEUE.ITEM_ID.eq(claim.itemId()))
        .execute();
  }

  /** Units that all who wait for an item need together; 0: nobody waits for it. */
  long needed(long itemId) {
    return needed(BACKORDER.ITEM_ID.eq(itemId));
  }

  private long needed(Condition which) {
    BigDecimal units =
        db.select(sum(BACKORDER.UNITS))
            .from(BACKORDER)
            .where(which)
            .and(OPEN)
            .fetchSingle()
            .value1();
    return units == null ? 0 : units.longValueExact();
  }

  long neededByOthers(long itemId, long orderId) {
    return needed(BACKORDER.ITEM_ID.eq(itemId).and(BACKORDER.ORDER_ID.ne(orderId)));
  }

  /** Of items that are sold before they are sent, how many may be, where that is limited. */
  Map<Long, Long> mostAhead(Collection<Long> itemIds) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), settings.timeZone());
    return db.select(ITEM.ID, ITEM.AHEAD_MOST)
        .from(ITEM)
        .where(ITEM.ID.in(itemIds))
        .and(ITEM.OUT_ON.gt(today))
        .and(ITEM.AHEAD_MOST.isNotNull())
        .orderBy(ITEM.ID)
        .fetchMap(ITEM.ID, ITEM.AHEAD_MOST);
  }

  /** Whether more of an item is expected from somewhere. */
  boolean isExpected(long itemId) {
    return db.fetchExists(
        EXPECTED_SUPPLY, EXPECTED_SUPPLY.ITEM_ID.eq(itemId).and(EXPECTED_SUPPLY.OPEN.isTrue()));
  }
}
