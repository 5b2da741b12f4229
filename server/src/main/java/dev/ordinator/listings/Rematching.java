package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Corrects a wrong match. Orders that have not been released are checked and routed anew with the
 * right item; what a node is already at work on stays as it is.
 */
@Service
class Rematching {
  private final DSLContext db;
  private final Listings listings;
  private final Orders orders;
  private final Consignments consignments;
  private final Events events;

  Rematching(
      DSLContext db, Listings listings, Orders orders, Consignments consignments, Events events) {
    this.db = db;
    this.listings = listings;
    this.orders = orders;
    this.consignments = consignments;
    this.events = events;
  }

  /**
   * What a correction touches.
   *
   * @param anew open orders that would be checked anew
   * @param released open orders that keep the item they have
   */
  record Effect(int anew, int released) {}

  Effect effect(long listing) {
    List<Long> open = openOrders(listing);
    int released =
        db.fetchCount(
            SALES_ORDER,
            SALES_ORDER.ID.in(open).and(SALES_ORDER.STAGE.in("RELEASED", "PACKED", "SHIPPED")));
    return new Effect(open.size() - released, released);
  }

  @Transactional
  public Effect correct(long listing, String sku, long unitsEach, String actor) {
    String before =
        db.select(ITEM.SKU)
            .from(LISTING)
            .join(ITEM)
            .on(ITEM.ID.eq(LISTING.ITEM_ID))
            .where(LISTING.ID.eq(listing))
            .fetchOptional(ITEM.SKU)
            .orElse("nothing");
    listings.setMatch(listing, sku, unitsEach, actor);
    int anew = 0;
    int released = 0;
    for (Long id : openOrders(listing)) {
      OrderHead order = orders.lock(id);
      if (order.stage().compareTo(Stage.RELEASED) >= 0) {
        released++;
        continue;
      }
      anew++;
      consignments.withdraw(id, actor, "a match was corrected");
      db.update(ORDER_LINE)
          .setNull(ORDER_LINE.ITEM_ID)
          .where(ORDER_LINE.ORDER_ID.eq(id))
          .and(ORDER_LINE.LISTING_ID.eq(listing))
          .execute();
      events.record(EventKind.CORRECTED, id, null, actor, "Match corrected", before + " → " + sku);
      consignments.refresh(id);
      orders.setNext(id, Step.CHECK);
    }
    return new Effect(anew, released);
  }

  private List<Long> openOrders(long listing) {
    return db.selectDistinct(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
        .where(ORDER_LINE.LISTING_ID.eq(listing))
        .and(SALES_ORDER.OPEN.isTrue())
        .orderBy(SALES_ORDER.ID)
        .fetch(SALES_ORDER.ID);
  }
}
