package dev.ordinator.core.returns;

import dev.ordinator.core.money.Money;
import java.util.List;

/**
 * What a buyer bought and paid, and what was paid back of it already. All amounts are in the
 * order's currency.
 *
 * @param shipping what the buyer paid for it, tax included
 * @param feesKept what refunds before kept back of the price of their lines
 */
public record Bought(
    List<Line> lines,
    Money shipping,
    Money shippingRefunded,
    Money feesKept,
    List<Tender> tenders) {

  /**
   * @param units as the channel counts them; positive
   * @param paid for all of them, after all discounts and with tax
   * @param unitsRefunded units whose price was paid back
   * @param refunded what was paid back for them
   */
  public record Line(String id, long units, Money paid, long unitsRefunded, Money refunded) {
    public Line {
      if (units < 1 || unitsRefunded < 0 || unitsRefunded > units) {
        throw new IllegalArgumentException(
            "%d units, %d of them refunded".formatted(units, unitsRefunded));
      }
    }

    long unitsLeft() {
      return units - unitsRefunded;
    }

    Money left() {
      return paid.minus(refunded);
    }
  }

  /**
   * One of the ways in which it was paid.
   *
   * @param captured what really came in by it
   */
  public record Tender(String id, Money captured, Money refunded) {
    Money left() {
      return captured.minus(refunded);
    }
  }

  /** What may still be paid back, whatever for: captured − refunded over all tenders. */
  public Money left() {
    return tenders.stream().map(Tender::left).reduce(zero(), Money::plus);
  }

  /** What may still be paid back of shipping. */
  public Money shippingLeft() {
    return shipping.minus(shippingRefunded);
  }

  /**
   * What came in beyond all that was bought, such as for units that the channel took off the order
   * afterwards: what is left of the tenders, less what is left of lines and shipping and was kept
   * as fees.
   */
  public Money excess() {
    Money bought =
        lines.stream().map(Line::left).reduce(shippingLeft().plus(feesKept), Money::plus);
    Money more = left().minus(bought);
    return more.minor() > 0 ? more : zero();
  }

  Money zero() {
    return new Money(0, shipping.currency());
  }
}
