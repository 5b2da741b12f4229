package dev.ordinator.sheets;

import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Texts;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A row of a file, read by the names of our columns. What a spreadsheet holds as a number or a day
 * is one; texts are read as the whole of their column shows that they are written, and what could
 * still be read in two ways is refused.
 *
 * @param row as a person counts it
 * @param types by column; missing ones are texts
 */
public record Cells(
    int row, Map<String, String> byColumn, Map<String, CellType> types, Styles styles) {

  /** How the columns of a file write numbers and days. */
  public record Styles(
      Map<String, ColumnStyle<NumberStyle>> numbers, Map<String, ColumnStyle<DayStyle>> days) {
    public static final Styles NONE = new Styles(Map.of(), Map.of());
  }

  private static final long MOST = 999_999_999_999L;

  /** Empty if the file has no such column, or nothing in it. */
  public String text(String column) {
    String text = byColumn.getOrDefault(column, "");
    // our own files put an apostrophe before what a spreadsheet would take for a formula
    return text.length() > 1 && text.charAt(0) == '\'' && "=+-@".indexOf(text.charAt(1)) >= 0
        ? text.substring(1)
        : text;
  }

  public boolean has(String column) {
    return !text(column).isEmpty();
  }

  /**
   * @throws IllegalArgumentException if it is empty
   */
  public String need(String column) {
    if (!has(column)) {
      throw new IllegalArgumentException("the " + column + " is missing");
    }
    return text(column);
  }

  /** A whole number; null if the cell is empty. */
  public @Nullable Long units(String column) {
    if (!has(column)) {
      return null;
    }
    try {
      long units = number(column).longValueExact();
      if (Math.abs(units) > MOST) {
        throw new IllegalArgumentException(
            "%s: ‘%s’ is more than is believed".formatted(column, text(column)));
      }
      return units;
    } catch (ArithmeticException e) {
      throw new IllegalArgumentException(
          "%s: ‘%s’ is not a whole number".formatted(column, text(column)), e);
    }
  }

  /** Any number; null if the cell is empty. */
  public @Nullable BigDecimal decimal(String column) {
    return has(column) ? number(column) : null;
  }

  private BigDecimal number(String column) {
    return types.getOrDefault(column, CellType.TEXT) == CellType.NUMBER
        ? new BigDecimal(text(column))
        : read(column, styles.numbers().get(column), NumberStyle.values(), "is not a number");
  }

  /**
   * A text as its column is written.
   *
   * @param style null: no row of the column was looked at
   */
  private <S extends Style<V>, V> V read(
      String column, @Nullable ColumnStyle<S> style, S[] all, String otherwise) {
    String text = text(column);
    boolean isText = types.getOrDefault(column, CellType.TEXT) == CellType.TEXT;
    List<S> possible =
        style == null || style.possible().isEmpty() ? List.of(all) : style.possible();
    List<V> meanings =
        possible.stream()
            .flatMap(s -> Stream.ofNullable(isText ? s.read(text) : null))
            .distinct()
            .toList();
    if (meanings.isEmpty()) {
      throw new IllegalArgumentException("%s: ‘%s’ %s".formatted(column, text, otherwise));
    }
    if (meanings.stream().map(Cells::comparable).distinct().count() > 1) {
      throw new IllegalArgumentException(
          "%s: ‘%s’ can be read as %s or as %s; write it so that it can’t"
              .formatted(column, text, shown(meanings.getFirst()), shown(meanings.getLast())));
    }
    return meanings.getFirst();
  }

  private static Object comparable(Object meaning) {
    return meaning instanceof BigDecimal number ? number.stripTrailingZeros() : meaning;
  }

  private static String shown(Object meaning) {
    return meaning instanceof BigDecimal number
        ? number.stripTrailingZeros().toPlainString()
        : meaning.toString();
  }

  /** A whole number from zero on; null if the cell is empty. */
  public @Nullable Long count(String column) {
    Long units = units(column);
    if (units != null && units < 0) {
      throw new IllegalArgumentException(column + " is less than zero");
    }
    return units;
  }

  /** Minor units; null if the cell is empty. */
  public @Nullable Long amount(String column, String currency) {
    if (!has(column)) {
      return null;
    }
    try {
      return Money.parse(number(column).toPlainString(), currency).minor();
    } catch (IllegalArgumentException e) {
      String why = Texts.of(e);
      throw new IllegalArgumentException(
          why.startsWith(column) ? why : "%s: %s".formatted(column, why), e);
    }
  }

  /** An amount as {@link #amount} reads it. */
  public static String written(long minor, String currency) {
    return Money.of(minor, currency).toDecimal().toPlainString();
  }

  /** Words between blanks or commas; “none” is none. */
  public Set<String> words(String column) {
    return text(column).equalsIgnoreCase("none") ? Set.of() : Set.of(text(column).split("[ ,]+"));
  }

  /** Null if the cell is empty. */
  public @Nullable LocalDate day(String column) {
    if (!has(column)) {
      return null;
    }
    return types.getOrDefault(column, CellType.TEXT) == CellType.DATE
        ? LocalDate.parse(text(column))
        : read(
            column,
            styles.days().get(column),
            DayStyle.values(),
            "is no day such as 2026-11-26 or 26.11.2026");
  }

  /** Null if the cell is empty. */
  public @Nullable Boolean yes(String column) {
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
