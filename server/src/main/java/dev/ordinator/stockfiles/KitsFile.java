package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;

import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitPrice;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.stock.KitWork;
import dev.ordinator.stock.KitWork.PartLine;
import dev.ordinator.stock.KitWork.Recipe;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Kits: a row for each component; a kit's rows together are all that is in it. */
@Component
class KitsFile implements StockFile {
  private final DSLContext db;
  private final KitWork work;

  KitsFile(DSLContext db, KitWork work) {
    this.db = db;
    this.work = work;
  }

  @Override
  public String name() {
    return "kits";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("kit", "SKU of the kit", "HIVE-KIT"),
        Column.must("component", "SKU", "HP-FLOOR"),
        Column.must("quantity", "units in one kit", "1"),
        Column.may("choice", "components with the same are alternatives", ""),
        Column.may("label", "how an order says that it chooses this one", ""),
        Column.may("taken apart", "at intake, at routing, at packing", "at routing"),
        Column.may("price", "shares, list prices and discount", "shares"));
  }

  @Override
  public String together(Cells cells) {
    return cells.text("kit");
  }

  @Override
  public void write(Consumer<List<String>> row) {
    var kit = ITEM.as("kit_item");
    db.select(
            kit.SKU,
            ITEM.SKU,
            KIT_PART.QUANTITY,
            KIT_PART.CHOICE,
            KIT_PART.LABEL,
            KIT.EXPLODE,
            KIT.PRICING)
        .from(KIT_PART)
        .join(KIT)
        .on(KIT.ITEM_ID.eq(KIT_PART.KIT_ID))
        .join(kit)
        .on(kit.ID.eq(KIT_PART.KIT_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(KIT_PART.ITEM_ID))
        .orderBy(kit.SKU, KIT_PART.ID)
        .forEach(r ->
            row.accept(
                List.of(
                    r.value1(),
                    r.value2(),
                    Long.toString(r.value3()),
                    r.value4(),
                    r.value5(),
                    words(Explode.valueOf(r.value6())),
                    words(KitPrice.Way.valueOf(r.value7())))));
  }

  @Override
  public Work begin() {
    return new Packing();
  }

  private final class Packing implements Work {
    private final Names names = new Names(db);

    @Override
    public Look look(List<Cells> rows) {
      long kit = names.item(rows.getFirst().need("kit"));
      Recipe after = recipe(kit, rows);
      work.check(names.sku(kit), after);
      Optional<Recipe> before = work.recipe(kit);
      if (before.isEmpty()) {
        return Look.of(Fate.NEW, "a kit of %d components".formatted(rows.size()));
      }
      List<String> changes = new ArrayList<>();
      List<PartLine> gone = new ArrayList<>(before.get().parts());
      gone.removeAll(after.parts());
      List<PartLine> come = new ArrayList<>(after.parts());
      come.removeAll(before.get().parts());
      gone.forEach(p -> changes.add("− %d %s".formatted(p.quantity(), p.sku())));
      come.forEach(p -> changes.add("+ %d %s".formatted(p.quantity(), p.sku())));
      if (before.get().explode() != after.explode()) {
        changes.add("taken apart " + words(after.explode()));
      }
      if (before.get().pricing() != after.pricing()) {
        changes.add("price by " + words(after.pricing()));
      }
      return Look.changed(changes);
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      long kit = names.item(rows.getFirst().need("kit"));
      work.save(kit, recipe(kit, rows), actor);
    }

    private Recipe recipe(long kit, List<Cells> rows) {
      Optional<Recipe> before = work.recipe(kit);
      List<PartLine> parts =
          rows.stream()
              .map(c ->
                  new PartLine(
                      c.need("component"),
                      Objects.requireNonNullElse(c.count("quantity"), 0L),
                      c.text("choice"),
                      c.text("label")))
              .sorted(Comparator.comparing(PartLine::sku))
              .toList();
      Cells first = rows.getFirst();
      return new Recipe(
          first.has("taken apart")
              ? one(Explode.values(), "taken apart", first.text("taken apart"))
              : before.map(Recipe::explode).orElse(Explode.AT_ROUTING),
          first.has("price")
              ? one(KitPrice.Way.values(), "price", first.text("price"))
              : before.map(Recipe::pricing).orElse(KitPrice.Way.values()[0]),
          parts,
          before.map(Recipe::version).orElse(0));
    }
  }

  private static <E extends Enum<E>> E one(E[] values, String column, String text) {
    return Arrays.stream(values)
        .filter(v -> words(v).equalsIgnoreCase(text))
        .findFirst()
        .orElseThrow(() ->
            new IllegalArgumentException(
                "%s: ‘%s’ is none of %s"
                    .formatted(
                        column,
                        text,
                        String.join(", ", Arrays.stream(values).map(KitsFile::words).toList()))));
  }

  private static String words(Enum<?> value) {
    return value.name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }
}
