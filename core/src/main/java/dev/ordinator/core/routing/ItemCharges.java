package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * First charges, the same for an item wherever it lies: there are far fewer of them, so that little
 * needs to be known to tell of which items there is too little.
 */
final class ItemCharges {
  private final int[] item;
  private final long[] have;

  /** Places of each node are a thing of their own; that some perishes is left out. */
  ItemCharges(Shelves shelves) {
    this.item = new int[shelves.size()];
    Map<String, Integer> items = new HashMap<>();
    long[] all = new long[shelves.size()];
    int things = 0;
    for (int number = 0; number < item.length; number++) {
      boolean isStock = shelves.base(number) == number;
      String sku = shelves.sku(number);
      int next = things;
      item[number] = !isStock ? -1 : sku.isEmpty() ? next : items.computeIfAbsent(sku, s -> next);
      things += item[number] == next ? 1 : 0;
      if (isStock) {
        all[item[number]] += shelves.have(number);
      }
    }
    this.have = Arrays.copyOf(all, things);
  }

  /** By number, as {@link Tuning#tune} finds them from nothing. */
  double[] tune(List<List<Option>> options, double step, int rounds) {
    double[] tuned =
        Tuning.tune(
            new OptionTable(options).numbered(number -> item[number]),
            have,
            new double[have.length],
            step,
            rounds);
    double[] charge = new double[item.length];
    for (int number = 0; number < item.length; number++) {
      charge[number] = item[number] < 0 ? 0 : tuned[item[number]];
    }
    return charge;
  }
}
