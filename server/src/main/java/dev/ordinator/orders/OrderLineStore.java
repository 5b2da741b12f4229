package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.least;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** The lines of orders. A line that is no longer wanted stays, all of it cancelled. */
@Repository
class OrderLineStore {
  private final DSLContext db;
  private final JsonMapper json;

  OrderLineStore(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  void insert(long orderId, List<NewOrder.Line> lines) {
    Integer last =
        db.select(max(ORDER_LINE.LINE_NO))
            .from(ORDER_LINE)
            .where(ORDER_LINE.ORDER_ID.eq(orderId))
            .fetchSingle()
            .value1();
    int lineNo = last == null ? 0 : last;
    var insert =
        db.insertInto(
            ORDER_LINE,
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.LINE_NO,
            ORDER_LINE.EXTERNAL_ID,
            ORDER_LINE.LISTING_ID,
            ORDER_LINE.TITLE,
            ORDER_LINE.QUANTITY,
            ORDER_LINE.CANCELLED,
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT,
            ORDER_LINE.TAX,
            ORDER_LINE.PERSONALISATION);
    for (NewOrder.Line line : lines) {
      insert =
          insert.values(
              orderId,
              ++lineNo,
              line.externalId(),
              line.listingId(),
              line.title(),
              line.quantity(),
              line.cancelled(),
              line.unitPrice().minor(),
              line.discount().minor(),
              tax(line),
              wishes(line));
    }
    if (!lines.isEmpty()) {
      insert.execute();
    }
  }

  List<OrderLine> ofOrder(long orderId) {
    return ofOrders(List.of(orderId)).getOrDefault(orderId, List.of());
  }

  /** Lines by their orders. */
  Map<Long, List<OrderLine>> ofOrders(Collection<Long> orderIds) {
    return db.select(
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.ID,
            ORDER_LINE.LINE_NO,
            ORDER_LINE.EXTERNAL_ID,
            ORDER_LINE.LISTING_ID,
            ORDER_LINE.ITEM_ID,
            ORDER_LINE.TITLE,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH),
            ORDER_LINE.UNITS_EACH)
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.in(orderIds))
        .orderBy(ORDER_LINE.ORDER_ID, ORDER_LINE.LINE_NO)
        .fetchGroups(
            ORDER_LINE.ORDER_ID,
            r ->
                new OrderLine(
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7(),
                    r.value8(),
                    r.value9()));
  }

  /** Gives lines the items that their listings are matched to. */
  void takeMatches(long orderId) {
    var match = LISTING.ID.eq(ORDER_LINE.LISTING_ID);
    db.update(ORDER_LINE)
        .set(ORDER_LINE.ITEM_ID, field(select(LISTING.ITEM_ID).from(LISTING).where(match)))
        .set(ORDER_LINE.UNITS_EACH, field(select(LISTING.UNITS_EACH).from(LISTING).where(match)))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .and(ORDER_LINE.ITEM_ID.isNull())
        .execute();
  }

  /** Makes the lines what the channel says now; those that it no longer has are cancelled. */
  void amend(long orderId, List<NewOrder.Line> wanted) {
    Map<String, OrderLine> known = new HashMap<>();
    ofOrder(orderId).forEach(l -> known.put(l.externalId(), l));
    List<NewOrder.Line> fresh = new ArrayList<>();
    for (NewOrder.Line line : wanted) {
      OrderLine before = known.remove(line.externalId());
      if (before == null) {
        fresh.add(line);
      } else {
        amend(before, line);
      }
    }
    known.values().forEach(gone -> cancel(gone.id()));
    insert(orderId, fresh);
  }

  private void amend(OrderLine before, NewOrder.Line now) {
    boolean sameListing = before.listingId() == now.listingId();
    db.update(ORDER_LINE)
        .set(ORDER_LINE.LISTING_ID, now.listingId())
        .set(ORDER_LINE.ITEM_ID, sameListing ? before.itemId() : null)
        .set(ORDER_LINE.TITLE, now.title())
        .set(ORDER_LINE.QUANTITY, now.quantity())
        .set(ORDER_LINE.CANCELLED, now.cancelled())
        .set(ORDER_LINE.UNIT_PRICE, now.unitPrice().minor())
        .set(ORDER_LINE.DISCOUNT, now.discount().minor())
        .set(ORDER_LINE.TAX, tax(now))
        .setNull(ORDER_LINE.TAX_RATE)
        .set(ORDER_LINE.PERSONALISATION, wishes(now))
        .where(ORDER_LINE.ID.eq(before.id()))
        .execute();
  }

  /** What was ordered first is kept. */
  void replace(long lineId, long itemId) {
    db.update(ORDER_LINE)
        .set(ORDER_LINE.ORDERED_ITEM_ID, coalesce(ORDER_LINE.ORDERED_ITEM_ID, ORDER_LINE.ITEM_ID))
        .set(ORDER_LINE.ITEM_ID, itemId)
        .where(ORDER_LINE.ID.eq(lineId))
        .execute();
  }

  /** Cancels units of a line, as the channel counts them, as far as they are open. */
  void cancel(long lineId, long units) {
    db.update(ORDER_LINE)
        .set(ORDER_LINE.CANCELLED, least(ORDER_LINE.QUANTITY, ORDER_LINE.CANCELLED.plus(units)))
        .where(ORDER_LINE.ID.eq(lineId))
        .execute();
  }

  /** Cancels what is open of a line. */
  void cancel(long lineId) {
    db.update(ORDER_LINE)
        .set(ORDER_LINE.CANCELLED, ORDER_LINE.QUANTITY)
        .where(ORDER_LINE.ID.eq(lineId))
        .execute();
  }

  static @Nullable Long tax(NewOrder.Line line) {
    var tax = line.tax();
    return tax == null ? null : tax.minor();
  }

  @Nullable String wishes(NewOrder.Line line) {
    return line.wishes().isEmpty() ? null : json.writeValueAsString(line.wishes());
  }
}
