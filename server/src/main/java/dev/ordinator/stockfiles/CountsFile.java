package dev.ordinator.stockfiles;

import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.stock.StockDesk;
import dev.ordinator.stock.StockDesk.Counted;
import java.util.List;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Counts: what was found in a bin, of a lot. What is there and not in the file stays as it is. */
@Component
class CountsFile implements StockFile {
  private final DSLContext db;
  private final StockDesk desk;

  CountsFile(DSLContext db, StockDesk desk) {
    this.db = db;
    this.desk = desk;
  }

  @Override
  public String name() {
    return "counts";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("sku", "ours", "SYRUP-2", "item"),
        Column.must("node", "code or name", "STW", "warehouse", "place"),
        Column.may("bin", "empty: not said", "F-03", "location"),
        Column.may("lot", "for items that are tracked by it", "S-2026-11", "batch"),
        Column.may(
            "use until", "for a lot that is not known yet", "2027-09-30", "expires", "expiry"),
        Column.must("counted", "sellable units found", "18", "quantity", "count"),
        Column.may("note", "", ""));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    desk.places(place ->
        row.accept(
            List.of(
                place.sku(),
                place.node(),
                place.bin(),
                place.lot() == null ? "" : place.lot(),
                place.expires() == null ? "" : place.expires().toString(),
                Long.toString(place.onHand()),
                "")));
  }

  @Override
  public Work begin() {
    return new Counting();
  }

  private final class Counting implements Work {
    private final Names names = new Names(db);

    @Override
    public Look look(List<Cells> rows) {
      Counted counted = counted(rows.getFirst());
      long before = desk.before(counted);
      return before == counted.units()
          ? Look.SAME
          : Look.of(
              Fate.CHANGED,
              "%d → %d (%+d)".formatted(before, counted.units(), counted.units() - before));
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      desk.count(counted(rows.getFirst()), actor);
    }

    private Counted counted(Cells cells) {
      cells.need("counted");
      Long units = cells.count("counted");
      return new Counted(
          names.item(cells.need("sku")),
          names.node(cells.need("node")),
          cells.text("bin"),
          cells.text("lot"),
          cells.day("use until"),
          units == null ? 0 : units,
          cells.text("note"));
    }
  }
}
