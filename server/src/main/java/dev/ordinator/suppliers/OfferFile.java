package dev.ordinator.suppliers;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.suppliers.SupplierOffers.Refused;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;

/** A supplier's file: CSV with the columns code, title, gtin, price and available. */
final class OfferFile {
  static final String TEMPLATE =
      """
      code,title,gtin,price,available
      QC-101,"Beeswax candle, tall, pair",,4.80,120
      """;

  private static final List<String> COLUMNS = List.of("code", "title", "price", "available");
  private static final int MOST_ROWS = 50_000;
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
  static Read read(String text, String currency) {
    List<Row> rows = new ArrayList<>();
    List<Refused> refused = new ArrayList<>();
    Set<String> codes = new HashSet<>();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .setTrim(true)
            .setIgnoreEmptyLines(true)
            .get();
    try (var records = format.parse(new StringReader(text))) {
      for (String column : COLUMNS) {
        if (!records.getHeaderMap().containsKey(column)) {
          throw Problem.invalid(
              "file", "the first row must name the columns " + String.join(", ", COLUMNS));
        }
      }
      for (CSVRecord record : records) {
        if (record.getRecordNumber() > MOST_ROWS) {
          throw Problem.invalid("file", "at most %,d rows".formatted(MOST_ROWS));
        }
        try {
          Row row = row(record, currency);
          if (!codes.add(row.code())) {
            throw new IllegalArgumentException("‘" + row.code() + "’ stands in an earlier row too");
          }
          rows.add(row);
        } catch (IllegalArgumentException e) {
          refused.add(new Refused(record.getRecordNumber() + 1, Texts.of(e)));
        }
      }
    } catch (IOException | IllegalStateException e) {
      throw Problem.invalid("file", "this can’t be read as CSV: " + Texts.of(e));
    }
    return new Read(rows, refused);
  }

  private static Row row(CSVRecord record, String currency) {
    String code = text(record, "code", 60);
    String title = text(record, "title", 200);
    long price = Money.parse(record.get("price"), currency).minor();
    if (price < 0) {
      throw new IllegalArgumentException("the price is negative");
    }
    String units = record.get("available");
    if (!units.matches("\\d{1,10}") || Long.parseLong(units) > MOST_UNITS) {
      throw new IllegalArgumentException("‘" + units + "’ is not a number of units");
    }
    String gtin = record.isMapped("gtin") && record.isSet("gtin") ? record.get("gtin") : "";
    return new Row(
        record.getRecordNumber() + 1,
        code,
        title,
        gtin.isEmpty() ? null : new Gtin(gtin).normalized(),
        price,
        Long.parseLong(units));
  }

  private static String text(CSVRecord record, String column, int longest) {
    String text = record.isSet(column) ? record.get(column) : "";
    if (text.isEmpty() || text.length() > longest) {
      throw new IllegalArgumentException(
          "the %s has 1 to %d characters".formatted(column, longest));
    }
    return text;
  }
}
