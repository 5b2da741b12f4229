package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.RECEIPT;
import static dev.ordinator.schema.Tables.RECEIPT_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_COUNT;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectLimitStep;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The ledger as one reads it: what moved, why, on whose account, and with what. */
@Component
class Movements {
  private static final int PAGE = 200;

  private final DSLContext db;
  private final OrdinatorSettings settings;

  Movements(DSLContext db, OrdinatorSettings settings) {
    this.db = db;
    this.settings = settings;
  }

  /**
   * Which movements; each part narrows.
   *
   * @param actor as the movements name them
   * @param lot a lot's or serial number's id
   * @param from first day, in the merchant's time zone; {@code to} the last
   */
  record Which(
      @Nullable Long item,
      @Nullable String node,
      StockLedger.@Nullable Reason reason,
      @Nullable String actor,
      @Nullable Long receipt,
      @Nullable Long count,
      @Nullable Long lot,
      @Nullable LocalDate from,
      @Nullable LocalDate to) {}

  /**
   * @param bin empty: nobody said where
   * @param order the number of the order that it was for
   * @param receipt the supplier's and its delivery's names
   */
  record Movement(
      long id,
      Instant at,
      long itemId,
      String sku,
      String item,
      String node,
      String bin,
      @Nullable Long lotId,
      @Nullable String lot,
      Condition state,
      long quantity,
      StockLedger.Reason reason,
      String actor,
      String note,
      @Nullable Long orderId,
      @Nullable String order,
      @Nullable Long receiptId,
      @Nullable String receipt,
      @Nullable Long countId,
      @Nullable String count) {}

  /**
   * @param expected units; 0: nobody expected it
   * @param damaged units of those that came
   */
  record ReceiptLine(
      long itemId, String sku, String name, long expected, long came, long damaged) {}

  /** A delivery that came. */
  record ReceiptSheet(
      long id,
      String node,
      String supplier,
      String number,
      String note,
      String actor,
      Instant at,
      List<ReceiptLine> lines,
      @Nullable Reversed reversed) {}

  /** A receipt that was taken back. */
  record Reversed(Instant at, String actor, String reason) {}

  /** Newest first. */
  Slice<Movement> page(Which which, String after) {
    var older = after.isEmpty() ? noCondition() : STOCK_MOVEMENT.ID.lt(Long.valueOf(after));
    List<Movement> rows =
        select(condition(which).and(older)).limit(PAGE + 1).fetch(Movements::movement);
    return Slice.of(rows, PAGE, m -> String.valueOf(m.id()));
  }

  /** Gives all of them, newest first. */
  void all(Which which, Consumer<Movement> each) {
    try (var cursor = select(condition(which)).fetchSize(500).fetchLazy()) {
      cursor.forEach(r -> each.accept(movement(r)));
    }
  }

  ReceiptSheet receipt(long id) {
    List<ReceiptLine> lines =
        db.select(
                ITEM.ID,
                ITEM.SKU,
                ITEM.NAME,
                RECEIPT_LINE.EXPECTED,
                RECEIPT_LINE.CAME,
                RECEIPT_LINE.DAMAGED)
            .from(RECEIPT_LINE)
            .join(ITEM)
            .on(ITEM.ID.eq(RECEIPT_LINE.ITEM_ID))
            .where(RECEIPT_LINE.RECEIPT_ID.eq(id))
            .orderBy(RECEIPT_LINE.LINE)
            .fetch(r ->
                new ReceiptLine(
                    r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
    return db.select(
            RECEIPT.ID,
            NODE.NAME,
            RECEIPT.SUPPLIER,
            RECEIPT.NUMBER,
            RECEIPT.NOTE,
            RECEIPT.ACTOR,
            RECEIPT.AT,
            RECEIPT.REVERSED_AT,
            RECEIPT.REVERSED_BY,
            RECEIPT.REVERSAL_NOTE)
        .from(RECEIPT)
        .join(NODE)
        .on(NODE.ID.eq(RECEIPT.NODE_ID))
        .where(RECEIPT.ID.eq(id))
        .fetchOptional(r ->
            new ReceiptSheet(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                lines,
                r.value8() == null ? null : new Reversed(r.value8(), r.value9(), r.value10())))
        .orElseThrow(() -> Problem.notFound("receipt " + id));
  }

  private org.jooq.Condition condition(Which w) {
    org.jooq.Condition all = noCondition();
    all = w.item() == null ? all : all.and(STOCK_MOVEMENT.ITEM_ID.eq(w.item()));
    all = w.node() == null ? all : all.and(NODE.CODE.eq(w.node()));
    all = w.reason() == null ? all : all.and(STOCK_MOVEMENT.REASON.eq(w.reason().name()));
    all = w.actor() == null ? all : all.and(STOCK_MOVEMENT.ACTOR.eq(w.actor()));
    all = w.receipt() == null ? all : all.and(STOCK_MOVEMENT.RECEIPT_ID.eq(w.receipt()));
    all = w.count() == null ? all : all.and(STOCK_MOVEMENT.COUNT_ID.eq(w.count()));
    all = w.lot() == null ? all : all.and(STOCK_PLACE.LOT_ID.eq(w.lot()));
    all = w.from() == null ? all : all.and(STOCK_MOVEMENT.AT.ge(start(w.from())));
    return w.to() == null ? all : all.and(STOCK_MOVEMENT.AT.lt(start(w.to().plusDays(1))));
  }

  private Instant start(LocalDate day) {
    return day.atStartOfDay(settings.timeZone()).toInstant();
  }

  private SelectLimitStep<? extends Record> select(org.jooq.Condition which) {
    return db.select(
            STOCK_MOVEMENT.ID,
            STOCK_MOVEMENT.AT,
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            NODE.NAME,
            STOCK_PLACE.BIN,
            LOT.ID,
            LOT.CODE,
            STOCK_PLACE.STATE,
            STOCK_MOVEMENT.QUANTITY,
            STOCK_MOVEMENT.REASON,
            STOCK_MOVEMENT.ACTOR,
            STOCK_MOVEMENT.NOTE,
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            RECEIPT.ID,
            RECEIPT.SUPPLIER,
            RECEIPT.NUMBER,
            STOCK_COUNT.ID,
            STOCK_COUNT.NAME)
        .from(STOCK_MOVEMENT)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_MOVEMENT.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_MOVEMENT.NODE_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .leftJoin(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(STOCK_MOVEMENT.CONSIGNMENT_ID))
        .leftJoin(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .leftJoin(RECEIPT)
        .on(RECEIPT.ID.eq(STOCK_MOVEMENT.RECEIPT_ID))
        .leftJoin(STOCK_COUNT)
        .on(STOCK_COUNT.ID.eq(STOCK_MOVEMENT.COUNT_ID))
        .where(which)
        .orderBy(STOCK_MOVEMENT.ID.desc());
  }

  private static Movement movement(Record r) {
    String supplier = r.get(RECEIPT.SUPPLIER);
    return new Movement(
        r.get(STOCK_MOVEMENT.ID),
        r.get(STOCK_MOVEMENT.AT),
        r.get(ITEM.ID),
        r.get(ITEM.SKU),
        r.get(ITEM.NAME),
        r.get(NODE.NAME),
        r.get(STOCK_PLACE.BIN),
        r.get(LOT.ID),
        r.get(LOT.CODE),
        Condition.valueOf(r.get(STOCK_PLACE.STATE)),
        r.get(STOCK_MOVEMENT.QUANTITY),
        StockLedger.Reason.valueOf(r.get(STOCK_MOVEMENT.REASON)),
        r.get(STOCK_MOVEMENT.ACTOR),
        r.get(STOCK_MOVEMENT.NOTE),
        r.get(SALES_ORDER.ID),
        r.get(SALES_ORDER.NUMBER),
        r.get(RECEIPT.ID),
        supplier == null ? null : (supplier + " " + r.get(RECEIPT.NUMBER)).strip(),
        r.get(STOCK_COUNT.ID),
        r.get(STOCK_COUNT.NAME));
  }
}
