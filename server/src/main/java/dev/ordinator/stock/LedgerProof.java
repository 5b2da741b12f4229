package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.LedgerCheck.Discrepancy;
import java.time.LocalTime;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;

/** Proves every night that levels are what the ledger says; what is not becomes a snag. */
@Component
class LedgerProof {
  private static final LocalTime AT = LocalTime.of(3, 17);

  private final DSLContext db;
  private final LedgerCheck ledger;
  private final Snags snags;
  private final Transactions transactions;

  LedgerProof(DSLContext db, LedgerCheck ledger, Snags snags, Transactions transactions) {
    this.db = db;
    this.ledger = ledger;
    this.snags = snags;
    this.transactions = transactions;
  }

  @Bean
  RecurringTask<Void> proveLedger() {
    return Tasks.recurring("prove-ledger", Schedules.daily(AT))
        .execute((instance, context) -> prove());
  }

  /** How many levels are not what they should be. */
  int prove() {
    var found = ledger.discrepancies();
    found.forEach(d -> transactions.run(() -> snags.open(about(d), null, "ledger")));
    return found.size();
  }

  /**
   * Makes an item's levels what its ledger and its allocations add up to, and clears their snags.
   */
  void mend(long itemId, String actor) {
    transactions.run(() ->
        db.select(STOCK_LEVEL.NODE_ID)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .orderBy(STOCK_LEVEL.NODE_ID)
            .fetch(STOCK_LEVEL.NODE_ID)
            .forEach(node -> {
              ledger.mend(itemId, node);
              snags.close(SnagCause.LEDGER_DIFFERS, itemId + "@" + node, actor);
            }));
  }

  private Snags.About about(Discrepancy d) {
    String sku =
        db.select(ITEM.SKU).from(ITEM).where(ITEM.ID.eq(d.itemId())).fetchSingle().value1();
    String node =
        db.select(NODE.NAME).from(NODE).where(NODE.ID.eq(d.nodeId())).fetchSingle().value1();
    return Snags.About.of(
            SnagCause.LEDGER_DIFFERS,
            d.itemId() + "@" + d.nodeId(),
            sku + " at " + node,
            "its level says %d on hand and %d allocated, its ledger %d, its allocations %d"
                .formatted(d.onHand(), d.allocated(), d.ledger(), d.allocations()))
        .item(d.itemId());
  }
}
