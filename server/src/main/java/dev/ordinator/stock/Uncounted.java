package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Items that nobody counts, such as a leaflet or a length of string: there are always {@link
 * StockLevel#PLENTY} of them wherever goods are kept, and nothing of them is held for orders.
 */
@Component
class Uncounted {
  private final DSLContext db;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  Uncounted(DSLContext db, Events events, ApplicationEventPublisher publisher) {
    this.db = db;
    this.events = events;
    this.publisher = publisher;
  }

  /** A node where they are always to be had. */
  record Keeper(long id, String code, String name) {}

  Set<Long> among(Collection<Long> itemIds) {
    return db.select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.ID.in(itemIds))
        .and(ITEM.COUNTED.isFalse())
        .fetchSet(ITEM.ID);
  }

  /**
   * @param serving codes of nodes; empty: all
   */
  List<Keeper> keepers(Set<String> serving) {
    return db.select(NODE.ID, NODE.CODE, NODE.NAME)
        .from(NODE)
        .where(NODE.KIND.notIn(NodeKind.CHANNEL_DEPOT.name(), NodeKind.SUPPLIER.name()))
        .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
        .orderBy(NODE.POSITION)
        .fetch(r -> new Keeper(r.value1(), r.value2(), r.value3()));
  }

  /**
   * @throws Problem if consignments that hold none of it are on their way out: it can be counted
   *     once they have left
   */
  @Transactional
  public void set(long itemId, boolean counted, String actor) {
    String sku =
        db.select(ITEM.SKU)
            .from(ITEM)
            .where(ITEM.ID.eq(itemId))
            .forUpdate()
            .fetchOptional(ITEM.SKU)
            .orElseThrow(() -> Problem.notFound("item " + itemId));
    int open = counted ? unheld(itemId) : 0;
    if (open > 0) {
      throw Problem.conflict(
          "%d parcels with %s are on their way out, and nothing is held for them: try again once they have left"
              .formatted(open, sku));
    }
    db.update(ITEM).set(ITEM.COUNTED, counted).where(ITEM.ID.eq(itemId)).execute();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        sku + (counted ? " is counted" : " is no longer counted: there is always enough"),
        "");
    if (!counted) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
  }

  private int unheld(long itemId) {
    return db.fetchCount(
        db.selectDistinct(CONSIGNMENT.ID)
            .from(CONSIGNMENT)
            .join(CONSIGNMENT_LINE)
            .on(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(CONSIGNMENT.ID))
            .where(CONSIGNMENT_LINE.ITEM_ID.eq(itemId))
            .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED", "PACKED"))
            .andNotExists(
                selectOne()
                    .from(ALLOCATION)
                    .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(CONSIGNMENT_LINE.ID))));
  }
}
