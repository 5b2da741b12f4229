package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.network.CapacityDays;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.routing.RoutingPauses;
import dev.ordinator.stock.StockGrew;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Orders that found no way and don't wait in a queue: short ones that may not wait, refused ones,
 * and those that no node could send there. They are tried again when there is more of what they
 * want, a node is back to which nothing was routed, or one has more places in a day.
 */
@Component
class StuckOrders {
  private static final List<SnagCause> NO_GOODS =
      List.of(SnagCause.NOT_TO_WAIT, SnagCause.NO_ROUTE);
  private static final List<SnagCause> NO_NODE = List.of(SnagCause.NO_ROUTE, SnagCause.NODES_FULL);

  private final DSLContext db;
  private final Orders orders;

  StuckOrders(DSLContext db, Orders orders) {
    this.db = db;
    this.orders = orders;
  }

  @EventListener
  void routingResumed(RoutingPauses.Resumed resumed) {
    wake(NO_NODE, noCondition());
  }

  @EventListener
  void capacityChanged(CapacityDays.Changed changed) {
    wake(List.of(SnagCause.NODES_FULL), noCondition());
  }

  @EventListener
  void stockGrew(StockGrew grew) {
    wake(
        NO_GOODS,
        exists(
            selectOne()
                .from(ORDER_LINE)
                .leftJoin(KIT)
                .on(KIT.ITEM_ID.eq(ORDER_LINE.ITEM_ID))
                .leftJoin(ORDER_PART)
                .on(ORDER_PART.ORDER_LINE_ID.eq(ORDER_LINE.ID))
                .where(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
                // what a kit that is not apart yet needs is found out when it is tried
                .and(
                    ORDER_LINE
                        .ITEM_ID
                        .eq(grew.itemId())
                        .or(ORDER_PART.ITEM_ID.eq(grew.itemId()))
                        .or(KIT.ITEM_ID.isNotNull().and(ORDER_PART.ITEM_ID.isNull())))));
  }

  private void wake(List<SnagCause> causes, Condition which) {
    orders.wake(
        db.selectDistinct(SALES_ORDER.ID)
            .from(SNAG)
            .join(SNAG_ORDER)
            .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
            .join(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(SNAG_ORDER.ORDER_ID))
            .where(SNAG.CLOSED_AT.isNull())
            .and(SNAG.CAUSE.in(causes.stream().map(SnagCause::name).toList()))
            .and(SALES_ORDER.STAGE.eq(Stage.APPROVED.name()))
            .and(SALES_ORDER.WAITING.isFalse())
            .and(SALES_ORDER.HELD.isFalse())
            .and(which)
            .orderBy(SALES_ORDER.ID)
            .fetch(SALES_ORDER.ID));
  }
}
