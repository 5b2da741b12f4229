package dev.ordinator.core.limits;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.regex.Pattern;

/**
 * How large numbers and days from outside may be, so that nothing that is done with them overflows
 * or fills the memory. Whoever reads a message, a file or a form asks here before anything is done
 * with what it says.
 */
public final class Limits {
  /** Units of one line, level or movement. */
  public static final long MOST_UNITS = 1_000_000;

  /** An amount in minor units; a million of them can be added up. */
  public static final long MOST_MINOR = 1_000_000_000_000L;

  /** The first and the last day of which anything is believed. */
  public static final LocalDate FIRST_DAY = LocalDate.of(1990, 1, 1);

  public static final LocalDate LAST_DAY = LocalDate.of(2199, 12, 31);

  private static final int LONGEST_NUMBER = 40;
  private static final int MOST_DIGITS = 18;

  /** Written by spreadsheets and JSON: an exponent may be there, and is bounded with the rest. */
  private static final Pattern DECIMAL =
      Pattern.compile("[+-]?[0-9]+(\\.[0-9]+)?([eE][+-]?[0-9]{1,3})?");

  private Limits() {}

  /**
   * Reads a decimal number such as {@code 12.50}, {@code -3} or {@code 1.25E2}.
   *
   * @return below 10<sup>18</sup>; what a spreadsheet adds behind 18 decimals is kept as it is
   * @throws IllegalArgumentException if it is no number, or too large or too fine a one; the
   *     message goes on “‘12,5’ …”
   */
  public static BigDecimal decimal(String text) {
    String plain = text.strip();
    if (plain.length() > LONGEST_NUMBER || !DECIMAL.matcher(plain).matches()) {
      throw new IllegalArgumentException("is not a number");
    }
    BigDecimal number = new BigDecimal(plain);
    int digitsBeforePoint = number.precision() - number.scale();
    if (digitsBeforePoint > MOST_DIGITS || number.scale() > LONGEST_NUMBER) {
      throw new IllegalArgumentException("is too large or too fine a number");
    }
    return number;
  }

  /** Whether a day lies within the time of which anything is believed. */
  public static boolean holds(LocalDate day) {
    return !day.isBefore(FIRST_DAY) && !day.isAfter(LAST_DAY);
  }
}
