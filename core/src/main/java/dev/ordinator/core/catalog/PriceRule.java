package dev.ordinator.core.catalog;

import dev.ordinator.core.money.Rounding;

/**
 * How the price of a listing follows from what the item costs. All amounts are minor units of the
 * channel's currency.
 *
 * @param markupHundredths hundredths of a per cent put on the cost: 4000 is 40 %
 * @param plus a fixed amount put on as well
 * @param ending what prices end with; a price is raised to it, never lowered
 * @param floorHundredths the margin, in hundredths of a per cent of the price before tax, below
 *     which no price goes
 */
public record PriceRule(int markupHundredths, long plus, Ending ending, int floorHundredths) {
  private static final int WHOLE = 10_000;

  public PriceRule {
    if (markupHundredths < 0 || markupHundredths > 100 * WHOLE) {
      throw new IllegalArgumentException("a markup is 0 to 10,000 %");
    }
    if (plus < 0) {
      throw new IllegalArgumentException("what is put on is not negative");
    }
    if (floorHundredths < 0 || floorHundredths >= WHOLE) {
      throw new IllegalArgumentException("a floor is 0 to less than 100 %");
    }
  }

  /** What prices end with. */
  public enum Ending {
    EXACT(1, 0),
    TENTH(10, 0),
    NINETY_FIVE(100, 95),
    NINETY_NINE(100, 99),
    WHOLE_UNIT(100, 0);

    private final long step;
    private final long rest;

    Ending(long step, long rest) {
      this.step = step;
      this.rest = rest;
    }

    /** The least price of this ending that is not below another. */
    long raise(long price) {
      return price + Math.floorMod(rest - price, step);
    }
  }

  /**
   * What a channel takes off a price before anything is earned.
   *
   * @param taxHundredths tax that the price contains; 0 if prices are without
   * @param feeHundredths of the price, tax and all
   */
  public record Terms(int taxHundredths, int feeHundredths) {
    /** A price without its tax, {@link Rounding rounded}. */
    long net(long price) {
      return Rounding.share(price, WHOLE, WHOLE + taxHundredths);
    }

    /** What the channel keeps of a price, {@link Rounding rounded}. */
    long fee(long price) {
      return Rounding.share(price, feeHundredths, WHOLE);
    }
  }

  /**
   * A price and what it earns: {@code margin = price without tax − fee − cost}, carriage and
   * handling aside, for they are the order's.
   *
   * @param marginHundredths the margin as hundredths of a per cent of the price without tax,
   *     rounded down
   * @param raised whether the floor made it dearer than cost and markup alone
   */
  public record Priced(long price, long margin, long marginHundredths, boolean raised) {}

  /**
   * The rule's price.
   *
   * @param cost of one unit, without tax; not negative
   * @throws IllegalArgumentException if no price keeps the floor, for fee and floor take it all
   */
  public Priced price(long cost, Terms terms) {
    long net = cost + Rounding.share(cost, markupHundredths, WHOLE) + plus;
    long plain = ending.raise(Rounding.share(net, WHOLE + terms.taxHundredths(), WHOLE));
    if (keepsFloor(plain, cost, terms)) {
      return priced(plain, cost, terms, false);
    }
    long price = ending.raise(leastNearFloor(cost, terms));
    // rounding may leave it a step short
    while (!keepsFloor(price, cost, terms)) {
      price = ending.raise(price + 1);
    }
    return priced(price, cost, terms, true);
  }

  /** What another price would earn. */
  public static Priced earned(long price, long cost, Terms terms) {
    return priced(price, cost, terms, false);
  }

  /**
   * A price at or a little below the least that keeps the floor: from {@code net × (1 − floor) =
   * fee + cost}, so {@code price = cost ÷ ((1 − floor) ÷ (1 + tax) − fee)}.
   */
  private long leastNearFloor(long cost, Terms terms) {
    double left =
        (double) (WHOLE - floorHundredths) / (WHOLE + terms.taxHundredths())
            - (double) terms.feeHundredths() / WHOLE;
    if (left < 1e-4) {
      throw new IllegalArgumentException(
          "no price keeps that margin: the fee and the margin take all of it");
    }
    return Math.max(0, (long) (cost / left) - 2);
  }

  private boolean keepsFloor(long price, long cost, Terms terms) {
    long net = terms.net(price);
    return (net - terms.fee(price) - cost) * WHOLE >= net * floorHundredths;
  }

  private static Priced priced(long price, long cost, Terms terms, boolean raised) {
    long net = terms.net(price);
    long margin = net - terms.fee(price) - cost;
    return new Priced(price, margin, net == 0 ? 0 : Math.floorDiv(margin * WHOLE, net), raised);
  }
}
