package dev.ordinator.rates;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.rates.ExchangeRates.DayRate;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import dev.ordinator.sheets.Table;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/** A file of exchange rates, CSV or XLSX, with the columns currency, day and rate. */
final class RateFile {
  private static final List<Column> COLUMNS =
      List.of(
          Column.must("currency", "ISO 4217", "USD"),
          Column.must("day", "from which it counts", "2026-11-24", "date"),
          Column.must("rate", "base currency for one unit", "0.8830"));

  private RateFile() {}

  /**
   * @throws Problem with the row that is wrong; then none of it is of use
   */
  static List<DayRate> read(Path file, String source) {
    List<DayRate> rates = new ArrayList<>();
    Map<String, Integer> rows = new HashMap<>();
    for (Cells cells : Table.read(file, COLUMNS, Map.of()).complete().rows()) {
      String place = "row " + cells.row();
      try {
        DayRate rate = rate(cells, source);
        Integer before = rows.put(rate.currency() + rate.day(), cells.row());
        if (before != null) {
          throw new IllegalArgumentException(
              "%s of %s stands in row %d already".formatted(rate.currency(), rate.day(), before));
        }
        rates.add(rate);
      } catch (IllegalArgumentException e) {
        throw Problem.invalid(place, Texts.of(e));
      }
    }
    return rates;
  }

  private static DayRate rate(Cells cells, String source) {
    cells.need("day");
    cells.need("rate");
    LocalDate day = Objects.requireNonNull(cells.day("day"));
    return new DayRate(
        currency(cells.need("currency")),
        day,
        Objects.requireNonNull(cells.decimal("rate")),
        source);
  }

  /**
   * @throws IllegalArgumentException if there is no such currency
   */
  static String currency(String text) {
    try {
      return Currency.getInstance(text.strip().toUpperCase(Locale.ROOT)).getCurrencyCode();
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("‘" + text + "’ is no currency of ISO 4217", e);
    }
  }
}
