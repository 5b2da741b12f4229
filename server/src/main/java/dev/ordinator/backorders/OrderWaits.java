package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.ITEM;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.selectCount;

import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What an order waits for, seen from the order. */
@Component
public class OrderWaits {
  private final DSLContext db;

  OrderWaits(DSLContext db) {
    this.db = db;
  }

  /**
   * An item that the order lacks.
   *
   * @param place in the item's queue, from 1
   * @param readyOn when it is there, as things stand; null: no day in sight
   */
  public record WaitsFor(
      long backorderId,
      long itemId,
      String sku,
      String name,
      long units,
      int place,
      @Nullable LocalDate readyOn) {}

  public List<WaitsFor> of(long orderId) {
    var inFront = BACKORDER.as("in_front");
    var ahead =
        field(
            selectCount()
                .from(inFront)
                .where(inFront.ITEM_ID.eq(BACKORDER.ITEM_ID))
                .and(inFront.CLOSED_AT.isNull())
                .and(inFront.PLACE.lt(BACKORDER.PLACE)));
    return db.select(
            BACKORDER.ID, ITEM.ID, ITEM.SKU, ITEM.NAME, BACKORDER.UNITS, ahead, BACKORDER.READY_ON)
        .from(BACKORDER)
        .join(ITEM)
        .on(ITEM.ID.eq(BACKORDER.ITEM_ID))
        .where(BACKORDER.ORDER_ID.eq(orderId))
        .and(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.LACKING)
        .orderBy(BACKORDER.ID)
        .fetch(r ->
            new WaitsFor(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6() + 1,
                r.value7()));
  }
}
