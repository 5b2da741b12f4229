package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.schema.tables.records.ItemRecord;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.stockfiles.Names.Changes;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Items: a row each. An empty cell leaves as it is what is there already. */
@Component
class ItemsFile implements StockFile, StockFile.Work {
  private static final long MOST = 1_000_000_000;

  private final DSLContext db;
  private final OrdinatorSettings settings;

  ItemsFile(DSLContext db, OrdinatorSettings settings) {
    this.db = db;
    this.settings = settings;
  }

  @Override
  public String name() {
    return "items";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("sku", "ours", "SMOKER-L", "item", "item number", "article"),
        Column.may("name", "needed for a new item", "Smoker, large", "title", "description"),
        Column.may("gtin", "8 to 14 digits", "8712340050806", "ean", "upc", "barcode"),
        Column.may("category", "", "tools"),
        Column.may("weight", "grams", "1200", "weight (g)"),
        Column.may("volume", "millilitres", "4200", "volume (ml)"),
        Column.may("hazard", "hazard class", ""),
        Column.may("not to", "countries, ISO 3166, comma between", ""),
        Column.may("list price", "with tax, base currency", "39.95", "price"),
        Column.may("cost", "without tax, base currency", "17.20"),
        Column.may("supplier code", "the supplier’s own", ""),
        Column.may("family", "what variants share", ""),
        Column.may("ended", "yes: no longer sold", "no"),
        Column.may("counted", "no: there is always enough", "yes"),
        Column.may("home node", "a node’s code: tried first", ""));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    try (var items = db.selectFrom(ITEM).orderBy(ITEM.SKU).fetchSize(500).fetchLazy()) {
      for (ItemRecord item : items) {
        row.accept(
            List.of(
                item.getSku(),
                item.getName(),
                text(item.getGtin()),
                item.getCategory(),
                text(item.getWeight()),
                text(item.getVolume()),
                text(item.getHazard()),
                item.getBannedCountries(),
                money(item.getListPrice()),
                money(item.getCost()),
                text(item.getSupplierCode()),
                item.getFamily(),
                item.getEnded() ? "yes" : "no",
                item.getCounted() ? "yes" : "no",
                home(item)));
      }
    }
  }

  @Override
  public Work begin() {
    return this;
  }

  @Override
  public Look look(List<Cells> rows) {
    Cells cells = rows.getFirst();
    ItemRecord after = changed(cells);
    Optional<ItemRecord> known = known(cells);
    if (known.isEmpty()) {
      return Look.of(Fate.NEW, cells.need("name"));
    }
    ItemRecord before = known.get();
    return Look.changed(
        new Changes()
            .note("name", before.getName(), after.getName())
            .note("GTIN", before.getGtin(), after.getGtin())
            .note("category", before.getCategory(), after.getCategory())
            .note("weight", before.getWeight(), after.getWeight())
            .note("volume", before.getVolume(), after.getVolume())
            .note("hazard", before.getHazard(), after.getHazard())
            .note("not to", before.getBannedCountries(), after.getBannedCountries())
            .note("price", money(before.getListPrice()), money(after.getListPrice()))
            .note("cost", money(before.getCost()), money(after.getCost()))
            .note("supplier code", before.getSupplierCode(), after.getSupplierCode())
            .note("family", before.getFamily(), after.getFamily())
            .note("ended", before.getEnded(), after.getEnded())
            .note("counted", before.getCounted(), after.getCounted())
            .note("home node", home(before), home(after))
            .words());
  }

  @Override
  public void take(List<Cells> rows, String actor) {
    ItemRecord item = changed(rows.getFirst());
    if (item.getId() == null) {
      item.insert();
    } else {
      item.update();
    }
  }

  private Optional<ItemRecord> known(Cells cells) {
    return db.selectFrom(ITEM).where(ITEM.SKU.eq(cells.need("sku"))).fetchOptional();
  }

  /** The item as it would be. */
  private ItemRecord changed(Cells cells) {
    ItemRecord item = known(cells).orElseGet(() -> fresh(cells));
    if (cells.has("name")) {
      item.setName(atMost("name", cells.text("name"), 200));
    }
    if (cells.has("gtin")) {
      item.setGtin(gtin(item, cells.text("gtin")));
    }
    if (cells.has("category")) {
      item.setCategory(atMost("category", cells.text("category"), 60));
    }
    item.setWeight(Objects.requireNonNullElse(within(cells, "weight"), item.getWeight()));
    item.setVolume(Objects.requireNonNullElse(within(cells, "volume"), item.getVolume()));
    if (cells.has("hazard")) {
      item.setHazard(atMost("hazard", cells.text("hazard"), 10));
    }
    if (cells.has("not to")) {
      item.setBannedCountries(countries(cells.text("not to")));
    }
    item.setListPrice(Objects.requireNonNullElse(price(cells, "list price"), item.getListPrice()));
    Long cost = price(cells, "cost");
    item.setCost(cost == null ? item.getCost() : cost);
    if (cells.has("supplier code")) {
      item.setSupplierCode(atMost("supplier code", cells.text("supplier code"), 60));
    }
    if (cells.has("family")) {
      item.setFamily(atMost("family", cells.text("family"), 60));
    }
    if (cells.has("home node")) {
      item.setHomeNodeId(new Names(db).node(cells.text("home node")));
    }
    item.setEnded(Objects.requireNonNullElse(cells.yes("ended"), item.getEnded()));
    item.setCounted(Objects.requireNonNullElse(cells.yes("counted"), item.getCounted()));
    return item;
  }

  private String home(ItemRecord item) {
    Long home = item.getHomeNodeId();
    return home == null
        ? ""
        : db.select(NODE.CODE).from(NODE).where(NODE.ID.eq(home)).fetchSingle().value1();
  }

  private ItemRecord fresh(Cells cells) {
    ItemRecord item = db.newRecord(ITEM);
    item.setSku(atMost("sku", cells.need("sku"), 60));
    item.setName(cells.need("name"));
    item.setCategory("new");
    item.setWeight(0L);
    item.setVolume(0L);
    item.setListPrice(0L);
    item.setEnded(false);
    item.setCounted(true);
    return item;
  }

  private String gtin(ItemRecord item, String text) {
    String gtin = new Gtin(text).normalized();
    boolean taken = db.fetchExists(ITEM, ITEM.GTIN.eq(gtin).and(ITEM.SKU.ne(item.getSku())));
    if (taken) {
      throw new IllegalArgumentException("another item has the GTIN " + text);
    }
    return gtin;
  }

  private static String countries(String text) {
    String list = text.toUpperCase(Locale.ROOT).replaceAll("[\\s;,]+", ",");
    if (!list.matches("[A-Z]{2}(,[A-Z]{2})*") || list.length() > 200) {
      throw new IllegalArgumentException("not to: ‘" + text + "’ is no list of countries");
    }
    return list;
  }

  private static @Nullable Long within(Cells cells, String column) {
    Long value = cells.count(column);
    if (value != null && value > MOST) {
      throw new IllegalArgumentException(column + " is too large");
    }
    return value;
  }

  private @Nullable Long price(Cells cells, String column) {
    Long price = cells.amount(column, settings.baseCurrency());
    if (price != null && price < 0) {
      throw new IllegalArgumentException(column + " is less than zero");
    }
    return price;
  }

  private String money(@Nullable Long minor) {
    return minor == null ? "" : Cells.written(minor, settings.baseCurrency());
  }

  private static String atMost(String column, String text, int most) {
    if (text.length() > most) {
      throw new IllegalArgumentException(
          "the %s has more than %d characters".formatted(column, most));
    }
    return text;
  }

  private static String text(@Nullable Object value) {
    return value == null ? "" : value.toString();
  }
}
