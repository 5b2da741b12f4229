package dev.ordinator.suppliers;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.sheets.Table;
import dev.ordinator.suppliers.SupplierOffers.Refused;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A supplier's file, CSV or XLSX: what it offers, for how much, and how much of it there is. */
final class OfferFile {
  static final String TEMPLATE =
      """
      code,title,gtin,price,available
      QC-101,"Beeswax candle, tall, pair",,4.80,120
      """;

  private static final List<Column> COLUMNS =
      List.of(
          Column.must("code", "the supplier's", "QC-101", "supplier code", "article"),
          Column.must("title", "what it is", "Beeswax candle, tall, pair", "name", "description"),
          Column.may("gtin", "of one unit", "", "ean", "barcode"),
          Column.must("price", "of one unit, without tax", "4.80", "cost", "net price"),
          Column.must("available", "units", "120", "stock", "quantity"));
  private static final long MOST_UNITS = 1_000_000_000;

  private OfferFile() {}

  /**
   * @param price minor units of the supplier's currency, without tax
   */
  record Row(long row, String code, String title, @Nullable String gtin, long price, long units) {}

  record Read(List<Row> rows, List<Refused> refused) {}

  /**
   * @throws Problem if it is no such file; a bad row is among the refused instead
   */
  static Read read(Path file, String currency) {
    List<Row> rows = new ArrayList<>();
    List<Refused> refused = new ArrayList<>();
    Set<String> codes = new HashSet<>();
    for (Cells cells : Table.read(file, COLUMNS, Map.of()).complete().rows()) {
      try {
        Row row = row(cells, currency);
        if (!codes.add(row.code())) {
          throw new IllegalArgumentException("‘" + row.code() + "’ stands in an earlier row too");
        }
        rows.add(row);
      } catch (IllegalArgumentException e) {
        refused.add(new Refused(cells.row(), Texts.of(e)));
      }
    }
    return new Read(rows, refused);
  }

  private static Row row(Cells cells, String currency) {
    cells.need("price");
    cells.need("available");
    long price = Objects.requireNonNull(cells.amount("price", currency));
    if (price < 0) {
      throw new IllegalArgumentException("the price is negative");
    }
    long units = Objects.requireNonNull(cells.count("available"));
    if (units > MOST_UNITS) {
      throw new IllegalArgumentException("‘" + units + "’ is more than is believed");
    }
    return new Row(
        cells.row(),
        text(cells, "code", 60),
        text(cells, "title", 200),
        cells.has("gtin") ? new Gtin(cells.text("gtin")).normalized() : null,
        price,
        units);
  }

  private static String text(Cells cells, String column, int longest) {
    String text = cells.text(column);
    if (text.isEmpty() || text.length() > longest) {
      throw new IllegalArgumentException(
          "the %s has 1 to %d characters".formatted(column, longest));
    }
    return text;
  }
}
