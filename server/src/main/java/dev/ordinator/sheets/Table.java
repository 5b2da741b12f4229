package dev.ordinator.sheets;

import dev.ordinator.platform.Problem;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A file whose rows are all of one kind, read by the names of our columns, in whatever order they
 * stand. How numbers and days are written is what the whole of a column shows.
 *
 * @param headers as the file has them
 * @param rows empty if a column is missing that must be there
 */
public record Table(List<Mapped> columns, List<String> headers, List<Cells> rows) {
  private static final int MOST_ROWS = 50_000;

  /** Above the header there may be a title, or whatever else. */
  private static final int HEADER_WITHIN = 20;

  /** One of our columns, and the file’s header that holds it; null: none does. */
  public record Mapped(String column, boolean required, String hint, @Nullable String header) {}

  /**
   * @param known the file's header by our column, where a person said which; others are found by
   *     their names
   * @throws Problem if it is no CSV or XLSX, has nothing in it, or too much
   */
  public static Table read(Path file, List<Column> wanted, Map<String, String> known) {
    List<SheetRow> sheet = new ArrayList<>();
    SheetParser.read(
        file,
        row -> {
          if (sheet.size() > MOST_ROWS) {
            throw Problem.invalid("file", "at most %,d rows".formatted(MOST_ROWS));
          }
          sheet.add(row);
        });
    if (sheet.isEmpty()) {
      throw Problem.invalid("file", "there is nothing in it");
    }
    int at = headerRow(wanted, sheet, known);
    List<String> headers = sheet.get(at).cells().stream().map(String::strip).toList();
    List<Mapped> columns =
        wanted.stream()
            .map(c -> new Mapped(c.name(), c.required(), c.hint(), headerOf(c, headers, known)))
            .toList();
    if (columns.stream().anyMatch(c -> c.required() && c.header() == null)) {
      return new Table(columns, headers, List.of());
    }
    List<SheetRow> body = sheet.subList(at + 1, sheet.size());
    Map<String, Integer> places = new LinkedHashMap<>();
    for (Mapped column : columns) {
      places.put(column.column(), column.header() == null ? -1 : headers.indexOf(column.header()));
    }
    Cells.Styles styles = styles(body, places);
    return new Table(
        columns, headers, body.stream().map(row -> cells(row, places, styles)).toList());
  }

  /**
   * For whom nobody can say which column is which.
   *
   * @throws Problem if a column is missing that must be there
   */
  public Table complete() {
    List<String> missing =
        columns.stream()
            .filter(c -> c.required() && c.header() == null)
            .map(Mapped::column)
            .toList();
    if (!missing.isEmpty()) {
      throw Problem.invalid(
          "file", "no row names the columns %s".formatted(String.join(", ", missing)));
    }
    return this;
  }

  /**
   * @param places of our columns in the file; −1: it has none
   */
  private static Cells cells(SheetRow row, Map<String, Integer> places, Cells.Styles styles) {
    Map<String, String> cells = new LinkedHashMap<>();
    Map<String, CellType> types = new HashMap<>();
    places.forEach((column, place) -> {
      cells.put(column, place < 0 ? "" : row.text(place));
      if (place >= 0 && row.type(place) != CellType.TEXT) {
        types.put(column, row.type(place));
      }
    });
    return new Cells(row.number(), cells, types, styles);
  }

  private static Cells.Styles styles(List<SheetRow> rows, Map<String, Integer> places) {
    Map<String, ColumnStyle<NumberStyle>> numbers = new HashMap<>();
    Map<String, ColumnStyle<DayStyle>> days = new HashMap<>();
    places.forEach((column, place) -> {
      if (place >= 0) {
        var ofNumbers = new ColumnStyle.Finder<>(NumberStyle.class);
        var ofDays = new ColumnStyle.Finder<>(DayStyle.class);
        rows.stream()
            .filter(row -> row.type(place) == CellType.TEXT)
            .forEach(row -> {
              ofNumbers.add(row.text(place));
              ofDays.add(row.text(place));
            });
        numbers.put(column, ofNumbers.found());
        days.put(column, ofDays.found());
      }
    });
    return new Cells.Styles(numbers, days);
  }

  /** The row in which most of our columns are named. */
  private static int headerRow(
      List<Column> wanted, List<SheetRow> sheet, Map<String, String> known) {
    int best = 0;
    long most = -1;
    for (int i = 0; i < Math.min(HEADER_WITHIN, sheet.size()); i++) {
      List<String> cells = sheet.get(i).cells().stream().map(String::strip).toList();
      long named = wanted.stream().filter(c -> headerOf(c, cells, known) != null).count();
      if (named > most) {
        most = named;
        best = i;
      }
    }
    return best;
  }

  private static @Nullable String headerOf(
      Column column, List<String> headers, Map<String, String> known) {
    String said = known.get(column.name());
    if (said != null && (said.isEmpty() || headers.contains(said))) {
      return said.isEmpty() ? null : said;
    }
    return headers.stream().filter(column::isCalled).findFirst().orElse(null);
  }
}
