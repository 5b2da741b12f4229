package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.ORDER_CHOICE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.least;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;

import dev.ordinator.core.orders.OrderContent.Part;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
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

  /**
   * Makes some lines what the channel says now; those that it no longer has are cancelled.
   *
   * @param parts what is to be changed of each line, by the channel's id of it
   * @param kept units of lines, as the channel counts them, that stay wanted whatever it says: they
   *     have left
   */
  void amend(
      long orderId,
      List<NewOrder.Line> theirs,
      Map<String, Set<Part>> parts,
      Map<String, Long> kept) {
    Map<String, OrderLine> known = new HashMap<>();
    ofOrder(orderId).forEach(l -> known.put(l.externalId(), l));
    Map<String, NewOrder.Line> now =
        theirs.stream().collect(Collectors.toMap(NewOrder.Line::externalId, l -> l));
    List<NewOrder.Line> fresh = new ArrayList<>();
    parts.forEach((id, its) -> {
      OrderLine before = known.get(id);
      NewOrder.Line line = now.get(id);
      long stays = kept.getOrDefault(id, 0L);
      if (line != null && before != null) {
        amend(before, line, its, stays);
      } else if (line != null) {
        fresh.add(line);
      } else if (before != null) {
        setWanted(before.id(), stays);
      }
    });
    insert(orderId, fresh);
  }

  private void amend(OrderLine before, NewOrder.Line now, Set<Part> parts, long stays) {
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    boolean otherGoods = parts.contains(Part.LINE_LISTING) || parts.contains(Part.LINE_ADDED);
    if (otherGoods) {
      boolean sameListing = before.listingId() == now.listingId();
      row.put(ORDER_LINE.LISTING_ID, now.listingId());
      row.put(ORDER_LINE.ITEM_ID, sameListing ? before.itemId() : null);
      row.put(ORDER_LINE.TITLE, now.title());
    }
    if (otherGoods || parts.contains(Part.LINE_QUANTITY) || parts.contains(Part.LINE_REMOVED)) {
      row.put(ORDER_LINE.QUANTITY, Math.max(now.quantity(), stays));
      row.put(
          ORDER_LINE.CANCELLED,
          Math.max(now.quantity(), stays) - Math.max(now.quantity() - now.cancelled(), stays));
    }
    if (otherGoods || parts.contains(Part.LINE_WISHES)) {
      row.put(ORDER_LINE.PERSONALISATION, wishes(now));
      forgetChoices(before.id());
    }
    if (otherGoods || parts.contains(Part.LINE_PRICE)) {
      row.put(ORDER_LINE.UNIT_PRICE, now.unitPrice().minor());
      row.put(ORDER_LINE.DISCOUNT, now.discount().minor());
    }
    row.put(ORDER_LINE.TAX, tax(now));
    row.put(ORDER_LINE.TAX_RATE, null);
    db.update(ORDER_LINE).set(row).where(ORDER_LINE.ID.eq(before.id())).execute();
  }

  /** What was chosen in its kits was an answer to other wishes. */
  private void forgetChoices(long lineId) {
    db.deleteFrom(ORDER_CHOICE).where(ORDER_CHOICE.ORDER_LINE_ID.eq(lineId)).execute();
    db.deleteFrom(ORDER_PART).where(ORDER_PART.ORDER_LINE_ID.eq(lineId)).execute();
  }

  /** So many of a line are wanted, as the channel counts them; the others are cancelled. */
  private void setWanted(long lineId, long units) {
    db.update(ORDER_LINE)
        .set(ORDER_LINE.CANCELLED, ORDER_LINE.QUANTITY.minus(units))
        .where(ORDER_LINE.ID.eq(lineId))
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
