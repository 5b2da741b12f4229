package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.Arrays;

/**
 * What is charged for each thing that orders share: the multipliers of a Lagrangian relaxation, in
 * whole minor units so that bounds are exact.
 */
final class Charges implements Worth {
  private final Shelves shelves;
  private final long[] charge;

  /** The least that a unit is charged, wherever it lies; by item. */
  private final long[] anywhere;

  /** Whether anything is charged, by item. */
  private final boolean[] concerned;

  private boolean placesConcerned;

  /**
   * @param charge by number
   */
  Charges(Shelves shelves, long[] charge) {
    this.shelves = shelves;
    this.charge = charge;
    this.anywhere = new long[shelves.items()];
    this.concerned = new boolean[shelves.items()];
    Arrays.fill(anywhere, Long.MAX_VALUE);
    for (int number = 0; number < charge.length; number++) {
      int item = shelves.itemOf(number);
      if (item < 0) {
        placesConcerned |= charge[number] > 0;
      } else {
        concerned[item] |= charge[number] > 0;
        anywhere[item] = Math.min(anywhere[item], charge[shelves.base(number)]);
      }
    }
  }

  /**
   * The least that a unit of an item is charged, wherever it lies; nothing if it lies nowhere.
   *
   * @param item by {@link Shelves#item}
   */
  long anywhere(int item) {
    return concerned[item] ? anywhere[item] : 0;
  }

  @Override
  public long unit(String node, String sku) {
    return of(shelves.ofStock(node, sku));
  }

  @Override
  public long place(String node) {
    return of(shelves.ofPlaces(node));
  }

  /** By number. */
  double[] each() {
    return Arrays.stream(charge).asDoubleStream().toArray();
  }

  long of(int number) {
    return number < 0 ? 0 : charge[number];
  }

  /** The value of what could be done, with what it takes. */
  long charged(Option option) {
    long sum = option.value();
    for (long take : option.takes().each()) {
      sum += of(take);
    }
    return sum;
  }

  /**
   * What a row of a table comes to.
   *
   * @param cells the value, then what it {@link Takes}
   */
  long charged(long[] cells, int from, int to) {
    long sum = cells[from];
    for (int cell = from + 1; cell < to; cell++) {
      sum += of(cells[cell]);
    }
    return sum;
  }

  private long of(long take) {
    return charge[Takes.what(take)] * Takes.units(take);
  }

  /** What all of it would come to. */
  long of(long[] have) {
    long sum = 0;
    for (int number = 0; number < charge.length; number++) {
      sum += charge[number] * have[number];
    }
    return sum;
  }

  /**
   * Whether anything is charged for that an order could want.
   *
   * @param items that it asks for, by {@link Shelves#item}
   */
  boolean concern(int[] items) {
    for (int item : items) {
      if (concerned[item]) {
        return true;
      }
    }
    return placesConcerned;
  }
}
