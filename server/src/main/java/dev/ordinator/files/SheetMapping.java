package dev.ordinator.files;

import dev.ordinator.platform.Problem;
import dev.ordinator.sheets.DayStyle;
import dev.ordinator.sheets.NumberStyle;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Which column of a file is which field, and how numbers and days are written where the file itself
 * leaves that open.
 *
 * @param columns places of columns, from 0
 * @param numbers how a person says that texts write numbers; null: nobody had to say
 * @param days likewise of days
 * @param country where the file names none
 * @param payment payment state where the file names none: paid, unpaid or on_delivery
 */
record SheetMapping(
    Map<SheetField, Integer> columns,
    @Nullable NumberStyle numbers,
    @Nullable DayStyle days,
    String country,
    String payment) {

  /** What the headers say by themselves, ours or others that are well known. */
  static SheetMapping guess(List<String> headers) {
    Map<SheetField, Integer> columns = new EnumMap<>(SheetField.class);
    for (SheetField field : SheetField.values()) {
      List<Integer> called = called(field, headers);
      // of two columns of one name a person says which is meant
      if (called.size() == 1 && !columns.containsValue(called.getFirst())) {
        columns.put(field, called.getFirst());
      }
    }
    return new SheetMapping(columns, null, null, "", "paid");
  }

  /** How many fields a row names, if it is the header. */
  static long fieldsNamedIn(List<String> row) {
    return Arrays.stream(SheetField.values()).filter(f -> !called(f, row).isEmpty()).count();
  }

  private static List<Integer> called(SheetField field, List<String> headers) {
    return IntStream.range(0, headers.size())
        .filter(i -> field.isCalled(headers.get(i)))
        .boxed()
        .toList();
  }

  /**
   * @throws Problem if a field that must be there has no column
   */
  void check(List<String> headers) {
    for (SheetField field : SheetField.values()) {
      Integer column = columns.get(field);
      if (field.isRequired() && column == null) {
        throw Problem.invalid(field.name(), "say which column holds the " + field.title());
      }
      if (column != null && (column < 0 || column >= headers.size())) {
        throw Problem.invalid(field.name(), "the file has no column " + (column + 1));
      }
    }
  }

  /** As far as it holds for every file with these headers: not how one of them is written. */
  SheetMapping lasting() {
    return new SheetMapping(columns, null, null, country, payment);
  }

  String cell(SheetField field, List<String> cells) {
    Integer column = columns.get(field);
    return column == null || column >= cells.size() ? "" : cells.get(column).strip();
  }
}
