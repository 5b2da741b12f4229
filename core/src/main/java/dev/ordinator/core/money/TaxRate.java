package dev.ordinator.core.money;

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

  /** The tax that a price contains: gross × rate ÷ (100 % + rate), {@link Rounding rounded}. */
  public Money within(Money gross) {
    return part(gross, WHOLE + hundredths);
  }

  /** The tax that comes on top of a price: net × rate, {@link Rounding rounded}. */
  public Money on(Money net) {
    return part(net, WHOLE);
  }

  private Money part(Money amount, long of) {
    return new Money(Rounding.share(amount.minor(), hundredths, of), amount.currency());
  }
}
