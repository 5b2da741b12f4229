package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.LotPick;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.Counts;
import dev.ordinator.stock.Lots;
import dev.ordinator.stock.StockDesk;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.stock.StockLedger.Reason;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** How the merchant keeps its stock, and what is being counted today. */
@Component
class DemoStock {
  private static final String MANAGER = "Mara";
  private static final String COUNTER = "Joss";

  private final DSLContext db;
  private final Lots lots;
  private final Nodes nodes;
  private final Counts counts;
  private final StockDesk desk;
  private final StockLedger ledger;
  private final Transactions transactions;

  DemoStock(
      DSLContext db,
      Lots lots,
      Nodes nodes,
      Counts counts,
      StockDesk desk,
      StockLedger ledger,
      Transactions transactions) {
    this.db = db;
    this.lots = lots;
    this.nodes = nodes;
    this.counts = counts;
    this.desk = desk;
    this.ledger = ledger;
    this.transactions = transactions;
  }

  /** Extractors have serial numbers; what a store has packed is off its shelves. */
  void prepare() {
    db.select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.CATEGORY.eq("extractors"))
        .forEach(item ->
            lots.setTracking(
                item.value1(),
                new Lots.Tracking(Lots.Tracked.SERIAL, LotPick.Order.FIFO, false, 0),
                MANAGER));
    transactions.run(() ->
        nodes.all().stream()
            .filter(n -> n.kind() == NodeKind.STORE)
            .forEach(n -> nodes.setLeaves(n.id(), LeaveMoment.PACK)));
    hangUpInStores();
  }

  /** Some clothing hangs in the stores only, where people try it on: orders with more are split. */
  private void hangUpInStores() {
    long stillwater = node("STW");
    List<Long> stores = List.of(node("CAN"), node("FER"));
    db.select(ITEM.ID, STOCK_LEVEL.ON_HAND)
        .from(ITEM)
        .join(STOCK_LEVEL)
        .on(STOCK_LEVEL.ITEM_ID.eq(ITEM.ID))
        .and(STOCK_LEVEL.NODE_ID.eq(stillwater))
        .where(ITEM.SKU.startsWith("SUIT-AIR-").or(ITEM.SKU.startsWith("GLOVE-NIT-")))
        .orderBy(ITEM.ID)
        .forEach(item -> {
          long half = item.value2() / 2;
          move(item.value1(), stillwater, -item.value2());
          move(item.value1(), stores.getFirst(), half);
          move(item.value1(), stores.getLast(), item.value2() - half);
        });
  }

  private void move(long item, long node, long units) {
    ledger.adjust(item, node, units, Reason.ADJUST, MANAGER, "hangs in the stores");
  }

  /** What is short is short whatever was sold before: the last of it is used up in the workshop. */
  void runOut() {
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .where(ITEM.SKU.in(DemoWorld.SHORT_SKU, DemoWorld.SUPPLIED_SKU, DemoWorld.SPRING_SKU))
        .and(NODE.KIND.in("WAREHOUSE", "STORE"))
        .orderBy(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
        .forEach(level ->
            ledger.adjust(
                level.value1(),
                level.value2(),
                level.value4() - level.value3(),
                Reason.SCRAP,
                MANAGER,
                "used up"));
  }

  private long node(String code) {
    return db.select(NODE.ID).from(NODE).where(NODE.CODE.eq(code)).fetchSingle().value1();
  }

  /** A row of bins is being counted; of another some differences wait to be seen. */
  void count() {
    long stillwater = node("STW");
    long seen = counts.begin(wish(stillwater, "Row C", "C-"), COUNTER);
    walk(seen, "C-", 100);
    counts.finish(seen, COUNTER);
    walk(counts.begin(wish(stillwater, "Row A", "A-"), MANAGER), "A-", 7);
  }

  private static Counts.Wish wish(long node, String name, String bins) {
    return new Counts.Wish(node, "Stillwater, " + name, bins, "", true, 5_000L);
  }

  /** Every fifth bin has one unit less than is on record. */
  private void walk(long count, String bins, int places) {
    List<StockDesk.Lying> lying = new ArrayList<>();
    desk.places(p -> {
      if (p.node().equals("STW") && p.bin().startsWith(bins) && lying.size() < places) {
        lying.add(p);
      }
    });
    for (int i = 0; i < lying.size(); i++) {
      StockDesk.Lying p = lying.get(i);
      counts.found(
          count,
          new Counts.Found(
              p.sku(),
              p.bin(),
              p.lot() == null ? "" : p.lot(),
              null,
              Math.max(0, p.onHand() - (i % 5 == 2 ? 1 : 0)),
              null,
              ""),
          COUNTER);
    }
  }
}
