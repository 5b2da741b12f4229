package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import java.math.BigDecimal;
import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one door through which stock changes. Levels are locked in one order (item, then node), and
 * each statement checks what it takes, so that of many who want the last unit exactly one gets it.
 */
@Service
public class StockLedger {
  private final DSLContext db;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  StockLedger(DSLContext db, ApplicationEventPublisher publisher, Clock clock) {
    this.db = db;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** Why units came or went. */
  public enum Reason {
    RECEIPT,
    COUNT,
    HAND_OVER,
    SCRAP,
    /** A channel sent it from its own depot, and told us afterwards. */
    CHANNEL_SHIPPED,
    /** Kits were put together: the kit comes, its components go. */
    ASSEMBLE,
    /** Kits were taken apart. */
    BREAK
  }

  /** Units of an item wanted for a consignment's line. */
  public record Want(long consignmentLineId, long itemId, long quantity) {}

  /** An item at a node where the cached level is not what ledger and allocations add up to. */
  public record Discrepancy(
      long itemId, long nodeId, long onHand, long ledger, long allocated, long allocations) {}

  /** Another took the stock first. The transaction must be rolled back. */
  public static final class TakenMeanwhile extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private TakenMeanwhile(long itemId, long nodeId) {
      super("item " + itemId + " at node " + nodeId + " was taken meanwhile");
    }
  }

  /**
   * Holds stock for lines, all of it or none.
   *
   * @throws TakenMeanwhile if some level has too little available
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void allocate(long nodeId, List<Want> wants) {
    wants.stream()
        .sorted(Comparator.comparingLong(Want::itemId))
        .forEach(want -> {
          int taken =
              db.update(STOCK_LEVEL)
                  .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.plus(want.quantity()))
                  .where(STOCK_LEVEL.ITEM_ID.eq(want.itemId()))
                  .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
                  .and(
                      STOCK_LEVEL
                          .ON_HAND
                          .minus(STOCK_LEVEL.ALLOCATED)
                          .minus(STOCK_LEVEL.SAFETY)
                          .ge(want.quantity()))
                  .execute();
          if (taken == 0) {
            throw new TakenMeanwhile(want.itemId(), nodeId);
          }
          db.insertInto(ALLOCATION)
              .set(ALLOCATION.CONSIGNMENT_LINE_ID, want.consignmentLineId())
              .set(ALLOCATION.ITEM_ID, want.itemId())
              .set(ALLOCATION.NODE_ID, nodeId)
              .set(ALLOCATION.QUANTITY, want.quantity())
              .set(ALLOCATION.MADE_AT, clock.instant())
              .execute();
        });
  }

  /** Stock that was held for lines is free again. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void free(long nodeId, List<Want> lines) {
    lines.stream()
        .sorted(Comparator.comparingLong(Want::itemId))
        .forEach(line -> {
          if (endAllocation(line)) {
            db.update(STOCK_LEVEL)
                .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.minus(line.quantity()))
                .where(STOCK_LEVEL.ITEM_ID.eq(line.itemId()))
                .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
                .execute();
            publisher.publishEvent(new StockGrew(line.itemId(), "desk"));
          }
        });
  }

  /**
   * Goods left a channel's depot. They did, whatever we had on record: what is missing there is
   * counted in first.
   *
   * @return how many units were missing
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long sentByChannel(
      long itemId, long nodeId, long quantity, long consignmentId, String actor) {
    db.insertInto(STOCK_LEVEL)
        .set(STOCK_LEVEL.ITEM_ID, itemId)
        .set(STOCK_LEVEL.NODE_ID, nodeId)
        .set(STOCK_LEVEL.ON_HAND, 0L)
        .onDuplicateKeyIgnore()
        .execute();
    var level =
        db.select(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .forUpdate()
            .fetchSingle();
    long missing = Math.max(0, quantity - (level.value1() - level.value2()));
    if (missing > 0) {
      move(itemId, nodeId, missing, Reason.COUNT, null, actor, "the depot had more than we knew");
    }
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ON_HAND.plus(missing - quantity))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
    move(itemId, nodeId, -quantity, Reason.CHANNEL_SHIPPED, consignmentId, actor, "");
    return missing;
  }

  /** Goods that were allocated leave: the allocations end, and the ledger says so. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void handOver(long nodeId, long consignmentId, List<Want> lines, String actor) {
    lines.stream()
        .sorted(Comparator.comparingLong(Want::itemId))
        .forEach(line -> {
          if (!endAllocation(line)) {
            throw new IllegalStateException(
                "line " + line.consignmentLineId() + " holds no stock to hand over");
          }
          db.update(STOCK_LEVEL)
              .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.minus(line.quantity()))
              .set(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ON_HAND.minus(line.quantity()))
              .where(STOCK_LEVEL.ITEM_ID.eq(line.itemId()))
              .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
              .execute();
          move(line.itemId(), nodeId, -line.quantity(), Reason.HAND_OVER, consignmentId, actor, "");
        });
  }

  /**
   * Adds or removes units that are not allocated.
   *
   * @param quantity units, negative to remove
   * @return false if it would leave less than is allocated; nothing is changed then
   */
  @Transactional
  public boolean adjust(
      long itemId, long nodeId, long quantity, Reason reason, String actor, String note) {
    db.insertInto(STOCK_LEVEL)
        .set(STOCK_LEVEL.ITEM_ID, itemId)
        .set(STOCK_LEVEL.NODE_ID, nodeId)
        .set(STOCK_LEVEL.ON_HAND, 0L)
        .onDuplicateKeyIgnore()
        .execute();
    int changed =
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ON_HAND.plus(quantity))
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .and(STOCK_LEVEL.ON_HAND.plus(quantity).ge(STOCK_LEVEL.ALLOCATED))
            .execute();
    if (changed == 1) {
      move(itemId, nodeId, quantity, reason, null, actor, note);
    }
    return changed == 1;
  }

  /** Every level that is not equal to its ledger and its allocations; empty when all is well. */
  public List<Discrepancy> discrepancies() {
    var ledger =
        db.select(
                STOCK_MOVEMENT.ITEM_ID,
                STOCK_MOVEMENT.NODE_ID,
                sum(STOCK_MOVEMENT.QUANTITY).as("units"))
            .from(STOCK_MOVEMENT)
            .groupBy(STOCK_MOVEMENT.ITEM_ID, STOCK_MOVEMENT.NODE_ID)
            .asTable("ledger");
    var held =
        db.select(ALLOCATION.ITEM_ID, ALLOCATION.NODE_ID, sum(ALLOCATION.QUANTITY).as("units"))
            .from(ALLOCATION)
            .where(ALLOCATION.ENDED_AT.isNull())
            .groupBy(ALLOCATION.ITEM_ID, ALLOCATION.NODE_ID)
            .asTable("held");
    var moved = coalesce(ledger.field("units", BigDecimal.class), val(BigDecimal.ZERO));
    var allocated = coalesce(held.field("units", BigDecimal.class), val(BigDecimal.ZERO));
    return db.select(
            STOCK_LEVEL.ITEM_ID,
            STOCK_LEVEL.NODE_ID,
            STOCK_LEVEL.ON_HAND,
            moved,
            STOCK_LEVEL.ALLOCATED,
            allocated)
        .from(STOCK_LEVEL)
        .leftJoin(ledger)
        .on(STOCK_LEVEL.ITEM_ID.eq(ledger.field(STOCK_MOVEMENT.ITEM_ID)))
        .and(STOCK_LEVEL.NODE_ID.eq(ledger.field(STOCK_MOVEMENT.NODE_ID)))
        .leftJoin(held)
        .on(STOCK_LEVEL.ITEM_ID.eq(held.field(ALLOCATION.ITEM_ID)))
        .and(STOCK_LEVEL.NODE_ID.eq(held.field(ALLOCATION.NODE_ID)))
        .where(STOCK_LEVEL.ON_HAND.cast(BigDecimal.class).ne(moved))
        .or(STOCK_LEVEL.ALLOCATED.cast(BigDecimal.class).ne(allocated))
        .fetch(r ->
            new Discrepancy(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4().longValueExact(),
                r.value5(),
                r.value6().longValueExact()));
  }

  /** Makes a level what its ledger and its open allocations add up to. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void mend(long itemId, long nodeId) {
    var moved =
        select(coalesce(sum(STOCK_MOVEMENT.QUANTITY), val(BigDecimal.ZERO)))
            .from(STOCK_MOVEMENT)
            .where(STOCK_MOVEMENT.ITEM_ID.eq(itemId))
            .and(STOCK_MOVEMENT.NODE_ID.eq(nodeId));
    var held =
        select(coalesce(sum(ALLOCATION.QUANTITY), val(BigDecimal.ZERO)))
            .from(ALLOCATION)
            .where(ALLOCATION.ITEM_ID.eq(itemId))
            .and(ALLOCATION.NODE_ID.eq(nodeId))
            .and(ALLOCATION.ENDED_AT.isNull());
    db.select(STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .forUpdate()
        .fetch();
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ON_HAND, field(moved).cast(Long.class))
        .set(STOCK_LEVEL.ALLOCATED, field(held).cast(Long.class))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
  }

  private boolean endAllocation(Want line) {
    return db.update(ALLOCATION)
            .set(ALLOCATION.ENDED_AT, clock.instant())
            .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(line.consignmentLineId()))
            .and(ALLOCATION.ENDED_AT.isNull())
            .execute()
        == 1;
  }

  private void move(
      long itemId,
      long nodeId,
      long quantity,
      Reason reason,
      @Nullable Long consignmentId,
      String actor,
      String note) {
    db.insertInto(STOCK_MOVEMENT)
        .set(STOCK_MOVEMENT.ITEM_ID, itemId)
        .set(STOCK_MOVEMENT.NODE_ID, nodeId)
        .set(STOCK_MOVEMENT.QUANTITY, quantity)
        .set(STOCK_MOVEMENT.REASON, reason.name())
        .set(STOCK_MOVEMENT.CONSIGNMENT_ID, consignmentId)
        .set(STOCK_MOVEMENT.ACTOR, actor)
        .set(STOCK_MOVEMENT.NOTE, note)
        .set(STOCK_MOVEMENT.AT, clock.instant())
        .execute();
  }
}
