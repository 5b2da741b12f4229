package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static dev.ordinator.schema.Tables.REFUND;
import static dev.ordinator.schema.Tables.REFUND_LINE;
import static dev.ordinator.schema.Tables.REFUND_TENDER;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.TaxRate;
import dev.ordinator.core.orders.Charges;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Refunds, and what of an order they are worked out from. */
@Repository
class RefundStore {
  private static final Condition COUNTS = REFUND.STATE.ne("WITHDRAWN");

  private final DSLContext db;

  RefundStore(DSLContext db) {
    this.db = db;
  }

  /**
   * What was agreed for the order as a whole.
   *
   * @param told what the channel says that it costs; null: it says nothing
   * @param captured what had come in when the order was changed; null: it was not
   */
  record Terms(
      Money discount,
      Money shipping,
      @Nullable Money told,
      @Nullable Money captured,
      boolean pricesWithTax,
      String method) {

    /**
     * What the buyer owes.
     *
     * @param sum what the order's parts add up to
     */
    Money owed(Money sum) {
      return told == null ? sum : told;
    }

    /** What came in by a payment of which the channel does not say how much it was. */
    Money cameIn(Money sum) {
      return captured == null ? owed(sum) : captured;
    }
  }

  /**
   * @param instead name of what was ordered, if the item is sent in its place; null: it was
   * @param units all that were ordered, {@code cancelled} of them no longer wanted
   */
  record Line(
      long id,
      String externalId,
      String title,
      @Nullable String sku,
      @Nullable String instead,
      long units,
      long cancelled,
      Charges.Ordered ordered) {}

  record Tender(String method, Money amount) {}

  /** What was paid back of something. */
  record Back(long units, long amount) {
    static final Back NOTHING = new Back(0, 0);
  }

  Terms terms(long orderId) {
    return db.select(
            SALES_ORDER.CURRENCY,
            SALES_ORDER.DISCOUNT,
            SALES_ORDER.SHIPPING_CHARGE,
            SALES_ORDER.TOLD_TOTAL,
            SALES_ORDER.CAPTURED,
            SALES_ORDER.PRICES_WITH_TAX,
            SALES_ORDER.PAYMENT_METHOD)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(orderId))
        .fetchSingle(r ->
            new Terms(
                Money.of(r.value2(), r.value1()),
                Money.of(r.value3(), r.value1()),
                r.value4() == null ? null : Money.of(r.value4(), r.value1()),
                r.value5() == null ? null : Money.of(r.value5(), r.value1()),
                r.value6(),
                r.value7()));
  }

  void setCaptured(long orderId, long amount) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.CAPTURED, amount)
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
  }

  List<Line> lines(long orderId, String currency) {
    var ordered = ITEM.as("ordered_item");
    return db.select(
            ORDER_LINE.ID,
            ORDER_LINE.EXTERNAL_ID,
            ORDER_LINE.TITLE,
            ITEM.SKU,
            ordered.NAME,
            ORDER_LINE.QUANTITY,
            ORDER_LINE.CANCELLED,
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT,
            ORDER_LINE.TAX,
            ORDER_LINE.TAX_RATE)
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
                new Charges.Ordered(
                    Money.of(r.value8(), currency),
                    r.value6(),
                    Money.of(r.value9(), currency),
                    // with a rate it was computed, and is computed again
                    r.value10() == null || r.value11() != null
                        ? null
                        : Money.of(r.value10(), currency),
                    r.value11() == null ? TaxRate.NONE : new TaxRate(r.value11()))));
  }

  /** The ways in which it was paid, if the channel told several. */
  List<Tender> tenders(long orderId, String currency) {
    return db.select(ORDER_PAYMENT.METHOD, ORDER_PAYMENT.AMOUNT)
        .from(ORDER_PAYMENT)
        .where(ORDER_PAYMENT.ORDER_ID.eq(orderId))
        .orderBy(ORDER_PAYMENT.ID)
        .fetch(r -> new Tender(r.value1(), Money.of(r.value2(), currency)));
  }

  Map<Long, Back> backByLine(long orderId) {
    return db.select(REFUND_LINE.ORDER_LINE_ID, sum(REFUND_LINE.UNITS), sum(REFUND_LINE.AMOUNT))
        .from(REFUND_LINE)
        .join(REFUND)
        .on(REFUND.ID.eq(REFUND_LINE.REFUND_ID))
        .where(REFUND.ORDER_ID.eq(orderId))
        .and(COUNTS)
        .groupBy(REFUND_LINE.ORDER_LINE_ID)
        .fetchMap(
            REFUND_LINE.ORDER_LINE_ID,
            r -> new Back(r.value2().longValueExact(), r.value3().longValueExact()));
  }

  /** By the tender's number. */
  Map<Integer, Long> backByTender(long orderId) {
    return db.select(REFUND_TENDER.TENDER_NO, sum(REFUND_TENDER.AMOUNT))
        .from(REFUND_TENDER)
        .join(REFUND)
        .on(REFUND.ID.eq(REFUND_TENDER.REFUND_ID))
        .where(REFUND.ORDER_ID.eq(orderId))
        .and(COUNTS)
        .groupBy(REFUND_TENDER.TENDER_NO)
        .fetchMap(REFUND_TENDER.TENDER_NO, r -> r.value2().longValueExact());
  }

  long shippingBack(long orderId) {
    return counted(REFUND.SHIPPING, orderId);
  }

  long feesKept(long orderId) {
    return counted(REFUND.FEE, orderId);
  }

  private long counted(Field<Long> amount, long orderId) {
    BigDecimal sum =
        db.select(sum(amount))
            .from(REFUND)
            .where(REFUND.ORDER_ID.eq(orderId))
            .and(COUNTS)
            .fetchSingle()
            .value1();
    return sum == null ? 0 : sum.longValueExact();
  }

  long settled(long orderId) {
    BigDecimal back =
        db.select(sum(REFUND.AMOUNT))
            .from(REFUND)
            .where(REFUND.ORDER_ID.eq(orderId))
            .and(REFUND.STATE.eq("SETTLED"))
            .fetchSingle()
            .value1();
    return back == null ? 0 : back.longValueExact();
  }

  /** Units of a refund by the channel's own line ids. */
  Map<String, Long> unitsOf(long refundId) {
    return db.select(ORDER_LINE.EXTERNAL_ID, REFUND_LINE.UNITS)
        .from(REFUND_LINE)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(REFUND_LINE.ORDER_LINE_ID))
        .where(REFUND_LINE.REFUND_ID.eq(refundId))
        .fetchMap(ORDER_LINE.EXTERNAL_ID, REFUND_LINE.UNITS);
  }

  /** Whether goods came back with a return of an order, and nobody said yet what is owed. */
  boolean isOwed(long orderId, long rmaId) {
    return db.fetchExists(
        RMA, RMA.ID.eq(rmaId).and(RMA.ORDER_ID.eq(orderId)).and(ReturnStore.OWED));
  }

  /** The return for which something is owed, if there is exactly one. */
  @Nullable Long onlyOneOwed(long orderId) {
    List<Long> owed =
        db.select(RMA.ID)
            .from(RMA)
            .where(RMA.ORDER_ID.eq(orderId))
            .and(ReturnStore.OWED)
            .fetch(RMA.ID);
    return owed.size() == 1 ? owed.getFirst() : null;
  }

  List<RefundCard> ofOrder(long orderId) {
    return cards(REFUND.ORDER_ID.eq(orderId));
  }

  List<RefundCard> byId(long id) {
    return cards(REFUND.ID.eq(id));
  }

  private List<RefundCard> cards(Condition which) {
    return new ArrayList<>(
        db.select(
                REFUND.ID,
                REFUND.ORDER_ID,
                REFUND.NO,
                REFUND.AMOUNT,
                REFUND.SHIPPING,
                REFUND.FEE,
                REFUND.REASON,
                REFUND.STATE,
                REFUND.ASKED_BY,
                REFUND.ASKED_AT,
                REFUND.SETTLED_AT)
            .from(REFUND)
            .where(which)
            .orderBy(REFUND.NO)
            .fetch(r ->
                new RefundCard(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7(),
                    RefundCard.State.valueOf(r.value8()),
                    r.value9(),
                    r.value10(),
                    r.value11())));
  }
}
