package dev.ordinator.stockfiles;

import dev.ordinator.core.money.Money;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A row of a file, read by the names of our columns. Numbers and days are understood however they
 * are commonly written; what could be read in two ways is refused.
 *
 * @param row as a person counts it
 */
record Cells(int row, Map<String, String> byColumn) {
  private static final Pattern WHOLE = Pattern.compile("(-?\\d{1,12})(?:[.,]0+)?");
  private static final Pattern AROUND_DIGITS = Pattern.compile("[\\s'\\u00a0€$£]");
  private static final List<DateTimeFormatter> DAYS =
      List.of(
          DateTimeFormatter.ISO_LOCAL_DATE,
          DateTimeFormatter.ofPattern("d.M.yyyy", Locale.ROOT),
          DateTimeFormatter.ofPattern("d/M/yyyy", Locale.ROOT),
          DateTimeFormatter.ofPattern("d-M-yyyy", Locale.ROOT));

  /** Empty if the file has no such column, or nothing in it. */
  String text(String column) {
    String text = byColumn.getOrDefault(column, "");
    // our own files put an apostrophe before what a spreadsheet would take for a formula
    return text.length() > 1 && text.charAt(0) == '\'' && "=+-@".indexOf(text.charAt(1)) >= 0
        ? text.substring(1)
        : text;
  }

  boolean has(String column) {
    return !text(column).isEmpty();
  }

  /**
   * @throws IllegalArgumentException if it is empty
   */
  String need(String column) {
    if (!has(column)) {
      throw new IllegalArgumentException("the " + column + " is missing");
    }
    return text(column);
  }

  /** A whole number; null if the cell is empty. */
  @Nullable Long units(String column) {
    if (!has(column)) {
      return null;
    }
    Matcher whole = WHOLE.matcher(AROUND_DIGITS.matcher(text(column)).replaceAll(""));
    if (!whole.matches()) {
      throw new IllegalArgumentException(
          "%s: ‘%s’ is not a whole number".formatted(column, text(column)));
    }
    return Long.parseLong(whole.group(1));
  }

  /** A whole number from zero on; null if the cell is empty. */
  @Nullable Long count(String column) {
    Long units = units(column);
    if (units != null && units < 0) {
      throw new IllegalArgumentException(column + " is less than zero");
    }
    return units;
  }

  /** Minor units; null if the cell is empty. */
  @Nullable Long amount(String column, String currency) {
    if (!has(column)) {
      return null;
    }
    try {
      return Money.parse(plain(column), currency).minor();
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("%s: %s".formatted(column, e.getMessage()), e);
    }
  }

  /** Without thousands, a point before decimals. */
  private String plain(String column) {
    String bare = AROUND_DIGITS.matcher(text(column)).replaceAll("");
    int last = Math.max(bare.lastIndexOf('.'), bare.lastIndexOf(','));
    if (last < 0) {
      return bare;
    }
    char separator = bare.charAt(last);
    char other = separator == '.' ? ',' : '.';
    boolean twoKinds = bare.indexOf(other) >= 0;
    boolean once = bare.indexOf(separator) == last;
    if (!once || (!twoKinds && bare.length() - last - 1 == 3)) {
      throw new IllegalArgumentException(
          "‘%s’ can be read in two ways: write it without thousands".formatted(text(column)));
    }
    return bare.replace(String.valueOf(other), "").replace(separator, '.');
  }

  /** An amount as {@link #amount} reads it. */
  static String written(long minor, String currency) {
    return Money.of(minor, currency).toDecimal().toPlainString();
  }

  /** Words between blanks or commas; “none” is none. */
  Set<String> words(String column) {
    return text(column).equalsIgnoreCase("none") ? Set.of() : Set.of(text(column).split("[ ,]+"));
  }

  /** Null if the cell is empty. */
  @Nullable LocalDate day(String column) {
    if (!has(column)) {
      return null;
    }
    for (DateTimeFormatter format : DAYS) {
      try {
        return LocalDate.parse(text(column), format);
      } catch (DateTimeException otherwise) {
        // perhaps it is written as the next one
      }
    }
    throw new IllegalArgumentException(
        "%s: ‘%s’ is no day such as 2026-11-26 or 26.11.2026".formatted(column, text(column)));
  }

  /** Null if the cell is empty. */
  @Nullable Boolean yes(String column) {
    return switch (text(column).toLowerCase(Locale.ROOT)) {
      case "" -> null;
      case "yes", "y", "true", "1", "x" -> true;
      case "no", "n", "false", "0" -> false;
      default ->
          throw new IllegalArgumentException(
              "%s: ‘%s’ is neither yes nor no".formatted(column, text(column)));
    };
  }
}
