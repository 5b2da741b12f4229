package dev.ordinator.core.money;

import dev.ordinator.core.limits.Limits;
import java.math.BigDecimal;
import java.util.Currency;

/**
 * An amount in a currency's minor unit (ISO 4217): 1250 of EUR is 12.50 euro, 1250 of JPY is 1250
 * yen. Exact; arithmetic overflows loudly.
 *
 * @param minor the amount in minor units, negative allowed
 * @param currency the ISO 4217 currency
 */
public record Money(long minor, Currency currency) {

  public static Money of(long minor, String currencyCode) {
    return new Money(minor, currency(currencyCode));
  }

  /**
   * Reads a plain decimal such as {@code 12.50}.
   *
   * @throws IllegalArgumentException if it is no number, or has more decimals than the currency has
   */
  public static Money parse(String decimal, String currencyCode) {
    Currency currency = currency(currencyCode);
    BigDecimal value;
    try {
      value = Limits.decimal(decimal);
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("‘" + decimal + "’ " + e.getMessage(), e);
    }
    int digits = currency.getDefaultFractionDigits();
    if (value.stripTrailingZeros().scale() > digits) {
      throw new IllegalArgumentException(
          "‘"
              + decimal
              + "’ has more than "
              + digits
              + " decimals, which "
              + currencyCode
              + " lacks");
    }
    BigDecimal minor = value.movePointRight(digits);
    if (minor.abs().compareTo(BigDecimal.valueOf(Limits.MOST_MINOR)) > 0) {
      throw new IllegalArgumentException("‘" + decimal + "’ is too large an amount");
    }
    return new Money(minor.longValueExact(), currency);
  }

  private static Currency currency(String code) {
    try {
      return Currency.getInstance(code);
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("‘" + code + "’ is not an ISO 4217 currency", e);
    }
  }

  /**
   * @throws IllegalArgumentException if the currencies differ
   */
  public Money plus(Money other) {
    requireSame(other);
    return new Money(Math.addExact(minor, other.minor), currency);
  }

  /**
   * @throws IllegalArgumentException if the currencies differ
   */
  public Money minus(Money other) {
    requireSame(other);
    return new Money(Math.subtractExact(minor, other.minor), currency);
  }

  public Money times(long factor) {
    return new Money(Math.multiplyExact(minor, factor), currency);
  }

  /** The amount as a decimal with the currency's usual number of digits. */
  public BigDecimal toDecimal() {
    return BigDecimal.valueOf(minor, currency.getDefaultFractionDigits());
  }

  @Override
  public String toString() {
    return toDecimal().toPlainString() + " " + currency.getCurrencyCode();
  }

  private void requireSame(Money other) {
    if (!currency.equals(other.currency)) {
      throw new IllegalArgumentException(currency + " and " + other.currency + " don't add up");
    }
  }
}
