package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.PARCEL;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.returns.RefundCard;
import dev.ordinator.returns.Refunds;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Where orders stand, as machines are told it. */
@Component
class OrderStates {
  private static final List<String> LEFT =
      Arrays.stream(ConsignmentState.values())
          .filter(s -> s.reached(ConsignmentState.HANDED_OVER))
          .map(Enum::name)
          .toList();

  private final DSLContext db;
  private final Refunds refunds;

  OrderStates(DSLContext db, Refunds refunds) {
    this.db = db;
    this.refunds = refunds;
  }

  /**
   * An order.
   *
   * @param id the caller's own
   * @param number ours
   * @param stuck something needs a person before it goes on
   */
  record OrderState(
      String id,
      long revision,
      String number,
      Stage stage,
      PaymentState payment,
      boolean held,
      boolean stuck,
      List<LineState> lines,
      List<ParcelState> parcels,
      List<RefundState> refunds) {}

  /**
   * @param sku null: not matched to an item yet
   * @param sent units, as they were ordered, that a carrier has
   */
  record LineState(String id, @Nullable String sku, long quantity, long cancelled, long sent) {}

  record ParcelState(
      String consignment,
      ConsignmentState state,
      String carrier,
      String tracking,
      String trackingUrl) {}

  /**
   * @param amount minor units of the order's currency; yours to pay back while it is ASKED
   */
  record RefundState(
      int number, long amount, String currency, String reason, RefundCard.State state) {}

  OrderState of(OrderHead order) {
    return new OrderState(
        order.externalId(),
        order.externalRevision(),
        order.number(),
        order.stage(),
        order.payment(),
        order.held(),
        order.snagged(),
        lines(order.id()),
        parcels(order.id()),
        refunds.ofOrder(order.id()).stream()
            .map(r -> new RefundState(r.no(), r.amount(), order.currency(), r.reason(), r.state()))
            .toList());
  }

  private List<LineState> lines(long orderId) {
    var sent =
        field(
            select(coalesce(sum(CONSIGNMENT_LINE.ORDERED), val(BigDecimal.ZERO)))
                .from(CONSIGNMENT_LINE)
                .join(CONSIGNMENT)
                .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
                .where(CONSIGNMENT_LINE.ORDER_LINE_ID.eq(ORDER_LINE.ID))
                .and(CONSIGNMENT.STATE.in(LEFT)));
    return db.select(
            ORDER_LINE.EXTERNAL_ID, ITEM.SKU, ORDER_LINE.QUANTITY, ORDER_LINE.CANCELLED, sent)
        .from(ORDER_LINE)
        .leftJoin(ITEM)
        .on(ITEM.ID.eq(ORDER_LINE.ITEM_ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .orderBy(ORDER_LINE.LINE_NO)
        .fetch(r ->
            new LineState(
                r.value1(), r.value2(), r.value3(), r.value4(), r.value5().longValueExact()));
  }

  private List<ParcelState> parcels(long orderId) {
    return db.select(
            CONSIGNMENT.NUMBER,
            CONSIGNMENT.STATE,
            CARRIER.NAME,
            PARCEL.TRACKING,
            CARRIER.TRACKING_URL)
        .from(PARCEL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
        .join(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .and(CONSIGNMENT.STATE.in(LEFT))
        .orderBy(PARCEL.ID)
        .fetch(r ->
            new ParcelState(
                r.value1(),
                ConsignmentState.valueOf(r.value2()),
                r.value3(),
                r.value4(),
                r.value5().replace("{tracking}", r.value4())));
  }
}
