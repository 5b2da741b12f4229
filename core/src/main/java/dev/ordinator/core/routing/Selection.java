package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Shelves.Takes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The cheapest way to give each of some orders one of its options out of what is left: branch and
 * bound. Whatever the orders still to be decided get, it costs no less than each one's cheapest,
 * and no less than each one's cheapest with charges, less the charges for all that is left.
 */
final class Selection {
  private final List<List<Option>> options;
  private final Charges charges;
  private final long[] left;
  private final Effort effort;

  private final long[] leastValue;
  private final long[] leastCharged;
  private final Option[] chosen;
  private long worthLeft;
  private long beat;
  private Option[] best = new Option[0];

  /** Where each order of the search stands in the list. */
  private final int[] turn;

  /**
   * @param left by number; is changed while it searches
   * @param beat only what comes to less is of use
   */
  Selection(List<List<Option>> options, Charges charges, long[] left, long beat, Effort effort) {
    this.charges = charges;
    this.left = left;
    this.beat = beat;
    this.effort = effort;
    this.turn =
        IntStream.range(0, options.size())
            .boxed()
            .sorted(Comparator.comparingLong(o -> -regret(options.get(o), charges)))
            .mapToInt(Integer::intValue)
            .toArray();
    this.options =
        Arrays.stream(turn)
            .mapToObj(o ->
                options.get(o).stream().sorted(Comparator.comparingLong(charges::charged)).toList())
            .toList();
    this.chosen = new Option[options.size()];
    this.leastValue = new long[options.size() + 1];
    this.leastCharged = new long[options.size() + 1];
    for (int depth = options.size() - 1; depth >= 0; depth--) {
      List<Option> some = this.options.get(depth);
      leastCharged[depth] = leastCharged[depth + 1] + charges.charged(some.getFirst());
      leastValue[depth] =
          leastValue[depth + 1] + some.stream().mapToLong(Option::value).min().orElseThrow();
    }
    this.worthLeft = charges.of(left);
  }

  /** What an order loses if it can't have what is best for it. */
  private static long regret(List<Option> options, Charges charges) {
    List<Long> sorted = options.stream().map(charges::charged).sorted().toList();
    return sorted.size() == 1 ? Long.MAX_VALUE : sorted.get(1) - sorted.get(0);
  }

  /** By order as they are listed; empty if nothing comes to less. */
  List<Option> best() {
    decide(0, 0);
    List<Option> byOrder = new ArrayList<>();
    if (best.length > 0) {
      Option[] listed = new Option[best.length];
      for (int depth = 0; depth < best.length; depth++) {
        listed[turn[depth]] = best[depth];
      }
      byOrder.addAll(Arrays.asList(listed));
    }
    return byOrder;
  }

  private void decide(int depth, long value) {
    effort.spend(1);
    long bound = value + Math.max(leastValue[depth], leastCharged[depth] - worthLeft);
    if (bound >= beat || effort.isSpent()) {
      return;
    }
    if (depth == chosen.length) {
      beat = value;
      best = chosen.clone();
      return;
    }
    for (Option option : options.get(depth)) {
      if (fits(option.takes())) {
        take(option.takes(), 1);
        chosen[depth] = option;
        decide(depth + 1, value + option.value());
        take(option.takes(), -1);
      }
    }
  }

  private boolean fits(Takes takes) {
    for (int t = 0; t < takes.what().length; t++) {
      if (takes.units()[t] > left[takes.what()[t]]) {
        return false;
      }
    }
    return true;
  }

  private void take(Takes takes, int sign) {
    for (int t = 0; t < takes.what().length; t++) {
      int number = takes.what()[t];
      left[number] -= sign * takes.units()[t];
      worthLeft -= sign * charges.of(number) * takes.units()[t];
    }
  }
}
