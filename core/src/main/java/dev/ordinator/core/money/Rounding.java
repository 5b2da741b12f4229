package dev.ordinator.core.money;

import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * How amounts are rounded to minor units, everywhere: to the nearest, a half away from zero
 * (commercial rounding, {@link RoundingMode#HALF_UP}). It is what invoices are checked by, and a
 * refund of an amount rounds as the amount did. What is split is not rounded but shared out, see
 * {@link Shares}.
 */
public final class Rounding {
  private Rounding() {}

  /**
   * An amount of minor units, rounded to whole ones.
   *
   * @throws ArithmeticException if it is beyond what a long holds
   */
  public static long minor(BigDecimal minor) {
    return minor.setScale(0, RoundingMode.HALF_UP).longValueExact();
  }

  /**
   * {@code amount × part ÷ whole}, rounded.
   *
   * @param whole not zero
   */
  public static long share(long amount, long part, long whole) {
    return minor(
        BigDecimal.valueOf(amount)
            .multiply(BigDecimal.valueOf(part))
            .divide(BigDecimal.valueOf(whole), 0, RoundingMode.HALF_UP));
  }
}
