package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import java.math.BigDecimal;
import java.util.List;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Record6;
import org.jooq.Select;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Whether levels and places are what movements and allocations add up to. */
@Service
public class LedgerCheck {
  private final DSLContext db;
  private final ShelfLife shelfLife;

  LedgerCheck(DSLContext db, ShelfLife shelfLife) {
    this.db = db;
    this.shelfLife = shelfLife;
  }

  /** An item at a node where a level, or one of its places, is not what it should be. */
  public record Discrepancy(
      long itemId, long nodeId, long onHand, long ledger, long allocated, long allocations) {}

  /** Every level and place that is not equal to its ledger; empty when all is well. */
  public List<Discrepancy> discrepancies() {
    return Stream.concat(levels().stream(), places().stream()).toList();
  }

  /** Makes a level and its places what the ledger and the open allocations add up to. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void mend(long itemId, long nodeId) {
    db.select(STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .forUpdate()
        .fetch();
    db.update(STOCK_PLACE)
        .set(STOCK_PLACE.ON_HAND, whole(movedAtPlace()))
        .set(STOCK_PLACE.ALLOCATED, whole(heldAtPlace()))
        .where(STOCK_PLACE.ITEM_ID.eq(itemId))
        .and(STOCK_PLACE.NODE_ID.eq(nodeId))
        .execute();
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ON_HAND, whole(movedAtLevel()))
        .set(STOCK_LEVEL.ALLOCATED, whole(heldAtLevel()))
        .set(STOCK_LEVEL.EARMARKED, whole(setAside()))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
    shelfLife.refresh(itemId, nodeId);
  }

  private List<Discrepancy> levels() {
    Field<BigDecimal> moved = field(movedAtLevel());
    Field<BigDecimal> held = field(heldAtLevel());
    return db.select(
            STOCK_LEVEL.ITEM_ID,
            STOCK_LEVEL.NODE_ID,
            STOCK_LEVEL.ON_HAND,
            moved,
            STOCK_LEVEL.ALLOCATED,
            held)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ON_HAND.cast(BigDecimal.class).ne(moved))
        .or(STOCK_LEVEL.ALLOCATED.cast(BigDecimal.class).ne(held))
        .or(STOCK_LEVEL.EARMARKED.cast(BigDecimal.class).ne(field(setAside())))
        .fetch(LedgerCheck::discrepancy);
  }

  private List<Discrepancy> places() {
    Field<BigDecimal> moved = field(movedAtPlace());
    Field<BigDecimal> held = field(heldAtPlace());
    return db.select(
            STOCK_PLACE.ITEM_ID,
            STOCK_PLACE.NODE_ID,
            STOCK_PLACE.ON_HAND,
            moved,
            STOCK_PLACE.ALLOCATED,
            held)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.ON_HAND.cast(BigDecimal.class).ne(moved))
        .or(STOCK_PLACE.ALLOCATED.cast(BigDecimal.class).ne(held))
        .fetch(LedgerCheck::discrepancy);
  }

  private static Select<? extends Record1<BigDecimal>> movedAtLevel() {
    return select(coalesce(sum(STOCK_MOVEMENT.QUANTITY), val(BigDecimal.ZERO)))
        .from(STOCK_MOVEMENT)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .where(STOCK_MOVEMENT.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
        .and(STOCK_MOVEMENT.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()));
  }

  private static Select<? extends Record1<BigDecimal>> heldAtLevel() {
    return select(coalesce(sum(ALLOCATION.QUANTITY), val(BigDecimal.ZERO)))
        .from(ALLOCATION)
        .where(ALLOCATION.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
        .and(ALLOCATION.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
        .and(ALLOCATION.ENDED_AT.isNull());
  }

  private static Select<? extends Record1<BigDecimal>> setAside() {
    return select(coalesce(sum(EARMARK.UNITS), val(BigDecimal.ZERO)))
        .from(EARMARK)
        .where(EARMARK.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
        .and(EARMARK.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
        .and(EARMARK.CLOSED_AT.isNull());
  }

  private static Select<? extends Record1<BigDecimal>> movedAtPlace() {
    return select(coalesce(sum(STOCK_MOVEMENT.QUANTITY), val(BigDecimal.ZERO)))
        .from(STOCK_MOVEMENT)
        .where(STOCK_MOVEMENT.PLACE_ID.eq(STOCK_PLACE.ID));
  }

  /** By consignments, and for orders to which a run has given its lot. */
  private static Select<? extends Record1<BigDecimal>> heldAtPlace() {
    Field<BigDecimal> named =
        field(
            select(coalesce(sum(EARMARK.UNITS), val(BigDecimal.ZERO)))
                .from(EARMARK)
                .where(EARMARK.PLACE_ID.eq(STOCK_PLACE.ID))
                .and(EARMARK.CLOSED_AT.isNull()));
    return select(coalesce(sum(ALLOCATION.QUANTITY), val(BigDecimal.ZERO)).plus(named))
        .from(ALLOCATION)
        .where(ALLOCATION.PLACE_ID.eq(STOCK_PLACE.ID))
        .and(ALLOCATION.ENDED_AT.isNull());
  }

  private static Field<Long> whole(Select<? extends Record1<BigDecimal>> sum) {
    return field(sum).cast(Long.class);
  }

  private static Discrepancy discrepancy(
      Record6<Long, Long, Long, BigDecimal, Long, BigDecimal> r) {
    return new Discrepancy(
        r.value1(),
        r.value2(),
        r.value3(),
        r.value4().longValueExact(),
        r.value5(),
        r.value6().longValueExact());
  }
}
