package dev.ordinator.core.orders;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.Shares;
import dev.ordinator.core.money.TaxRate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What an order costs, settled to the last minor unit: the order's discount spread over its lines,
 * the tax of each line and of shipping, and the total. All in the order's currency.
 *
 * @param lines in the order of the lines given
 * @param shippingTax tax within or on the shipping charge
 * @param total what the buyer owes, tax included
 */
public record Charges(List<Line> lines, Money shippingTax, Money total) {

  /**
   * A line as ordered.
   *
   * @param discount on the whole line
   * @param sentTax as the channel computed it; null: the channel sends none, and it is computed
   */
  public record Ordered(
      Money unitPrice, long quantity, Money discount, @Nullable Money sentTax, TaxRate rate) {
    /** Price × quantity − the line's own discount. */
    Money amount() {
      return unitPrice.times(quantity).minus(discount);
    }
  }

  /**
   * @param orderDiscount the line's share of the order's discount
   * @param amount after all discounts, with or without tax as the order's prices are
   */
  public record Line(Money orderDiscount, Money amount, Money tax) {}

  /**
   * Spreads the order's discount over the lines in proportion to their amounts (largest remainder).
   * Shipping is ancillary to the goods and taxed as they are (Directive 2006/112/EC, art. 78): its
   * charge is split over the goods' tax rates in proportion to their amounts, or to their
   * quantities when all goods cost nothing, and taxed and rounded once for each rate.
   *
   * @param orderDiscount on all lines together
   * @param pricesWithTax whether prices, discounts and shipping contain tax
   * @throws IllegalArgumentException if a discount is larger than what it is taken from
   */
  public static Charges of(
      List<Ordered> ordered, Money orderDiscount, Money shipping, boolean pricesWithTax) {
    long[] amounts = ordered.stream().mapToLong(l -> l.amount().minor()).toArray();
    long goods = 0;
    for (long amount : amounts) {
      if (amount < 0) {
        throw new IllegalArgumentException("a line's discount is larger than its price");
      }
      goods = Math.addExact(goods, amount);
    }
    if (orderDiscount.minor() > goods) {
      throw new IllegalArgumentException(
          "the discount of " + orderDiscount + " is larger than the goods' price");
    }
    long[] discounts = Shares.split(orderDiscount.minor(), amounts);
    List<Line> lines = new ArrayList<>();
    Money total = shipping;
    Money tax = new Money(0, shipping.currency());
    for (int i = 0; i < ordered.size(); i++) {
      Ordered line = ordered.get(i);
      Money discount = new Money(discounts[i], shipping.currency());
      Money amount = line.amount().minus(discount);
      Money sent = line.sentTax();
      Money lineTax = sent == null ? tax(line.rate(), amount, pricesWithTax) : sent;
      lines.add(new Line(discount, amount, lineTax));
      total = total.plus(amount);
      tax = tax.plus(lineTax);
    }
    Money shippingTax = shippingTax(ordered, amounts, shipping, pricesWithTax);
    return new Charges(
        List.copyOf(lines), shippingTax, pricesWithTax ? total : total.plus(tax).plus(shippingTax));
  }

  /** Tax of goods and shipping. */
  public Money tax() {
    return lines.stream().map(Line::tax).reduce(shippingTax, Money::plus);
  }

  private static Money shippingTax(
      List<Ordered> ordered, long[] amounts, Money shipping, boolean pricesWithTax) {
    boolean isFree = Arrays.stream(amounts).allMatch(amount -> amount == 0);
    Map<TaxRate, Long> weights = new LinkedHashMap<>();
    for (int i = 0; i < amounts.length; i++) {
      Ordered line = ordered.get(i);
      weights.merge(line.rate(), isFree ? line.quantity() : amounts[i], Math::addExact);
    }
    long[] parts =
        Shares.split(
            shipping.minor(), weights.values().stream().mapToLong(Long::longValue).toArray());
    Money tax = new Money(0, shipping.currency());
    int next = 0;
    for (TaxRate rate : weights.keySet()) {
      tax = tax.plus(tax(rate, new Money(parts[next++], shipping.currency()), pricesWithTax));
    }
    return tax;
  }

  private static Money tax(TaxRate rate, Money amount, boolean within) {
    return within ? rate.within(amount) : rate.on(amount);
  }
}
