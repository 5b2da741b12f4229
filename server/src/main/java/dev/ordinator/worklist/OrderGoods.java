package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;
import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.orders.NewOrder.Wish;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What was ordered in an order, and what paid for it. */
@Component
class OrderGoods {
  private final DSLContext db;
  private final JsonMapper json;

  OrderGoods(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  /**
   * Amounts are in minor units of the order's currency.
   *
   * @param quantity units as the channel counts them, {@code cancelled} of them no longer wanted
   * @param instead name of what was ordered, if the item is sent in its place; null: it was
   * @param unitsEach units of the item in one of them
   * @param shipped units of the item handed over so far
   * @param discount the line's own, {@code orderDiscount} its share of the order's
   * @param tax null: not known yet
   * @param parts what its kits come to, once they are apart
   */
  record Line(
      long id,
      int lineNo,
      String title,
      @Nullable Long itemId,
      @Nullable String sku,
      @Nullable String instead,
      long listingId,
      long quantity,
      long cancelled,
      long unitsEach,
      long shipped,
      long unitPrice,
      long discount,
      long orderDiscount,
      @Nullable Long tax,
      List<Wish> wishes,
      List<Part> parts) {}

  /**
   * A component of a line's kits.
   *
   * @param amount what of the line's price it bears
   */
  record Part(long itemId, String sku, String name, long quantity, long amount) {}

  record Tender(String method, long amount, String reference) {}

  List<Line> lines(long orderId) {
    var shipped =
        field(
            select(coalesce(sum(CONSIGNMENT_LINE.ORDERED), val(BigDecimal.ZERO)))
                .from(CONSIGNMENT_LINE)
                .join(CONSIGNMENT)
                .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
                .where(CONSIGNMENT_LINE.ORDER_LINE_ID.eq(ORDER_LINE.ID))
                .and(CONSIGNMENT.HANDED_OVER_AT.isNotNull()));
    Map<Long, List<Part>> parts = parts(orderId);
    var ordered = ITEM.as("ordered_item");
    return db.select(
            ORDER_LINE.ID,
            ORDER_LINE.LINE_NO,
            ORDER_LINE.TITLE,
            ORDER_LINE.ITEM_ID,
            ITEM.SKU,
            ordered.NAME,
            ORDER_LINE.LISTING_ID,
            ORDER_LINE.QUANTITY,
            ORDER_LINE.CANCELLED,
            ORDER_LINE.UNITS_EACH,
            shipped.mul(ORDER_LINE.UNITS_EACH),
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT,
            ORDER_LINE.ORDER_DISCOUNT,
            ORDER_LINE.TAX,
            ORDER_LINE.PERSONALISATION)
        .from(ORDER_LINE)
        .leftJoin(ITEM)
        .on(ITEM.ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(ordered)
        .on(ordered.ID.eq(ORDER_LINE.ORDERED_ITEM_ID))
        .and(ordered.ID.ne(ITEM.ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .orderBy(ORDER_LINE.LINE_NO)
        .fetch(r ->
            new Line(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11().longValueExact(),
                r.value12(),
                r.value13(),
                r.value14(),
                r.value15(),
                wishes(r.value16()),
                parts.getOrDefault(r.value1(), List.of())));
  }

  private Map<Long, List<Part>> parts(long orderId) {
    return db.select(
            ORDER_PART.ORDER_LINE_ID,
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            ORDER_PART.QUANTITY,
            ORDER_PART.AMOUNT)
        .from(ORDER_PART)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(ORDER_PART.ORDER_LINE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(ORDER_PART.ITEM_ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .orderBy(ITEM.SKU)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r -> new Part(r.value2(), r.value3(), r.value4(), r.value5(), r.value6()),
                    Collectors.toList())));
  }

  List<Tender> tenders(long orderId) {
    return db.select(ORDER_PAYMENT.METHOD, ORDER_PAYMENT.AMOUNT, ORDER_PAYMENT.REFERENCE)
        .from(ORDER_PAYMENT)
        .where(ORDER_PAYMENT.ORDER_ID.eq(orderId))
        .orderBy(ORDER_PAYMENT.ID)
        .fetch(r -> new Tender(r.value1(), r.value2(), r.value3()));
  }

  private List<Wish> wishes(@Nullable String kept) {
    return kept == null ? List.of() : List.of(json.readValue(kept, Wish[].class));
  }
}
