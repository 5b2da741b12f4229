package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.platform.Problem;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Which units go into a parcel, where each has a number of its own. A serial number is kept as a
 * lot of one unit; what is held for a line is held by quantity until its numbers are scanned, and
 * at the unit's own place from then on.
 */
@Service
public class Serials {
  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final Lots lots;
  private final Expected expected;

  Serials(DSLContext db, StockLedger ledger, StockPlaces places, Lots lots, Expected expected) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.lots = lots;
    this.expected = expected;
  }

  /** The SKU of that one of some items which has a lot or a serial number so called. */
  public Optional<String> skuOf(String code, Collection<Long> itemIds) {
    return db.select(ITEM.SKU)
        .from(LOT)
        .join(ITEM)
        .on(ITEM.ID.eq(LOT.ITEM_ID))
        .where(LOT.CODE.eq(code.strip()))
        .and(LOT.ITEM_ID.in(itemIds))
        .limit(1)
        .fetchOptional(ITEM.SKU);
  }

  /**
   * A unit goes into a parcel.
   *
   * @throws Problem if it is not one that this node has, and that nobody else holds; or another
   *     than those that a run named
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void pack(long consignmentLineId, long itemId, long nodeId, String serial, String actor) {
    ledger.lock(itemId, nodeId);
    if (isNamed(consignmentLineId, serial)) {
      return;
    }
    long place =
        free(itemId, nodeId, serial).orElseGet(() -> identified(itemId, nodeId, serial, actor));
    var byQuantity =
        db.select(ALLOCATION.ID, ALLOCATION.QUANTITY)
            .from(ALLOCATION)
            .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(consignmentLineId))
            .and(ALLOCATION.ENDED_AT.isNull())
            .and(ALLOCATION.PLACE_ID.isNull())
            .limit(1)
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.conflict(noneMore(consignmentLineId)));
    if (byQuantity.value2() > 1) {
      split(byQuantity.value1(), place);
    } else {
      db.update(ALLOCATION)
          .set(ALLOCATION.PLACE_ID, place)
          .where(ALLOCATION.ID.eq(byQuantity.value1()))
          .execute();
    }
    places.hold(place, 1);
  }

  /** Whether a run has named it for the line: it is held already, or has left for it. */
  private boolean isNamed(long consignmentLineId, String serial) {
    return db.update(
                ALLOCATION
                    .join(STOCK_PLACE)
                    .on(STOCK_PLACE.ID.eq(ALLOCATION.PLACE_ID))
                    .join(LOT)
                    .on(LOT.ID.eq(STOCK_PLACE.LOT_ID)))
            .set(ALLOCATION.NAMED, false)
            .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(consignmentLineId))
            .and(ALLOCATION.NAMED)
            .and(LOT.CODE.eq(serial))
            .execute()
        == 1;
  }

  private String noneMore(long consignmentLineId) {
    List<String> named =
        db.select(LOT.CODE)
            .from(ALLOCATION)
            .join(STOCK_PLACE)
            .on(STOCK_PLACE.ID.eq(ALLOCATION.PLACE_ID))
            .join(LOT)
            .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
            .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(consignmentLineId))
            .and(ALLOCATION.NAMED)
            .orderBy(LOT.CODE)
            .fetch(LOT.CODE);
    return named.isEmpty()
        ? "all numbers of it are scanned"
        : "it is to be number " + String.join(" or ", named);
  }

  /** Units are taken out of a parcel again: any of them may go into it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void unpack(long consignmentId) {
    db.select(ALLOCATION.ID, ALLOCATION.PLACE_ID, ALLOCATION.ITEM_ID, ALLOCATION.NODE_ID)
        .from(ALLOCATION)
        .join(CONSIGNMENT_LINE)
        .on(CONSIGNMENT_LINE.ID.eq(ALLOCATION.CONSIGNMENT_LINE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(ALLOCATION.ITEM_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .and(ITEM.TRACKED.eq(Lots.Tracked.SERIAL.name()))
        .and(ALLOCATION.ENDED_AT.isNull())
        .and(ALLOCATION.PLACE_ID.isNotNull())
        .orderBy(ALLOCATION.ITEM_ID, ALLOCATION.ID)
        .fetch()
        .forEach(packed -> {
          ledger.lock(packed.value3(), packed.value4());
          places.hold(packed.value2(), -1);
          db.update(ALLOCATION)
              .setNull(ALLOCATION.PLACE_ID)
              .where(ALLOCATION.ID.eq(packed.value1()))
              .execute();
        });
  }

  private Optional<Long> free(long itemId, long nodeId, String serial) {
    return db.select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .join(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ITEM_ID.eq(itemId))
        .and(STOCK_PLACE.NODE_ID.eq(nodeId))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(LOT.CODE.eq(serial))
        .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED))
        .fetchOptional(STOCK_PLACE.ID);
  }

  /** A unit that came before numbers were kept: its number is known from now on. */
  private long identified(long itemId, long nodeId, String serial, String actor) {
    whereabouts(itemId, serial)
        .ifPresent(where -> {
          throw Problem.conflict("number %s %s".formatted(serial, where));
        });
    var unnumbered =
        db.select(STOCK_PLACE.ID)
            .from(STOCK_PLACE)
            .where(STOCK_PLACE.ITEM_ID.eq(itemId))
            .and(STOCK_PLACE.NODE_ID.eq(nodeId))
            .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
            .and(STOCK_PLACE.LOT_ID.isNull())
            .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED))
            .orderBy(STOCK_PLACE.BIN)
            .limit(1)
            .fetchOptional(STOCK_PLACE.ID)
            .orElseThrow(() ->
                Problem.conflict("no unit with the number %s is on record here".formatted(serial)));
    long lot = lots.of(itemId, serial, null, expected.today(), "code");
    Spot from = places.spot(unnumbered);
    ledger.move(
        unnumbered,
        1,
        new Spot(itemId, nodeId, from.bin(), lot, Condition.SELLABLE),
        Because.of(Reason.MOVE, actor, "its number was seen: " + serial));
    return free(itemId, nodeId, serial).orElseThrow();
  }

  /** Where a number is, if it is known at all. */
  private Optional<String> whereabouts(long itemId, String serial) {
    return db.select(LOT.ID)
        .from(LOT)
        .where(LOT.ITEM_ID.eq(itemId))
        .and(LOT.CODE.eq(serial))
        .fetchOptional(LOT.ID)
        .map(lot ->
            db.select(NODE.NAME, STOCK_PLACE.STATE, CONSIGNMENT.NUMBER)
                .from(STOCK_PLACE)
                .join(NODE)
                .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
                .leftJoin(ALLOCATION)
                .on(ALLOCATION.PLACE_ID.eq(STOCK_PLACE.ID))
                .and(ALLOCATION.ENDED_AT.isNull())
                .leftJoin(CONSIGNMENT_LINE)
                .on(CONSIGNMENT_LINE.ID.eq(ALLOCATION.CONSIGNMENT_LINE_ID))
                .leftJoin(CONSIGNMENT)
                .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
                .where(STOCK_PLACE.LOT_ID.eq(lot))
                .and(STOCK_PLACE.ON_HAND.gt(0L))
                .limit(1)
                .fetchOptional(r -> {
                  if (r.value3() != null) {
                    return "is in " + r.value3() + " already";
                  }
                  return Condition.valueOf(r.value2()) == Condition.SELLABLE
                      ? "is at " + r.value1()
                      : "is at " + r.value1() + ", not to be sold";
                })
                .orElse("has left before: take it in as a delivery first"));
  }

  private void split(long allocationId, long place) {
    var whole = db.fetchSingle(ALLOCATION, ALLOCATION.ID.eq(allocationId));
    db.update(ALLOCATION)
        .set(ALLOCATION.QUANTITY, ALLOCATION.QUANTITY.minus(1L))
        .where(ALLOCATION.ID.eq(allocationId))
        .execute();
    db.insertInto(ALLOCATION)
        .set(ALLOCATION.CONSIGNMENT_LINE_ID, whole.getConsignmentLineId())
        .set(ALLOCATION.ITEM_ID, whole.getItemId())
        .set(ALLOCATION.NODE_ID, whole.getNodeId())
        .set(ALLOCATION.PLACE_ID, place)
        .set(ALLOCATION.QUANTITY, 1L)
        .set(ALLOCATION.MADE_AT, whole.getMadeAt())
        .execute();
  }
}
