package dev.ordinator.suppliers;

import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.SUPPLIER_OFFER;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.stock.StockLedger;
import dev.ordinator.suppliers.SupplierOffers.Supplier;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What suppliers have, as levels of the nodes from which they send: it is fed to channels, promised
 * and routed as our own stock is. What a supplier said too long ago counts as none.
 */
@Component
class SupplierStock {
  private static final String STALE = "it said so too long ago";

  private final DSLContext db;
  private final StockLedger ledger;

  SupplierStock(DSLContext db, StockLedger ledger) {
    this.db = db;
    this.ledger = ledger;
  }

  /**
   * Makes the levels at a supplier's node what its offers say. Only for what it said just now: it
   * may have sent some of what it said earlier.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void settle(Supplier supplier, String actor) {
    Map<Long, Long> said = supplier.fresh() ? offered(supplier) : Map.of();
    set(supplier, said, actor, supplier.fresh() ? "" : STALE);
  }

  /** An offer got its item: what it says of it counts from now. */
  @Transactional(propagation = Propagation.MANDATORY)
  void settle(Supplier supplier, long itemId, String actor) {
    if (supplier.nodeId() != null && supplier.fresh()) {
      ledger.suppliedBy(
          itemId, supplier.nodeId(), offered(supplier).getOrDefault(itemId, 0L), actor, "");
    }
  }

  /** It no longer sends from there. */
  @Transactional(propagation = Propagation.MANDATORY)
  void clear(Supplier supplier, String actor) {
    set(supplier, Map.of(), actor, "it no longer sends from here");
  }

  private void set(Supplier supplier, Map<Long, Long> units, String actor, String note) {
    if (supplier.nodeId() == null) {
      return;
    }
    Map<Long, Long> there = levels(supplier.nodeId());
    // levels are changed in the order of the items, as everywhere
    Map<Long, Long> wanted = new TreeMap<>(units);
    there.keySet().forEach(item -> wanted.putIfAbsent(item, 0L));
    wanted.forEach((item, quantity) -> {
      if (!Objects.equals(there.getOrDefault(item, 0L), quantity)) {
        ledger.suppliedBy(item, supplier.nodeId(), quantity, actor, note);
      }
    });
  }

  private Map<Long, Long> offered(Supplier supplier) {
    var units = sum(SUPPLIER_OFFER.AVAILABLE);
    Map<Long, Long> offered = new HashMap<>();
    db.select(SUPPLIER_OFFER.ITEM_ID, units)
        .from(SUPPLIER_OFFER)
        .where(SUPPLIER_OFFER.SUPPLIER_ID.eq(supplier.id()))
        .and(SUPPLIER_OFFER.ITEM_ID.isNotNull())
        .groupBy(SUPPLIER_OFFER.ITEM_ID)
        .forEach(r ->
            offered.put(
                r.value1(),
                Objects.requireNonNullElse(r.value2(), BigDecimal.ZERO).longValueExact()));
    return offered;
  }

  private Map<Long, Long> levels(long nodeId) {
    return db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .fetchMap(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.ON_HAND);
  }
}
