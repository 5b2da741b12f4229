package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.schema.tables.records.ExpectedSupplyRecord;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.stock.Expected;
import dev.ordinator.stockfiles.Names.Changes;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Expected supplies: a row for each item of a delivery; none of it any more with quantity 0. */
@Component
class InboundFile implements StockFile {
  private final DSLContext db;
  private final Expected expected;

  InboundFile(DSLContext db, Expected expected) {
    this.db = db;
    this.expected = expected;
  }

  @Override
  public String name() {
    return "inbound";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("from", "who sends it", "Quill & Comb", "supplier", "vendor"),
        Column.may("number", "of the delivery", "PO-4105", "order", "po"),
        Column.must("node", "code or name", "STW", "to", "warehouse"),
        Column.must("sku", "ours", "FO-DEEP-WAX-1", "item"),
        Column.must("quantity", "units; 0: it will not come", "240", "units"),
        Column.must("due", "day", "2026-12-10", "date", "expected"),
        Column.may("counted on", "per cent; empty: 100", "80", "confidence"),
        Column.may("days late", "assumed; empty: none", "3", "slip"));
  }

  @Override
  public String together(Cells cells) {
    return String.join(
        "|", cells.text("from"), cells.text("number"), cells.text("node"), cells.text("sku"));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    db.select(
            EXPECTED_SUPPLY.SUPPLIER,
            EXPECTED_SUPPLY.NUMBER,
            NODE.CODE,
            ITEM.SKU,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.CONFIDENCE,
            EXPECTED_SUPPLY.SLIP_DAYS)
        .from(EXPECTED_SUPPLY)
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(EXPECTED_SUPPLY.ITEM_ID))
        .where(EXPECTED_SUPPLY.OPEN.isTrue())
        .orderBy(EXPECTED_SUPPLY.DUE, EXPECTED_SUPPLY.NUMBER, ITEM.SKU)
        .forEach(r -> row.accept(r.intoList().stream().map(String::valueOf).toList()));
  }

  @Override
  public Work begin() {
    return new Expecting();
  }

  /** Two rows of one supply contradict each other, or one of them is too many. */
  private static Cells only(List<Cells> rows) {
    if (rows.size() > 1) {
      throw new IllegalArgumentException("row %d says the same".formatted(rows.get(1).row()));
    }
    return rows.getFirst();
  }

  private record Key(long itemId, long nodeId, String supplier, String number) {}

  private final class Expecting implements Work {
    private final Names names = new Names(db);
    private final Map<Key, ExpectedSupplyRecord> open = open();
    private final List<Expected.Noted> noted = new ArrayList<>();

    @Override
    public Look look(List<Cells> rows) {
      Cells cells = only(rows);
      Expected.Wish wish = wish(cells);
      Optional<ExpectedSupplyRecord> known = known(cells);
      if (known.isEmpty()) {
        if (wish.quantity() == 0) {
          throw new IllegalArgumentException("nothing of that is expected");
        }
        expected.check(wish);
        return Look.of(Fate.NEW, "%d on %s".formatted(wish.quantity(), wish.due()));
      }
      ExpectedSupplyRecord before = known.get();
      if (wish.quantity() == 0) {
        return Look.of(Fate.CHANGED, "will not come");
      }
      expected.check(wish);
      return Look.changed(
          new Changes()
              .note("quantity", before.getQuantity(), wish.quantity())
              .note("due", before.getDue(), wish.due())
              .note("counted on", before.getConfidence(), wish.confidence())
              .note("days late", before.getSlipDays(), wish.slipDays())
              .words());
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      Cells cells = only(rows);
      Expected.Wish wish = wish(cells);
      Optional<ExpectedSupplyRecord> known = known(cells);
      if (known.isEmpty()) {
        noted.add(new Expected.Noted(names.item(cells.need("sku")), wish));
      } else if (wish.quantity() == 0) {
        expected.drop(known.get().getId(), actor);
      } else {
        expected.change(known.get().getId(), wish, actor);
      }
    }

    @Override
    public void finish(String actor) {
      expected.noteAll(noted, actor);
    }

    private Optional<ExpectedSupplyRecord> known(Cells cells) {
      return Optional.ofNullable(
          open.get(
              new Key(
                  names.item(cells.need("sku")),
                  names.node(cells.need("node")),
                  cells.need("from"),
                  cells.text("number"))));
    }

    private Map<Key, ExpectedSupplyRecord> open() {
      Map<Key, ExpectedSupplyRecord> all = new HashMap<>();
      db.selectFrom(EXPECTED_SUPPLY)
          .where(EXPECTED_SUPPLY.OPEN.isTrue())
          .orderBy(EXPECTED_SUPPLY.ID)
          .forEach(e ->
              all.putIfAbsent(
                  new Key(e.getItemId(), e.getNodeId(), e.getSupplier(), e.getNumber()), e));
      return all;
    }

    private Expected.Wish wish(Cells cells) {
      cells.need("quantity");
      cells.need("due");
      LocalDate due = Objects.requireNonNull(cells.day("due"));
      return new Expected.Wish(
          names.node(cells.need("node")),
          cells.need("from"),
          cells.text("number"),
          Objects.requireNonNull(cells.count("quantity")),
          due,
          Math.toIntExact(Objects.requireNonNullElse(cells.count("counted on"), 100L)),
          Math.toIntExact(Objects.requireNonNullElse(cells.count("days late"), 0L)));
    }
  }
}
