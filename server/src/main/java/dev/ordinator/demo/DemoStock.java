package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.LotPick;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.Counts;
import dev.ordinator.stock.Lots;
import dev.ordinator.stock.StockDesk;
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
  private final Transactions transactions;

  DemoStock(
      DSLContext db,
      Lots lots,
      Nodes nodes,
      Counts counts,
      StockDesk desk,
      Transactions transactions) {
    this.db = db;
    this.lots = lots;
    this.nodes = nodes;
    this.counts = counts;
    this.desk = desk;
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
  }

  /** A row of bins is being counted; of another some differences wait to be seen. */
  void count() {
    long stillwater =
        db.select(NODE.ID).from(NODE).where(NODE.CODE.eq("STW")).fetchSingle().value1();
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
