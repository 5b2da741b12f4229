package dev.ordinator.core.money;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.Currency;

/**
 * What one unit of a currency was worth in another on a day. Kept with an order, so that its
 * figures don't move later.
 *
 * @param rate units of {@code to} for one unit of {@code from}, in major units; positive
 */
public record ExchangeRate(Currency from, Currency to, BigDecimal rate, LocalDate day) {

  public ExchangeRate {
    if (rate.signum() <= 0) {
      throw new IllegalArgumentException("a rate is positive, not " + rate);
    }
  }

  /** A currency in itself. */
  public static ExchangeRate same(Currency currency, LocalDate day) {
    return new ExchangeRate(currency, currency, BigDecimal.ONE, day);
  }

  /**
   * The amount in the other currency, rounded half to even to its minor unit.
   *
   * @throws IllegalArgumentException if the amount is in another currency
   */
  public Money convert(Money amount) {
    if (!amount.currency().equals(from)) {
      throw new IllegalArgumentException(amount + " is not in " + from);
    }
    BigDecimal minor =
        amount
            .toDecimal()
            .multiply(rate)
            .movePointRight(to.getDefaultFractionDigits())
            .setScale(0, RoundingMode.HALF_EVEN);
    return new Money(minor.longValueExact(), to);
  }
}
