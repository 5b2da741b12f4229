package dev.ordinator.core.routing;

import java.util.Arrays;
import java.util.random.RandomGenerator;

/** Which option of a table each order has, and who has some of what is shared. */
final class Holdings {
  private final OptionTable table;
  private final int[] option;
  private final long[] left;

  /** By number, what is held of it: the takes of the options that orders have. */
  private final int[][] held;

  private final int[] holding;

  /** Where in that list a take stands that is held. */
  private final int[] place;

  /** Whose option a take is of. */
  private final int[] whose;

  /**
   * @param have by number; it is changed
   */
  Holdings(OptionTable table, int orders, long[] have) {
    this.table = table;
    this.option = new int[orders];
    this.left = have;
    this.held = new int[have.length][2];
    this.holding = new int[have.length];
    int takes = table.firstTake(table.first(orders));
    this.place = new int[takes];
    this.whose = new int[takes];
    for (int o = 0; o < orders; o++) {
      Arrays.fill(whose, table.firstTake(table.first(o)), table.firstTake(table.first(o + 1)), o);
    }
  }

  int of(int order) {
    return option[order];
  }

  int[] all() {
    return option.clone();
  }

  void copy(int[] into) {
    System.arraycopy(option, 0, into, 0, into.length);
  }

  long left(int number) {
    return left[number];
  }

  int anyHolder(int number, RandomGenerator random) {
    return whose[held[number][random.nextInt(holding[number])]];
  }

  boolean fits(int some) {
    for (int t = table.firstTake(some); t < table.firstTake(some + 1); t++) {
      if (table.units(t) > left[table.what(t)]) {
        return false;
      }
    }
    return true;
  }

  void give(int order, int some) {
    option[order] = some;
    for (int t = table.firstTake(some); t < table.firstTake(some + 1); t++) {
      int number = table.what(t);
      left[number] -= table.units(t);
      if (holding[number] == held[number].length) {
        held[number] = Arrays.copyOf(held[number], 2 * holding[number]);
      }
      place[t] = holding[number];
      held[number][holding[number]++] = t;
    }
  }

  /** Takes back what an order has. */
  void take(int order) {
    int some = option[order];
    for (int t = table.firstTake(some); t < table.firstTake(some + 1); t++) {
      int number = table.what(t);
      left[number] += table.units(t);
      int last = held[number][--holding[number]];
      held[number][place[t]] = last;
      place[last] = place[t];
    }
  }
}
