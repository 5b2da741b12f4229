package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.SHEET_MEMORY;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.sheets.CellType;
import dev.ordinator.sheets.ColumnStyle;
import dev.ordinator.sheets.DayStyle;
import dev.ordinator.sheets.NumberStyle;
import dev.ordinator.sheets.SheetParser;
import dev.ordinator.sheets.SheetRow;
import dev.ordinator.stockfiles.StockFile.Column;
import dev.ordinator.stockfiles.StockFile.Look;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Files of items, levels, counts, expected supplies and kits, and of the network. A file is looked
 * at first, row by row; then all of it is taken or, if a person says so, what is good of it.
 */
@Service
class StockFiles {
  private static final int MOST_ROWS = 50_000;
  private static final int LONGEST_KEY = 80;

  /** Above the header there may be a title, or whatever else. */
  private static final int HEADER_WITHIN = 20;

  private final DSLContext db;
  private final Transactions transactions;
  private final Events events;
  private final JsonMapper json;
  private final Map<String, StockFile> kinds = new TreeMap<>();

  StockFiles(
      DSLContext db,
      Transactions transactions,
      Events events,
      JsonMapper json,
      List<StockFile> kinds) {
    this.db = db;
    this.transactions = transactions;
    this.events = events;
    this.json = json;
    kinds.forEach(k -> this.kinds.put(k.name(), k));
  }

  /** How a file’s row would be taken, or why it can’t be. */
  enum RowFate {
    NEW,
    CHANGED,
    SAME,
    REFUSED
  }

  /**
   * @param row as a person counts it; of rows that belong together the first
   * @param key what the row is about
   */
  record RowSeen(int row, String key, RowFate fate, String what) {}

  /** One of our columns, and the file’s header that holds it; null: none does. */
  record Mapped(String column, boolean required, String hint, @Nullable String header) {}

  record Seen(
      List<Mapped> columns,
      List<String> headers,
      Map<RowFate, Integer> counts,
      List<RowSeen> rows) {}

  /** What was taken. */
  record Taken(int taken, int refused) {}

  private record Read(List<Mapped> columns, List<String> headers, List<Cells> rows) {}

  StockFile kind(String name) {
    StockFile kind = kinds.get(name);
    if (kind == null) {
      throw Problem.notFound("file of " + name);
    }
    return kind;
  }

  /**
   * @param wanted header by column, where a person said so; others are found by their names
   */
  Seen look(String name, Path file, Map<String, String> wanted) {
    StockFile kind = kind(name);
    Read read = read(kind, file, wanted);
    List<RowSeen> rows = transactions.get(() -> seen(kind, read));
    Map<RowFate, Integer> counts = new HashMap<>();
    rows.forEach(r -> counts.merge(r.fate(), 1, Integer::sum));
    return new Seen(read.columns(), read.headers(), counts, rows);
  }

  /**
   * Takes a file in one transaction.
   *
   * @param goodOnly whether bad rows are left out; otherwise one keeps all from being taken
   */
  Taken take(String name, Path file, Map<String, String> wanted, boolean goodOnly, String actor) {
    StockFile kind = kind(name);
    Read read = read(kind, file, wanted);
    return transactions.get(() -> {
      int good = 0;
      int bad = 0;
      StockFile.Work work = kind.begin();
      for (List<Cells> together : groups(kind, read.rows())) {
        RowSeen seen = rowSeen(work, together);
        if (seen.fate() == RowFate.REFUSED) {
          if (!goodOnly) {
            throw refused(together, seen.what());
          }
          bad++;
        } else if (seen.fate() != RowFate.SAME) {
          take(work, together, actor);
          good++;
        }
      }
      remember(kind, read);
      events.record(
          EventKind.STOCK_CHANGED,
          null,
          null,
          actor,
          "A file of %s was taken in: %d changes".formatted(name, good),
          bad == 0 ? "" : bad + " rows were left out");
      return new Taken(good, bad);
    });
  }

  /** What looked good can still be overtaken by others: then all of it is undone. */
  private static void take(StockFile.Work work, List<Cells> together, String actor) {
    try {
      work.take(together, actor);
    } catch (IllegalArgumentException | Problem e) {
      throw refused(together, Texts.of(e));
    }
  }

  private static Problem refused(List<Cells> together, String why) {
    return Problem.invalid("row " + together.getFirst().row(), why + "; nothing was taken");
  }

  private static List<RowSeen> seen(StockFile kind, Read read) {
    StockFile.Work work = kind.begin();
    return groups(kind, read.rows()).stream().map(together -> rowSeen(work, together)).toList();
  }

  private static RowSeen rowSeen(StockFile.Work work, List<Cells> together) {
    Cells head = together.getFirst();
    String cells = String.join(" ", head.byColumn().values().stream().limit(4).toList());
    String key = Texts.cut(cells.strip(), LONGEST_KEY);
    try {
      Look look = work.look(together);
      return new RowSeen(head.row(), key, RowFate.valueOf(look.fate().name()), look.what());
    } catch (IllegalArgumentException | Problem e) {
      return new RowSeen(head.row(), key, RowFate.REFUSED, Texts.of(e));
    }
  }

  private static List<List<Cells>> groups(StockFile kind, List<Cells> rows) {
    Map<String, List<Cells>> groups = new LinkedHashMap<>();
    rows.forEach(r -> groups.computeIfAbsent(kind.together(r), k -> new ArrayList<>()).add(r));
    return List.copyOf(groups.values());
  }

  private Read read(StockFile kind, Path file, Map<String, String> wanted) {
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
    Map<String, String> known = new HashMap<>(remembered(kind));
    known.putAll(wanted);
    int at = header(kind, sheet, known);
    List<String> headers = sheet.get(at).cells().stream().map(String::strip).toList();
    List<Mapped> columns =
        kind.columns().stream()
            .map(c -> new Mapped(c.name(), c.required(), c.hint(), headerOf(c, headers, known)))
            .toList();
    for (Mapped column : columns) {
      if (column.required() && column.header() == null) {
        // shown with the columns; no row can be read without it
        return new Read(columns, headers, List.of());
      }
    }
    List<SheetRow> body = sheet.subList(at + 1, sheet.size());
    Map<String, Integer> places = new LinkedHashMap<>();
    for (Mapped column : columns) {
      places.put(column.column(), column.header() == null ? -1 : headers.indexOf(column.header()));
    }
    Cells.Styles styles = styles(body, places);
    return new Read(
        columns, headers, body.stream().map(row -> cells(row, places, styles)).toList());
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
  private static int header(StockFile kind, List<SheetRow> sheet, Map<String, String> known) {
    int best = 0;
    long most = -1;
    for (int i = 0; i < Math.min(HEADER_WITHIN, sheet.size()); i++) {
      List<String> cells = sheet.get(i).cells().stream().map(String::strip).toList();
      long named = kind.columns().stream().filter(c -> headerOf(c, cells, known) != null).count();
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

  private Map<String, String> remembered(StockFile kind) {
    return db.select(SHEET_MEMORY.HEADERS)
        .from(SHEET_MEMORY)
        .where(SHEET_MEMORY.KIND.eq(kind.name()))
        .fetchOptional(SHEET_MEMORY.HEADERS)
        .map(text -> json.readValue(text, new TypeReference<Map<String, String>>() {}))
        .orElse(Map.of());
  }

  private void remember(StockFile kind, Read read) {
    Map<String, String> headers = new TreeMap<>();
    read.columns().stream()
        .filter(c -> c.header() != null)
        .forEach(c -> headers.put(c.column(), c.header()));
    String text = json.writeValueAsString(headers);
    db.insertInto(SHEET_MEMORY)
        .set(SHEET_MEMORY.KIND, kind.name())
        .set(SHEET_MEMORY.HEADERS, text)
        .onDuplicateKeyUpdate()
        .set(SHEET_MEMORY.HEADERS, text)
        .execute();
  }
}
