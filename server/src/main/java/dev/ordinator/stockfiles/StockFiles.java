package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.SHEET_MEMORY;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Table;
import dev.ordinator.sheets.Table.Mapped;
import dev.ordinator.stockfiles.StockFile.Look;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Files of items, levels, counts, expected supplies and kits, and of the network. A file is looked
 * at first, row by row; then all of it is taken or, if a person says so, what is good of it.
 */
@Service
class StockFiles {
  private static final int LONGEST_KEY = 80;

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

  record Seen(
      List<Mapped> columns,
      List<String> headers,
      Map<RowFate, Integer> counts,
      List<RowSeen> rows) {}

  /** What was taken. */
  record Taken(int taken, int refused) {}

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
    Table read = read(kind, file, wanted);
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
    Table read = read(kind, file, wanted);
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
      work.finish(actor);
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

  private static List<RowSeen> seen(StockFile kind, Table read) {
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

  private Table read(StockFile kind, Path file, Map<String, String> wanted) {
    Map<String, String> known = new HashMap<>(remembered(kind));
    known.putAll(wanted);
    return Table.read(file, kind.columns(), known);
  }

  private Map<String, String> remembered(StockFile kind) {
    return db.select(SHEET_MEMORY.HEADERS)
        .from(SHEET_MEMORY)
        .where(SHEET_MEMORY.KIND.eq(kind.name()))
        .fetchOptional(SHEET_MEMORY.HEADERS)
        .map(text -> json.readValue(text, new TypeReference<Map<String, String>>() {}))
        .orElse(Map.of());
  }

  private void remember(StockFile kind, Table read) {
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
