package dev.ordinator.core.orders;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.Rounding;

/**
 * What the buyer's price leaves us before goods and sending are paid, all in the channel's
 * currency.
 *
 * @param total after all discounts, with shipping and tax
 * @param tax what of it is tax
 * @param feeHundredths what the channel keeps of the total, in hundredths of a per cent
 * @param fixedFee what it keeps per order besides
 */
public record Proceeds(Money total, Money tax, int feeHundredths, Money fixedFee) {
  private static final long WHOLE = 10_000;

  /** total − tax − fee of the total, rounded, − fixed fee. */
  public Money net() {
    long fee = Rounding.share(total.minor(), feeHundredths, WHOLE);
    return total.minus(tax).minus(new Money(fee, total.currency())).minus(fixedFee);
  }

  /**
   * The margin before the order is sent: its net proceeds at the order's rate − what the goods cost
   * us.
   *
   * @param goods in the currency that the rate leads to
   */
  public Money less(Money goods, ExchangeRate rate) {
    return rate.convert(net()).minus(goods);
  }
}
