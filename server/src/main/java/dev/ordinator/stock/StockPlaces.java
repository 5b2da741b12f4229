package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.stock.StockLedger.Reason;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Record2;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Where the units of a level lie: by bin, lot and state. Every change here is a movement of the
 * ledger. Only {@link StockLedger} calls it, with the level locked.
 */
@Component
class StockPlaces {
  private final DSLContext db;
  private final ShelfLife shelfLife;
  private final Clock clock;

  StockPlaces(DSLContext db, ShelfLife shelfLife, Clock clock) {
    this.db = db;
    this.shelfLife = shelfLife;
    this.clock = clock;
  }

  /**
   * A place at a node.
   *
   * @param bin empty: nobody said where
   * @param lotId null: not known, or not tracked
   */
  record Spot(long itemId, long nodeId, String bin, @Nullable Long lotId, Condition state) {
    static Spot anywhere(long itemId, long nodeId) {
      return new Spot(itemId, nodeId, "", null, Condition.SELLABLE);
    }

    Spot in(Condition other) {
      return new Spot(itemId, nodeId, bin, lotId, other);
    }
  }

  /**
   * Why units move, on whose account, and what they came or went with.
   *
   * @param allocationId what they were held as for the consignment
   * @param countId the list by which they were counted
   */
  record Because(
      Reason reason,
      @Nullable Long consignmentId,
      @Nullable Long allocationId,
      @Nullable Long receiptId,
      @Nullable Long countId,
      String actor,
      String note) {
    static Because of(Reason reason, String actor, String note) {
      return new Because(reason, null, null, null, null, actor, note);
    }

    static Because sent(
        Reason reason, long consignmentId, @Nullable Long allocationId, String actor) {
      return new Because(reason, consignmentId, allocationId, null, null, actor, "");
    }

    static Because came(Reason reason, long receiptId, String actor, String note) {
      return new Because(reason, null, null, receiptId, null, actor, note);
    }

    static Because counted(long countId, String actor, String note) {
      return new Because(Reason.COUNT, null, null, null, countId, actor, note);
    }
  }

  /** The rules of those items that are picked by lot. */
  Map<Long, LotPick.Rule> rules(Collection<Long> itemIds) {
    return db.select(ITEM.ID, ITEM.PICK, ITEM.ONE_LOT, ITEM.MIN_LIFE)
        .from(ITEM)
        .where(ITEM.ID.in(itemIds))
        .and(Lots.BY_LOT)
        .fetchMap(
            ITEM.ID,
            r -> new LotPick.Rule(LotPick.Order.valueOf(r.value2()), r.value3(), r.value4()));
  }

  /** From which places a quantity would be taken; empty if too little lasts long enough. */
  Optional<List<LotPick.Taken>> pick(
      long itemId, long nodeId, long quantity, LotPick.Rule rule, LocalDate arrival) {
    return pick(itemId, nodeId, quantity, rule, arrival, null);
  }

  /**
   * @param lotId the only one that may be taken; null: any
   */
  Optional<List<LotPick.Taken>> pick(
      long itemId,
      long nodeId,
      long quantity,
      LotPick.Rule rule,
      LocalDate arrival,
      @Nullable Long lotId) {
    List<LotPick.Held> held =
        db.select(
                STOCK_PLACE.ID,
                STOCK_PLACE.LOT_KEY,
                LOT.EXPIRES,
                LOT.CAME_AT,
                STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED))
            .from(STOCK_PLACE)
            .leftJoin(LOT)
            .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
            .where(STOCK_PLACE.ITEM_ID.eq(itemId))
            .and(STOCK_PLACE.NODE_ID.eq(nodeId))
            .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
            .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED))
            .and(lotId == null ? noCondition() : STOCK_PLACE.LOT_ID.eq(lotId))
            .fetch(r ->
                new LotPick.Held(
                    r.value1(), r.value2(), r.value3(), cameOn(r.value4()), r.value5()));
    return LotPick.of(held, quantity, rule, arrival);
  }

  /** Units are put somewhere. */
  void put(Spot spot, long units, Because because) {
    move(existing(spot), spot, units, because);
  }

  /** Units are taken from wherever they lie, bin by bin; what is held for somebody stays. */
  void takeAnywhere(long itemId, long nodeId, long units, Because because) {
    long left = units;
    for (Record place : free(itemId, nodeId)) {
      long taken =
          Math.min(left, place.get(STOCK_PLACE.ON_HAND) - place.get(STOCK_PLACE.ALLOCATED));
      Spot from =
          new Spot(
              itemId,
              nodeId,
              place.get(STOCK_PLACE.BIN),
              place.get(STOCK_PLACE.LOT_ID),
              Condition.SELLABLE);
      move(place.get(STOCK_PLACE.ID), from, -taken, because);
      left -= taken;
      if (left == 0) {
        return;
      }
    }
    throw new IllegalStateException(
        "the places of item %d at node %d lack %d units of its level"
            .formatted(itemId, nodeId, left));
  }

  /**
   * Units are taken from one place.
   *
   * @return false if it has not so many that nobody holds
   */
  boolean takeFrom(long placeId, long units, Because because) {
    int taken =
        db.update(STOCK_PLACE)
            .set(STOCK_PLACE.ON_HAND, STOCK_PLACE.ON_HAND.minus(units))
            .where(STOCK_PLACE.ID.eq(placeId))
            .and(STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED).ge(units))
            .execute();
    if (taken == 1) {
      note(placeId, spot(placeId), -units, because);
    }
    return taken == 1;
  }

  /** Units at a place are held for somebody, or, if negative, no longer. */
  void hold(long placeId, long units) {
    db.update(STOCK_PLACE)
        .set(STOCK_PLACE.ALLOCATED, STOCK_PLACE.ALLOCATED.plus(units))
        .where(STOCK_PLACE.ID.eq(placeId))
        .execute();
    changed(spot(placeId));
  }

  /**
   * Units at a place are held for somebody.
   *
   * @return false if it has not so many that nobody holds; nothing is changed then
   */
  boolean holdFree(long placeId, long units) {
    int held =
        db.update(STOCK_PLACE)
            .set(STOCK_PLACE.ALLOCATED, STOCK_PLACE.ALLOCATED.plus(units))
            .where(STOCK_PLACE.ID.eq(placeId))
            .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
            .and(STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED).ge(units))
            .execute();
    if (held == 1) {
      changed(spot(placeId));
    }
    return held == 1;
  }

  /** How much of the level has too little life left follows what its lots have. */
  private void changed(Spot spot) {
    if (spot.lotId() != null) {
      shelfLife.refresh(spot.itemId(), spot.nodeId());
    }
  }

  /** Those of some places whose lots last long enough if they arrive on a day. */
  Set<Long> lasting(Collection<Long> placeIds, LotPick.Rule rule, LocalDate arrival) {
    return db
        .select(STOCK_PLACE.ID, LOT.EXPIRES)
        .from(STOCK_PLACE)
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ID.in(placeIds))
        .fetch()
        .stream()
        .filter(r -> rule.lasts(r.value2(), arrival))
        .map(Record2::value1)
        .collect(Collectors.toSet());
  }

  Spot spot(long placeId) {
    return db.selectFrom(STOCK_PLACE)
        .where(STOCK_PLACE.ID.eq(placeId))
        .fetchSingle(r ->
            new Spot(
                r.getItemId(),
                r.getNodeId(),
                r.getBin(),
                r.getLotId(),
                Condition.valueOf(r.getState())));
  }

  private List<? extends Record> free(long itemId, long nodeId) {
    return db.select(
            STOCK_PLACE.ID,
            STOCK_PLACE.BIN,
            STOCK_PLACE.LOT_ID,
            STOCK_PLACE.ON_HAND,
            STOCK_PLACE.ALLOCATED)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.ITEM_ID.eq(itemId))
        .and(STOCK_PLACE.NODE_ID.eq(nodeId))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED))
        .orderBy(STOCK_PLACE.BIN, STOCK_PLACE.ID)
        .fetch();
  }

  private long existing(Spot spot) {
    return db.select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.ITEM_ID.eq(spot.itemId()))
        .and(STOCK_PLACE.NODE_ID.eq(spot.nodeId()))
        .and(STOCK_PLACE.BIN.eq(spot.bin()))
        .and(STOCK_PLACE.LOT_KEY.eq(Objects.requireNonNullElse(spot.lotId(), 0L)))
        .and(STOCK_PLACE.STATE.eq(spot.state().name()))
        .fetchOptional(STOCK_PLACE.ID)
        .orElseGet(() -> {
          return db.insertInto(STOCK_PLACE)
              .set(STOCK_PLACE.ITEM_ID, spot.itemId())
              .set(STOCK_PLACE.NODE_ID, spot.nodeId())
              .set(STOCK_PLACE.BIN, spot.bin())
              .set(STOCK_PLACE.LOT_ID, spot.lotId())
              .set(STOCK_PLACE.STATE, spot.state().name())
              .returningResult(STOCK_PLACE.ID)
              .fetchSingle()
              .value1();
        });
  }

  private void move(long placeId, Spot spot, long units, Because because) {
    db.update(STOCK_PLACE)
        .set(STOCK_PLACE.ON_HAND, STOCK_PLACE.ON_HAND.plus(units))
        .where(STOCK_PLACE.ID.eq(placeId))
        .execute();
    note(placeId, spot, units, because);
  }

  private void note(long placeId, Spot spot, long units, Because because) {
    changed(spot);
    db.insertInto(STOCK_MOVEMENT)
        .set(STOCK_MOVEMENT.ITEM_ID, spot.itemId())
        .set(STOCK_MOVEMENT.NODE_ID, spot.nodeId())
        .set(STOCK_MOVEMENT.PLACE_ID, placeId)
        .set(STOCK_MOVEMENT.QUANTITY, units)
        .set(STOCK_MOVEMENT.REASON, because.reason().name())
        .set(STOCK_MOVEMENT.CONSIGNMENT_ID, because.consignmentId())
        .set(STOCK_MOVEMENT.ALLOCATION_ID, because.allocationId())
        .set(STOCK_MOVEMENT.RECEIPT_ID, because.receiptId())
        .set(STOCK_MOVEMENT.COUNT_ID, because.countId())
        .set(STOCK_MOVEMENT.ACTOR, because.actor())
        .set(STOCK_MOVEMENT.NOTE, because.note())
        .set(STOCK_MOVEMENT.AT, clock.instant())
        .execute();
  }

  /** What is of no known lot came before all others. */
  private static LocalDate cameOn(@Nullable Instant at) {
    return at == null ? LocalDate.EPOCH : LocalDate.ofInstant(at, ZoneOffset.UTC);
  }
}
