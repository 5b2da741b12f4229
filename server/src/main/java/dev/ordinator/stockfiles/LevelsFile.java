package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.stock.Levels;
import dev.ordinator.stock.StockDesk;
import dev.ordinator.stock.StockDesk.Level;
import dev.ordinator.stockfiles.Names.Changes;
import java.util.List;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Levels: what of an item is at a node, what is kept back there, and what is too much. */
@Component
class LevelsFile implements StockFile {
  private final DSLContext db;
  private final StockDesk desk;

  LevelsFile(DSLContext db, StockDesk desk) {
    this.db = db;
    this.desk = desk;
  }

  @Override
  public String name() {
    return "levels";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("sku", "ours", "SMOKER-L", "item"),
        Column.must("node", "code or name", "STW", "warehouse", "place"),
        Column.may("on hand", "sellable units; for items without lots", "40", "stock", "quantity"),
        Column.may("kept back", "never offered", "2", "safety", "safety stock"),
        Column.may("at most", "more is a surplus", "", "maximum"),
        Column.may("allocated", "read only", ""),
        Column.may("set aside", "read only", ""),
        Column.may("available", "read only", ""));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    try (var levels =
        db.select(ITEM.SKU, NODE.CODE, STOCK_LEVEL.MOST, Levels.FREE)
            .select(
                STOCK_LEVEL.ON_HAND,
                STOCK_LEVEL.ALLOCATED,
                STOCK_LEVEL.SAFETY,
                STOCK_LEVEL.EARMARKED)
            .from(STOCK_LEVEL)
            .join(ITEM)
            .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
            .join(NODE)
            .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
            .orderBy(ITEM.SKU, NODE.POSITION)
            .fetchSize(500)
            .fetchLazy()) {
      for (var level : levels) {
        row.accept(
            List.of(
                level.get(ITEM.SKU),
                level.get(NODE.CODE),
                Long.toString(level.get(STOCK_LEVEL.ON_HAND)),
                Long.toString(level.get(STOCK_LEVEL.SAFETY)),
                level.get(STOCK_LEVEL.MOST) == null ? "" : level.get(STOCK_LEVEL.MOST).toString(),
                Long.toString(level.get(STOCK_LEVEL.ALLOCATED)),
                Long.toString(level.get(STOCK_LEVEL.EARMARKED)),
                Long.toString(Math.max(0, level.get(Levels.FREE)))));
      }
    }
  }

  @Override
  public Work begin() {
    return new Levelling();
  }

  private final class Levelling implements Work {
    private final Names names = new Names(db);

    @Override
    public Look look(List<Cells> rows) {
      Cells cells = rows.getFirst();
      Level before = desk.level(item(cells), node(cells));
      Long onHand = cells.count("on hand");
      Long safety = cells.count("kept back");
      Long most = cells.count("at most");
      if (onHand != null && onHand != before.onHand()) {
        if (before.tracked()) {
          throw new IllegalArgumentException("its lots are tracked: use a file of counts");
        }
        if (onHand < before.allocated()) {
          throw new IllegalArgumentException(
              "%d units are allocated to orders; free them first".formatted(before.allocated()));
        }
      }
      if (most != null && most < (safety == null ? before.safety() : safety)) {
        throw new IllegalArgumentException("at most is less than what is kept back");
      }
      return Look.changed(
          new Changes()
              .note("on hand", before.onHand(), onHand)
              .note("kept back", before.safety(), safety)
              .note("at most", before.most(), most)
              .words());
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      Cells cells = rows.getFirst();
      long item = item(cells);
      long node = node(cells);
      Level before = desk.level(item, node);
      Long onHand = cells.count("on hand");
      if (onHand != null) {
        desk.count(item, node, onHand, actor);
      }
      desk.limit(
          item,
          node,
          or(cells.count("kept back"), before.safety()),
          cells.has("at most") ? cells.count("at most") : before.most(),
          actor);
    }

    private long item(Cells cells) {
      return names.item(cells.need("sku"));
    }

    private long node(Cells cells) {
      return names.node(cells.need("node"));
    }

    private static long or(@Nullable Long value, long otherwise) {
      return value == null ? otherwise : value;
    }
  }
}
