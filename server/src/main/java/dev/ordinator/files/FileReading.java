package dev.ordinator.files;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.sheets.SheetParser;
import dev.ordinator.sheets.SheetRow;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Reads one file into the database, row by row. If files with its headers were mapped before, rows
 * are put to their orders on the way: those of one order mostly stand together.
 */
final class FileReading {
  private static final int BATCH = 1_000;

  /** Within so many rows the header is looked for; a row that names two fields is one. */
  private static final int HEADER_WITHIN = 20;

  private static final int NAMED_BY_A_HEADER = 2;

  private final FileStore store;
  private final long channelId;
  private final String name;
  private final String actor;
  private final List<SheetRow> before = new ArrayList<>();
  private final List<SheetRow> rows = new ArrayList<>();
  private final ColumnStyles.Finder styles = new ColumnStyles.Finder();
  private final List<String> refs = new ArrayList<>();
  private final List<Integer> firstRows = new ArrayList<>();
  private Optional<SheetMapping> mapping = Optional.empty();
  private @Nullable Long file;
  private String lastRef = "";
  private int lastFirstRow;
  private boolean sorted;

  private FileReading(FileStore store, long channelId, String name, String actor) {
    this.store = store;
    this.channelId = channelId;
    this.name = name;
    this.actor = actor;
  }

  /**
   * Reads a file, in the transaction that is under way.
   *
   * @throws Problem if it is no spreadsheet, or an empty one
   */
  static FileReading of(FileStore store, long channelId, String name, Path content, String actor) {
    FileReading reading = new FileReading(store, channelId, name, actor);
    SheetParser.read(content, reading::take);
    reading.settleHeader();
    reading.flush(reading.file());
    store.setStyles(reading.file(), reading.styles.found());
    reading.sorted = reading.mapping.isPresent() && !store.hasOrdersApart(reading.file());
    return reading;
  }

  /** Its id. */
  long file() {
    if (file == null) {
      throw Problem.invalid("file", "the file is empty");
    }
    return file;
  }

  /** As files with these headers were mapped before. */
  Optional<SheetMapping> mapping() {
    return mapping;
  }

  /** Whether each row has its order. */
  boolean isSorted() {
    return sorted;
  }

  private void take(SheetRow row) {
    if (file != null) {
      takeBelowHeader(file, row);
    } else if (SheetMapping.fieldsNamedIn(row.cells()) >= NAMED_BY_A_HEADER) {
      // what stands above it is a title
      begin(row);
    } else {
      before.add(row);
      if (before.size() == HEADER_WITHIN) {
        settleHeader();
      }
    }
  }

  /** Nothing looks like a header: then it is the first row. */
  private void settleHeader() {
    if (file == null && !before.isEmpty()) {
      begin(before.getFirst());
      before.subList(1, before.size()).forEach(row -> takeBelowHeader(file(), row));
    }
  }

  private void begin(SheetRow header) {
    file = store.addFile(channelId, name, header.cells(), actor);
    mapping = store.remembered(channelId, header.cells());
  }

  private void takeBelowHeader(long id, SheetRow row) {
    styles.add(row);
    rows.add(row);
    String ref = mapping.map(m -> ref(m, row)).orElse("");
    if (!ref.equals(lastRef)) {
      lastRef = ref;
      lastFirstRow = row.number();
    }
    refs.add(ref);
    firstRows.add(lastFirstRow);
    if (rows.size() == BATCH) {
      flush(id);
    }
  }

  private static String ref(SheetMapping mapping, SheetRow row) {
    String named = mapping.cell(SheetField.ORDER, row.cells());
    return named.isEmpty() ? "row " + row.number() : Texts.cut(named, 100);
  }

  private void flush(long id) {
    store.addRows(id, rows, refs, firstRows);
    rows.clear();
    refs.clear();
    firstRows.clear();
  }
}
