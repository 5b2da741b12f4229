package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.List;

/**
 * First charges, the same for an item wherever it lies: there are far fewer of them, so that little
 * needs to be known to tell of which items there is too little.
 */
final class ItemCharges {
  /** By number, what it counts as; −1: nothing. */
  private final int[] thing;

  private final long[] have;

  /** Places of each node are a thing of their own; that some perishes is left out. */
  ItemCharges(Shelves shelves) {
    this.thing = new int[shelves.size()];
    this.have = new long[shelves.places() + shelves.items()];
    for (int number = 0; number < thing.length; number++) {
      int item = shelves.itemOf(number);
      if (shelves.base(number) != number) {
        thing[number] = -1;
      } else {
        thing[number] = item < 0 ? number : shelves.places() + item;
        have[thing[number]] += shelves.have(number);
      }
    }
  }

  /** By number, as {@link Tuning#tune} finds them from nothing. */
  double[] tune(List<List<Option>> options, double step, int rounds) {
    double[] tuned =
        Tuning.tune(
            new OptionTable(options).numbered(number -> thing[number]),
            have,
            new double[have.length],
            step,
            rounds);
    double[] charge = new double[thing.length];
    for (int number = 0; number < thing.length; number++) {
      charge[number] = thing[number] < 0 ? 0 : tuned[thing[number]];
    }
    return charge;
  }
}
