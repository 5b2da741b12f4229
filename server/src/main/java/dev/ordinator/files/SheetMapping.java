package dev.ordinator.files;

import dev.ordinator.platform.Problem;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Which column of a file is which field, and how numbers and days are written in it.
 *
 * @param columns places of columns, from 0
 * @param decimalComma whether 1.234,50 is meant rather than 1,234.50
 * @param days as {@link DateTimeFormatter} patterns, such as yyyy-MM-dd
 * @param country where the file names none
 * @param payment payment state where the file names none: paid, unpaid or on_delivery
 */
record SheetMapping(
    Map<SheetField, Integer> columns,
    boolean decimalComma,
    String days,
    String country,
    String payment) {

  private static final Pattern AROUND_DIGITS = Pattern.compile("[\\s'\\u00a0€$£]");

  /** What the headers say by themselves, ours or others that are well known. */
  static SheetMapping guess(List<String> headers) {
    Map<SheetField, Integer> columns = new EnumMap<>(SheetField.class);
    for (SheetField field : SheetField.values()) {
      for (int i = 0; i < headers.size(); i++) {
        if (field.isCalled(headers.get(i)) && !columns.containsValue(i)) {
          columns.putIfAbsent(field, i);
        }
      }
    }
    return new SheetMapping(columns, false, "yyyy-MM-dd", "", "paid");
  }

  /**
   * @throws Problem if a field that must be there has no column, or the days' pattern is none
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
    if (day(writtenAsPattern(LocalDate.EPOCH)) == null) {
      throw Problem.invalid("days", "‘" + days + "’ is no pattern of days such as dd.MM.yyyy");
    }
  }

  /** A day as the file writes it; empty if the pattern is none. */
  private String writtenAsPattern(LocalDate day) {
    try {
      return DateTimeFormatter.ofPattern(days).format(day);
    } catch (IllegalArgumentException | DateTimeException e) {
      return "";
    }
  }

  String cell(SheetField field, List<String> cells) {
    Integer column = columns.get(field);
    return column == null || column >= cells.size() ? "" : cells.get(column).strip();
  }

  /** A number as everybody writes it: no thousands, a point before decimals. */
  String number(String cell) {
    String bare = AROUND_DIGITS.matcher(cell).replaceAll("");
    return decimalComma ? bare.replace(".", "").replace(',', '.') : bare.replace(",", "");
  }

  /** An ISO day; null if it is not written as it should be. */
  @Nullable String day(String cell) {
    try {
      return LocalDate.parse(cell, DateTimeFormatter.ofPattern(days)).toString();
    } catch (IllegalArgumentException | DateTimeException e) {
      return null;
    }
  }
}
