package dev.ordinator.stockfiles;

import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import java.util.List;
import java.util.function.Consumer;

/**
 * A kind of file: what its columns are, how it is written, and what its rows would change. Rows
 * that belong together, such as those of a kit, are looked at and taken as one.
 */
interface StockFile {

  /** What rows would do. */
  enum Fate {
    NEW,
    CHANGED,
    SAME
  }

  /**
   * @param what in words; empty if it is the same
   */
  record Look(Fate fate, String what) {
    static final Look SAME = new Look(Fate.SAME, "");

    static Look of(Fate fate, String what) {
      return new Look(fate, what);
    }

    /** Changed by what is said, or not at all if nothing is said. */
    static Look changed(List<String> changes) {
      return changes.isEmpty() ? SAME : new Look(Fate.CHANGED, String.join(", ", changes));
    }
  }

  /** As in its address, such as items or lanes. */
  String name();

  List<Column> columns();

  /** Gives every row, in the order of the columns. */
  void write(Consumer<List<String>> row);

  /** By what rows belong together; each by itself unless said otherwise. */
  default String together(Cells cells) {
    return Integer.toString(cells.row());
  }

  /** Work on one file, which remembers what it looked up. */
  Work begin();

  /** Looks at rows that belong together, and takes them. */
  interface Work {
    /**
     * What they would change.
     *
     * @throws IllegalArgumentException if they can't be taken, and why; likewise {@link
     *     dev.ordinator.platform.Problem}
     */
    Look look(List<Cells> rows);

    /** Takes what was looked at in the same transaction. */
    void take(List<Cells> rows, String actor);

    /** After the last: what was put by to be written together is written. */
    default void finish(String actor) {}
  }
}
