package dev.ordinator.core.money;

import java.math.BigInteger;

/**
 * A rate of value-added tax.
 *
 * @param hundredths hundredths of a per cent: 2100 is 21 %
 */
public record TaxRate(int hundredths) {
  private static final int WHOLE = 10_000;

  /** Outside the tax area, or exempt. */
  public static final TaxRate NONE = new TaxRate(0);

  public TaxRate {
    if (hundredths < 0 || hundredths > WHOLE) {
      throw new IllegalArgumentException("a tax rate is 0 to 100 %, not " + hundredths / 100.0);
    }
  }

  /** The tax that a price contains: gross × rate ÷ (100 % + rate), rounded half up. */
  public Money within(Money gross) {
    return part(gross, WHOLE + hundredths);
  }

  /** The tax that comes on top of a price: net × rate, rounded half up. */
  public Money on(Money net) {
    return part(net, WHOLE);
  }

  private Money part(Money amount, long of) {
    BigInteger twice =
        BigInteger.valueOf(amount.minor()).multiply(BigInteger.valueOf(2L * hundredths));
    BigInteger divisor = BigInteger.valueOf(of);
    long minor = twice.add(divisor).divide(divisor.shiftLeft(1)).longValueExact();
    return new Money(minor, amount.currency());
  }
}
