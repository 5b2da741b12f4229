package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * What is charged for each thing that orders share: the multipliers of a Lagrangian relaxation, in
 * whole minor units so that bounds are exact.
 */
final class Charges implements Worth {
  private final Shelves shelves;
  private final long[] charge;
  private final Set<String> skus = new HashSet<>();

  /** By SKU; empty: places. */
  private final Map<String, Long> anywhere = new HashMap<>();

  /**
   * @param charge by number
   */
  Charges(Shelves shelves, long[] charge) {
    this.shelves = shelves;
    this.charge = charge;
    for (int number = 0; number < charge.length; number++) {
      if (charge[number] > 0) {
        skus.add(shelves.sku(number));
      }
      if (shelves.base(number) == number) {
        anywhere.merge(shelves.sku(number), charge[number], Math::min);
      }
    }
  }

  /** The least that a unit of an item is charged, wherever it lies. */
  long anywhere(String sku) {
    return anywhere.getOrDefault(sku, 0L);
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

  /** Whether anything is charged for that an order could want. */
  boolean concern(OrderDemand demand) {
    for (OrderDemand.Line line : demand.lines()) {
      if (skus.contains(line.item().sku())) {
        return true;
      }
    }
    return skus.contains("");
  }
}
