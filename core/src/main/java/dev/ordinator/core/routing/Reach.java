package dev.ordinator.core.routing;

/**
 * How far the plans of an order are listed: all that come to no more than a sum with charges that
 * are the same for an item wherever it lies. Of what is short, that is far fewer plans than come to
 * no more without charges.
 *
 * @param items by item of the basket, its number on the shelves
 * @param floor charged for a unit, by item of the basket
 * @param upTo plan cost + rung step × rung, and what all it takes is charged
 */
record Reach(Basket basket, int[] items, long[] floor, long upTo) implements Worth {
  /** Without charges. */
  static Reach free(Basket basket, int[] items, long upTo) {
    return new Reach(basket, items, new long[items.length], upTo);
  }

  /**
   * With a part of the least that is charged for each item anywhere.
   *
   * @param part up to 1
   */
  static Reach under(Charges charges, double part, Basket basket, int[] items, long upTo) {
    long[] floor = new long[items.length];
    for (int item = 0; item < floor.length; item++) {
      floor[item] = (long) (part * charges.anywhere(items[item]));
    }
    return new Reach(basket, items, floor, upTo);
  }

  @Override
  public long unit(String node, String sku) {
    return floor[basket.itemWith(sku)];
  }

  @Override
  public long place(String node) {
    return 0;
  }

  /** What so many units of each item are charged. */
  long charge(long[] units) {
    long sum = 0;
    for (int item = 0; item < floor.length; item++) {
      sum += floor[item] * units[item];
    }
    return sum;
  }

  /**
   * Whether a plan is listed.
   *
   * @param value plan cost + rung step × rung
   * @param units that it sends, by item
   */
  boolean holds(long value, long[] units) {
    return value + charge(units) <= upTo;
  }

  /** What is not listed comes to no less than this with charges that may be below the floor. */
  long unknownFrom(Charges charges) {
    long fall = 0;
    for (int item = 0; item < floor.length; item++) {
      long less = floor[item] - charges.anywhere(items[item]);
      fall += Math.max(0, less) * basket.demand(item);
    }
    return upTo + 1 - fall;
  }
}
