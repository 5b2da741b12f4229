package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.platform.Problem;
import dev.ordinator.stock.Lots.Tracked;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record3;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Goods that buyers sent back come onto a node's books, and leave them again if they are no good.
 */
@Service
public class CameBack {
  private static final int LONGEST_LOT = 40;

  private final DSLContext db;
  private final StockLedger ledger;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  CameBack(DSLContext db, StockLedger ledger, ApplicationEventPublisher publisher, Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** What becomes of goods that came back. */
  public enum Disposition {
    /** They are sold again. */
    RESTOCK,
    /** Somebody looks at them more closely first. */
    QUARANTINE,
    SCRAP,
    /** They go back to whoever supplied them. */
    SUPPLIER
  }

  /**
   * @param lot empty if the item's lots are not tracked
   * @param mayBeNew whether it may be a lot or number that nobody here knows yet
   */
  public record Goods(long itemId, long nodeId, long units, String lot, boolean mayBeNew) {}

  /**
   * Whoever waits for what is sold again is served at once.
   *
   * @param note such as the number of the return
   * @return the lot's id; null: its lots are not tracked
   * @throws Problem if the lot is missing, not known, or recalled and to be sold again
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public @Nullable Long put(
      Goods goods, Disposition becomes, String actor, String note, String field) {
    var item =
        db.select(ITEM.COUNTED, ITEM.TRACKED)
            .from(ITEM)
            .where(ITEM.ID.eq(goods.itemId()))
            .fetchSingle();
    if (!item.value1()) {
      return null;
    }
    Long lot = lot(goods, Tracked.valueOf(item.value2()), becomes, field);
    Spot spot = new Spot(goods.itemId(), goods.nodeId(), "", lot, state(becomes));
    ledger.put(spot, goods.units(), Because.of(Reason.RETURN, actor, note));
    switch (becomes) {
      case RESTOCK -> publisher.publishEvent(new StockGrew(goods.itemId(), actor));
      case QUARANTINE -> {}
      case SCRAP -> gone(spot, goods.units(), Because.of(Reason.SCRAP, actor, note));
      case SUPPLIER -> gone(spot, goods.units(), Because.of(Reason.TO_SUPPLIER, actor, note));
    }
    return lot;
  }

  /** Of which lots units of an item left for a consignment: units by the lot's code. */
  public Map<String, Long> lotsSent(long consignmentId, long itemId) {
    var left = sum(STOCK_MOVEMENT.QUANTITY).neg();
    return db.select(LOT.CODE, left)
        .from(STOCK_MOVEMENT)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .join(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_MOVEMENT.CONSIGNMENT_ID.eq(consignmentId))
        .and(STOCK_MOVEMENT.ITEM_ID.eq(itemId))
        .groupBy(LOT.CODE)
        .having(left.gt(BigDecimal.ZERO))
        .orderBy(LOT.CODE)
        .fetchMap(LOT.CODE, r -> r.value2().longValueExact());
  }

  private static Condition state(Disposition becomes) {
    return switch (becomes) {
      case RESTOCK -> Condition.SELLABLE;
      case QUARANTINE -> Condition.QUARANTINE;
      case SCRAP, SUPPLIER -> Condition.DAMAGED;
    };
  }

  private void gone(Spot spot, long units, Because because) {
    long place =
        db.select(STOCK_PLACE.ID)
            .from(STOCK_PLACE)
            .where(STOCK_PLACE.ITEM_ID.eq(spot.itemId()))
            .and(STOCK_PLACE.NODE_ID.eq(spot.nodeId()))
            .and(STOCK_PLACE.BIN.eq(spot.bin()))
            .and(STOCK_PLACE.LOT_KEY.eq(spot.lotId() == null ? 0L : spot.lotId()))
            .and(STOCK_PLACE.STATE.eq(spot.state().name()))
            .fetchSingle()
            .value1();
    if (!ledger.take(place, units, because)) {
      throw new IllegalStateException("what came to place " + place + " is not there");
    }
  }

  private @Nullable Long lot(Goods goods, Tracked tracked, Disposition becomes, String field) {
    if (tracked == Tracked.NOTHING) {
      return null;
    }
    if (goods.mayBeNew()) {
      register(goods, field);
    }
    Record3<Long, Boolean, Long> lot =
        db.select(
                LOT.ID,
                field(LOT.RECALLED_AT.isNotNull()),
                coalesce(sum(STOCK_PLACE.ON_HAND), 0).cast(Long.class))
            .from(LOT)
            .leftJoin(STOCK_PLACE)
            .on(STOCK_PLACE.LOT_ID.eq(LOT.ID))
            .where(LOT.ITEM_ID.eq(goods.itemId()))
            .and(LOT.CODE.eq(goods.lot().strip()))
            .groupBy(LOT.ID)
            .fetchOptional()
            .orElseThrow(() -> Problem.invalid(field, "say of which lot it is, or its number"));
    if (lot.value2() && becomes == Disposition.RESTOCK) {
      throw Problem.invalid(field, "lot %s is recalled: it can’t be sold".formatted(goods.lot()));
    }
    if (tracked == Tracked.SERIAL && (goods.units() != 1 || lot.value3() > 0)) {
      throw Problem.invalid(
          field, "each number is one unit, and number %s is one".formatted(goods.lot()));
    }
    return lot.value1();
  }

  /** A lot or number of which nothing was known until it came. */
  private void register(Goods goods, String field) {
    if (goods.lot().strip().length() > LONGEST_LOT) {
      throw Problem.invalid(field, "at most %d characters".formatted(LONGEST_LOT));
    }
    db.insertInto(LOT)
        .set(LOT.ITEM_ID, goods.itemId())
        .set(LOT.CODE, goods.lot().strip())
        .set(LOT.CAME_AT, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
  }
}
