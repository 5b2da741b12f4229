package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.Lots.Tracked;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.time.LocalDate;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What people say of stock: what they counted, received or scrapped, and what is kept back. */
@Service
public class StockDesk {
  static final long MOST_UNITS = 1_000_000;

  private final DSLContext db;
  private final StockLedger ledger;
  private final Lots lots;
  private final Expected expected;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  StockDesk(
      DSLContext db,
      StockLedger ledger,
      Lots lots,
      Expected expected,
      Events events,
      ApplicationEventPublisher publisher) {
    this.db = db;
    this.ledger = ledger;
    this.lots = lots;
    this.expected = expected;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * An item at a node, in units.
   *
   * @param most more than this on hand is a surplus; null: no limit
   * @param available what anybody may be given
   * @param tracked whether its lots are
   */
  public record Level(
      long onHand,
      long allocated,
      long safety,
      @Nullable Long most,
      long available,
      boolean tracked) {}

  /**
   * Sellable units that were found in a bin.
   *
   * @param lot empty if they are of none
   * @param expires for a lot that is not known yet
   */
  public record Counted(
      long itemId,
      long nodeId,
      String bin,
      String lot,
      @Nullable LocalDate expires,
      long units,
      String note) {}

  /** Sellable units that lie somewhere, as a count of them would say. */
  public record Lying(
      String sku,
      String node,
      String bin,
      @Nullable String lot,
      @Nullable LocalDate expires,
      long onHand) {}

  /**
   * What was found, or what came. Exactly one of {@code counted} and {@code change} is given.
   *
   * @param placeId where; needed for items whose lots are tracked
   */
  record Adjustment(
      long nodeId,
      @Nullable Long placeId,
      Reason reason,
      @Nullable Long counted,
      @Nullable Long change,
      String note) {}

  public Level level(long itemId, long nodeId) {
    boolean tracked = lots.tracking(itemId).by() != Tracked.NOTHING;
    return db.select(STOCK_LEVEL.MOST)
        .select(Levels.FIELDS)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .fetchOptional(r -> {
          var level = Levels.of(r);
          return new Level(
              level.onHand(),
              level.allocated(),
              level.safety(),
              r.get(STOCK_LEVEL.MOST),
              level.available(),
              tracked);
        })
        .orElse(new Level(0, 0, 0, null, 0, tracked));
  }

  /**
   * Records what somebody found or did.
   *
   * @throws Problem if it does not fit, or would leave less than is allocated
   */
  @Transactional
  Level adjust(long itemId, Adjustment a, String actor) {
    check(a);
    if (!db.fetchExists(ITEM, ITEM.ID.eq(itemId))
        || !db.fetchExists(NODE, NODE.ID.eq(a.nodeId()))) {
      throw Problem.notFound("item " + itemId + " at node " + a.nodeId());
    }
    ledger.lock(itemId, a.nodeId());
    Level before = level(itemId, a.nodeId());
    if (before.tracked() && a.placeId() == null) {
      throw Problem.invalid(
          "placeId", "its lots are tracked: say which lot, or receive a delivery");
    }
    long there = a.placeId() == null ? before.onHand() : at(itemId, a.nodeId(), a.placeId());
    long change = a.change() != null ? a.change() : Objects.requireNonNull(a.counted()) - there;
    if (change == 0) {
      return before;
    }
    boolean done =
        a.placeId() == null
            ? ledger.adjust(itemId, a.nodeId(), change, a.reason(), actor, a.note())
            : ledger.adjustAt(a.placeId(), change, a.reason(), actor, a.note());
    if (!done) {
      throw Problem.invalid(
          a.counted() != null ? "counted" : "change",
          "%d units are allocated to orders; free them first".formatted(before.allocated()));
    }
    noted(itemId, change, actor, a.note());
    return level(itemId, a.nodeId());
  }

  /** All that a node has of an item was counted; of items whose lots are not tracked. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void count(long itemId, long nodeId, long units, String actor) {
    adjust(itemId, new Adjustment(nodeId, null, Reason.COUNT, units, null, ""), actor);
  }

  /** Sellable units that are on record where something was counted. */
  public long before(Counted counted) {
    check(counted);
    return place(counted).map(r -> r.get(STOCK_PLACE.ON_HAND)).orElse(0L);
  }

  /** A bin was counted. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void count(Counted counted, String actor) {
    ledger.lock(counted.itemId(), counted.nodeId());
    long change = counted.units() - before(counted);
    if (!change(counted, change, Because.of(Reason.COUNT, actor, counted.note()))) {
      throw Problem.invalid("counted", "more of it is allocated to orders; free them first");
    }
  }

  /**
   * A bin was counted some time ago, and had more or fewer units than were on record then.
   *
   * @param countId the list by which it was counted
   * @return false if orders hold what is missing; nothing is changed then
   */
  @Transactional(propagation = Propagation.MANDATORY)
  boolean differs(Counted counted, long difference, long countId, String actor) {
    ledger.lock(counted.itemId(), counted.nodeId());
    return change(counted, difference, Because.counted(countId, actor, counted.note()));
  }

  private boolean change(Counted counted, long change, Because because) {
    if (change == 0) {
      return true;
    }
    if (change > 0) {
      Long lot = counted.lot().isEmpty() ? null : lot(counted);
      ledger.put(
          new Spot(counted.itemId(), counted.nodeId(), counted.bin(), lot, Condition.SELLABLE),
          change,
          because);
    } else if (place(counted)
        .filter(p -> ledger.take(p.get(STOCK_PLACE.ID), -change, because))
        .isEmpty()) {
      return false;
    }
    noted(counted.itemId(), change, because.actor(), because.note());
    return true;
  }

  /** Gives all that lies anywhere. */
  public void places(Consumer<Lying> each) {
    try (var places =
        db.select(ITEM.SKU, NODE.CODE, STOCK_PLACE.BIN, LOT.CODE, LOT.EXPIRES, STOCK_PLACE.ON_HAND)
            .from(STOCK_PLACE)
            .join(ITEM)
            .on(ITEM.ID.eq(STOCK_PLACE.ITEM_ID))
            .join(NODE)
            .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
            .leftJoin(LOT)
            .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
            .where(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
            .and(STOCK_PLACE.ON_HAND.gt(0L))
            .orderBy(NODE.POSITION, STOCK_PLACE.BIN, ITEM.SKU)
            .fetchSize(500)
            .fetchLazy()) {
      places.forEach(r ->
          each.accept(
              new Lying(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6())));
    }
  }

  /**
   * Sets what a node keeps back, and what is too much there.
   *
   * @param safety units that are never offered
   * @param most more than this on hand is a surplus; null: no limit
   */
  @Transactional
  public void limit(long itemId, long nodeId, long safety, @Nullable Long most, String actor) {
    if (safety < 0 || safety > MOST_UNITS) {
      throw Problem.invalid("safety", "0 to %,d units".formatted(MOST_UNITS));
    }
    if (most != null && (most < safety || most > MOST_UNITS)) {
      throw Problem.invalid("most", "no less than what is kept back");
    }
    Level before = level(itemId, nodeId);
    if (before.safety() == safety && Objects.equals(before.most(), most)) {
      return;
    }
    ledger.setLimits(itemId, nodeId, safety, most);
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "Of item %d, %d units are kept back".formatted(itemId, safety),
        "");
    if (safety < before.safety()) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
  }

  private Optional<? extends Record> place(Counted counted) {
    org.jooq.Condition lot =
        counted.lot().isEmpty() ? STOCK_PLACE.LOT_ID.isNull() : LOT.CODE.eq(counted.lot());
    return db.select(STOCK_PLACE.ID, STOCK_PLACE.ON_HAND)
        .from(STOCK_PLACE)
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ITEM_ID.eq(counted.itemId()))
        .and(STOCK_PLACE.NODE_ID.eq(counted.nodeId()))
        .and(STOCK_PLACE.BIN.eq(counted.bin()))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(lot)
        .fetchOptional();
  }

  private long lot(Counted counted) {
    return lots.of(counted.itemId(), counted.lot(), counted.expires(), expected.today(), "lot");
  }

  private void check(Counted counted) {
    Tracked by = lots.tracking(counted.itemId()).by();
    if (by == Tracked.NOTHING && !counted.lot().isEmpty()) {
      throw Problem.invalid("lot", "its lots are not tracked");
    }
    if (by != Tracked.NOTHING && counted.lot().isEmpty()) {
      throw Problem.invalid("lot", "say which lot it is of");
    }
    boolean known =
        counted.lot().isEmpty()
            || db.fetchExists(
                LOT, LOT.ITEM_ID.eq(counted.itemId()).and(LOT.CODE.eq(counted.lot())));
    if (!known && by == Tracked.EXPIRY && counted.expires() == null) {
      throw Problem.invalid("use until", "lot %s is not known yet".formatted(counted.lot()));
    }
    Receiving.checkBin(counted.bin(), "bin");
    if (by == Tracked.SERIAL && counted.units() > 1) {
      throw Problem.invalid("counted", "each unit has a number of its own: 0 or 1");
    }
    if (counted.units() < 0 || counted.units() > MOST_UNITS) {
      throw Problem.invalid("counted", "0 to %,d units".formatted(MOST_UNITS));
    }
    if (counted.note().length() > 400) {
      throw Problem.invalid("note", "a note has at most 400 characters");
    }
  }

  private long at(long itemId, long nodeId, long placeId) {
    return lots.places(itemId).stream()
        .filter(p -> p.id() == placeId && p.nodeId() == nodeId)
        .findFirst()
        .orElseThrow(() -> Problem.invalid("placeId", "none of it lies there"))
        .onHand();
  }

  private void noted(long itemId, long change, String actor, String note) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, "Stock of item " + itemId, note);
    if (change > 0) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
  }

  private static void check(Adjustment a) {
    if ((a.counted() == null) == (a.change() == null)) {
      throw Problem.invalid("counted", "give either what was counted or the change");
    }
    if (a.counted() != null && (a.counted() < 0 || a.counted() > MOST_UNITS)) {
      throw Problem.invalid("counted", "a count is between 0 and " + MOST_UNITS);
    }
    if (a.change() != null && Math.abs(a.change()) > MOST_UNITS) {
      throw Problem.invalid("change", "at most " + MOST_UNITS + " units at once");
    }
    boolean fits =
        switch (a.reason()) {
          case COUNT -> a.counted() != null;
          case RECEIPT, RETURN -> a.change() != null && a.change() > 0;
          case ADJUST -> a.change() != null && a.change() != 0;
          case SCRAP -> a.change() != null && a.change() < 0;
          // goods leave at the packing bench, or a channel says that it sent them; kits are put
          // together and taken apart as a whole, suppliers speak through their files
          case PICK,
              PUT_BACK,
              HAND_OVER,
              TO_SUPPLIER,
              CHANNEL_SHIPPED,
              ASSEMBLE,
              BREAK,
              SUPPLIER_SAID,
              QUARANTINE,
              TRANSFER_OUT,
              TRANSFER_IN,
              TRANSFER_LOST,
              MOVE ->
              false;
        };
    if (!fits) {
      throw Problem.invalid(
          "reason",
          "what is received or sent back adds units, scrapping takes some away, a count says what is there");
    }
    if (a.reason() == StockLedger.Reason.ADJUST && a.note().isBlank()) {
      throw Problem.invalid("note", "say why");
    }
    if (a.note().length() > 400) {
      throw Problem.invalid("note", "a note has at most 400 characters");
    }
  }
}
