package dev.ordinator.core.stock;

import java.util.List;
import java.util.OptionalInt;

/**
 * When those who wait for an item will have it, one after the other: the k-th on the first day on
 * which what is there and what has come until then is enough for the first k.
 */
public final class SupplyQueue {
  private SupplyQueue() {}

  /**
   * @param supply what is free and expected, of which nothing is taken off for who waits
   * @param needs units, in the order in which they are served
   * @return days as the supply counts them; empty for those who are served on no day in sight
   */
  public static List<OptionalInt> days(Atp supply, List<Long> needs) {
    long[] before = {0};
    return needs.stream()
        .map(need -> {
          before[0] += need;
          return supply.promise(before[0]);
        })
        .toList();
  }
}
