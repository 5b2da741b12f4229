package dev.ordinator.files;

import dev.ordinator.sheets.CellType;
import dev.ordinator.sheets.ColumnStyle;
import dev.ordinator.sheets.DayStyle;
import dev.ordinator.sheets.NumberStyle;
import dev.ordinator.sheets.SheetRow;
import java.util.ArrayList;
import java.util.List;

/**
 * What each column of a file shows of how its texts write numbers and days.
 *
 * @param numbers by column
 * @param days by column
 */
record ColumnStyles(List<ColumnStyle<NumberStyle>> numbers, List<ColumnStyle<DayStyle>> days) {
  static final ColumnStyles NONE = new ColumnStyles(List.of(), List.of());

  /** Looks at every row of a file as it is read; what is no text is what it is. */
  static final class Finder {
    private final List<ColumnStyle.Finder<NumberStyle>> numbers = new ArrayList<>();
    private final List<ColumnStyle.Finder<DayStyle>> days = new ArrayList<>();

    void add(SheetRow row) {
      for (int i = 0; i < row.cells().size(); i++) {
        if (i == numbers.size()) {
          numbers.add(new ColumnStyle.Finder<>(NumberStyle.class));
          days.add(new ColumnStyle.Finder<>(DayStyle.class));
        }
        if (row.type(i) == CellType.TEXT) {
          numbers.get(i).add(row.text(i));
          days.get(i).add(row.text(i));
        }
      }
    }

    ColumnStyles found() {
      return new ColumnStyles(
          numbers.stream().map(ColumnStyle.Finder::found).toList(),
          days.stream().map(ColumnStyle.Finder::found).toList());
    }
  }
}
