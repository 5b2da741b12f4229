package dev.ordinator.core.routing;

import java.util.Arrays;
import java.util.random.RandomGenerator;

/** Which option of a table each order has, and who has some of what is shared. */
final class Holdings {
  private final OptionTable table;
  private final int[] option;
  private final long[] left;
  private final int[][] holders;
  private final int[] holding;

  /**
   * @param have by number; it is changed
   */
  Holdings(OptionTable table, int orders, long[] have) {
    this.table = table;
    this.option = new int[orders];
    this.left = have;
    this.holders = new int[have.length][2];
    this.holding = new int[have.length];
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
    return holders[number][random.nextInt(holding[number])];
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
      if (holding[number] == holders[number].length) {
        holders[number] = Arrays.copyOf(holders[number], 2 * holding[number]);
      }
      holders[number][holding[number]++] = order;
    }
  }

  /** Takes back what an order has. */
  void take(int order) {
    int some = option[order];
    for (int t = table.firstTake(some); t < table.firstTake(some + 1); t++) {
      int number = table.what(t);
      left[number] += table.units(t);
      int[] who = holders[number];
      int at = 0;
      while (who[at] != order) {
        at++;
      }
      who[at] = who[--holding[number]];
    }
  }
}
