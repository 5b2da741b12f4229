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
   * The amount in the other currency, {@link Rounding rounded} to its minor unit.
   *
   * @throws IllegalArgumentException if the amount is in another currency
   */
  public Money convert(Money amount) {
    if (!amount.currency().equals(from)) {
      throw new IllegalArgumentException(amount + " is not in " + from);
    }
    BigDecimal minor =
        amount.toDecimal().multiply(rate).movePointRight(to.getDefaultFractionDigits());
    return new Money(Rounding.minor(minor), to);
  }

  /**
   * The amount of the other currency in this one, {@link Rounding rounded} to its minor unit.
   *
   * @throws IllegalArgumentException if the amount is not in the other currency
   */
  public Money convertBack(Money amount) {
    if (!amount.currency().equals(to)) {
      throw new IllegalArgumentException(amount + " is not in " + to);
    }
    BigDecimal minor =
        amount
            .toDecimal()
            .movePointRight(from.getDefaultFractionDigits())
            .divide(rate, 0, RoundingMode.HALF_UP);
    return new Money(minor.longValueExact(), from);
  }
}
