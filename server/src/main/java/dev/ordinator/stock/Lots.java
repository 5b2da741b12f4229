package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Which items are tracked by lot, their lots, and where those lie. */
@Service
public class Lots {
  /** Items of which it is decided in advance from which lot they are taken. */
  static final org.jooq.Condition BY_LOT =
      ITEM.TRACKED.in(Tracked.LOT.name(), Tracked.EXPIRY.name());

  private static final int LONGEST_LIFE = 3_650;

  private final DSLContext db;
  private final ShelfLife shelfLife;
  private final Events events;
  private final Clock clock;

  Lots(DSLContext db, ShelfLife shelfLife, Events events, Clock clock) {
    this.db = db;
    this.shelfLife = shelfLife;
    this.events = events;
    this.clock = clock;
  }

  /** By what the units of an item are told apart. */
  public enum Tracked {
    NOTHING,
    LOT,
    /** By lot, each with the last day on which it may be used. */
    EXPIRY,
    /**
     * Each by a number of its own, kept as a lot of one; which is sent is seen when it is packed.
     */
    SERIAL;

    boolean isByLot() {
      return this == LOT || this == EXPIRY;
    }
  }

  /**
   * How an item is tracked.
   *
   * @param oneLot one lot for a line is preferred over several
   * @param minLife days that it must last after it arrived
   */
  public record Tracking(Tracked by, LotPick.Order pick, boolean oneLot, int minLife) {}

  /**
   * Units of an item that lie together.
   *
   * @param bin empty: nobody said where
   * @param lot null: not known, or not tracked
   * @param allocated of those allocations that name this place
   */
  record Place(
      long id,
      long nodeId,
      String node,
      String bin,
      @Nullable Long lotId,
      @Nullable String lot,
      @Nullable LocalDate expires,
      @Nullable Instant recalledAt,
      Condition state,
      long onHand,
      long allocated) {}

  Tracking tracking(long itemId) {
    return db.select(ITEM.TRACKED, ITEM.PICK, ITEM.ONE_LOT, ITEM.MIN_LIFE)
        .from(ITEM)
        .where(ITEM.ID.eq(itemId))
        .fetchOptional(r ->
            new Tracking(
                Tracked.valueOf(r.value1()),
                LotPick.Order.valueOf(r.value2()),
                r.value3(),
                r.value4()))
        .orElseThrow(() -> Problem.notFound("item " + itemId));
  }

  /** From now on; what is there already is of no known lot. */
  @Transactional
  public void setTracking(long itemId, Tracking tracking, String actor) {
    if (tracking.minLife() < 0 || tracking.minLife() > LONGEST_LIFE) {
      throw Problem.invalid("minLife", "0 to %,d days".formatted(LONGEST_LIFE));
    }
    tracking(itemId);
    db.update(ITEM)
        .set(ITEM.TRACKED, tracking.by().name())
        .set(ITEM.PICK, tracking.pick().name())
        .set(ITEM.ONE_LOT, tracking.oneLot())
        .set(ITEM.MIN_LIFE, tracking.minLife())
        .where(ITEM.ID.eq(itemId))
        .execute();
    shelfLife.refreshAll(itemId, actor);
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "Item %d is tracked by %s".formatted(itemId, tracking.by().name().toLowerCase(Locale.ROOT)),
        "");
  }

  /** Where an item lies, what goes first above; empty places are left out. */
  List<Place> places(long itemId) {
    return db.select(
            STOCK_PLACE.ID,
            NODE.ID,
            NODE.NAME,
            STOCK_PLACE.BIN,
            LOT.ID,
            LOT.CODE,
            LOT.EXPIRES,
            LOT.RECALLED_AT,
            STOCK_PLACE.STATE,
            STOCK_PLACE.ON_HAND,
            STOCK_PLACE.ALLOCATED)
        .from(STOCK_PLACE)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ITEM_ID.eq(itemId))
        .and(STOCK_PLACE.ON_HAND.gt(0L))
        .orderBy(NODE.POSITION, LOT.EXPIRES, LOT.CAME_AT, STOCK_PLACE.BIN, STOCK_PLACE.ID)
        .fetch(r ->
            new Place(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                Condition.valueOf(r.value9()),
                r.value10(),
                r.value11()));
  }

  /**
   * The lot with that code; it is made if none of it came before.
   *
   * @throws Problem if it is known to expire on another day, or has expired
   */
  @Transactional(propagation = Propagation.MANDATORY)
  long of(long itemId, String code, @Nullable LocalDate expires, LocalDate today, String field) {
    if (code.isBlank() || code.length() > 40) {
      throw Problem.invalid(field, "a lot has 1 to 40 characters");
    }
    String stripped = code.strip();
    Optional<Record2<Long, LocalDate>> known = known(itemId, stripped);
    if (known.isEmpty()) {
      if (expires != null && expires.isBefore(today)) {
        throw Problem.invalid(field, "it expired on " + expires);
      }
      // Somebody else may receive the same lot at this moment: whoever is second finds theirs.
      db.insertInto(LOT)
          .set(LOT.ITEM_ID, itemId)
          .set(LOT.CODE, stripped)
          .set(LOT.EXPIRES, expires)
          .set(LOT.CAME_AT, clock.instant())
          .onDuplicateKeyIgnore()
          .execute();
      known = known(itemId, stripped);
    }
    LocalDate before = known.orElseThrow().value2();
    if (expires != null && !Objects.equals(before, expires)) {
      throw Problem.invalid(field, "lot %s is known to expire on %s".formatted(stripped, before));
    }
    return known.orElseThrow().value1();
  }

  private Optional<Record2<Long, LocalDate>> known(long itemId, String code) {
    return db.select(LOT.ID, LOT.EXPIRES)
        .from(LOT)
        .where(LOT.ITEM_ID.eq(itemId))
        .and(LOT.CODE.eq(code))
        .fetchOptional();
  }
}
