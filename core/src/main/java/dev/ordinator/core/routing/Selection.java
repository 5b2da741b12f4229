package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;

/**
 * The cheapest way to give each of some orders one of its options out of what is left: branch and
 * bound. Whatever the orders still to be decided get, it costs no less than each one's cheapest,
 * and no less than each one's cheapest with charges, less the charges for all that is left.
 */
final class Selection {
  private final Charges charges;
  private final Effort effort;

  /** An option with what it takes by the numbers of this search. */
  private record Row(Option option, int[] what, long[] units) {}

  private final List<List<Row>> rows = new ArrayList<>();

  /** What some option takes, by a number of this search; what is left of it, and its charge. */
  private final Map<Integer, Integer> numbers = new HashMap<>();

  private long[] left = new long[16];
  private long[] charge = new long[16];

  private final long[] leastValue;
  private final long[] leastCharged;
  private final Option[] chosen;
  private long worthLeft;
  private long beat;
  private Option[] best = new Option[0];

  /** Where each order of the search stands in the list. */
  private final int[] turn;

  /**
   * @param there what is left, by number
   * @param beat only what comes to less is of use
   */
  Selection(
      List<List<Option>> options,
      Charges charges,
      IntToLongFunction there,
      long beat,
      Effort effort) {
    this.charges = charges;
    this.beat = beat;
    this.effort = effort;
    this.turn =
        IntStream.range(0, options.size())
            .boxed()
            .sorted(Comparator.comparingLong(o -> -regret(options.get(o), charges)))
            .mapToInt(Integer::intValue)
            .toArray();
    List<List<Option>> sorted =
        Arrays.stream(turn)
            .mapToObj(o ->
                options.get(o).stream().sorted(Comparator.comparingLong(charges::charged)).toList())
            .toList();
    this.chosen = new Option[options.size()];
    this.leastValue = new long[options.size() + 1];
    this.leastCharged = new long[options.size() + 1];
    for (int depth = options.size() - 1; depth >= 0; depth--) {
      List<Option> some = sorted.get(depth);
      leastCharged[depth] = leastCharged[depth + 1] + charges.charged(some.getFirst());
      leastValue[depth] =
          leastValue[depth + 1] + some.stream().mapToLong(Option::value).min().orElseThrow();
    }
    for (List<Option> some : sorted) {
      rows.add(some.stream().map(option -> row(option, there)).toList());
    }
  }

  /** What an order loses if it can't have what is best for it. */
  private static long regret(List<Option> options, Charges charges) {
    List<Long> inOrder = options.stream().map(charges::charged).sorted().toList();
    return inOrder.size() == 1 ? Long.MAX_VALUE : inOrder.get(1) - inOrder.get(0);
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
    for (Row row : rows.get(depth)) {
      if (fits(row)) {
        take(row, 1);
        chosen[depth] = row.option();
        decide(depth + 1, value + row.option().value());
        take(row, -1);
      }
    }
  }

  private Row row(Option option, IntToLongFunction there) {
    long[] shared = option.takes().each();
    int[] what = new int[shared.length];
    long[] units = new long[shared.length];
    for (int t = 0; t < what.length; t++) {
      int next = numbers.size();
      int number = Takes.what(shared[t]);
      units[t] = Takes.units(shared[t]);
      what[t] = numbers.computeIfAbsent(number, n -> next);
      if (what[t] == next) {
        if (next == left.length) {
          left = Arrays.copyOf(left, 2 * next);
          charge = Arrays.copyOf(charge, 2 * next);
        }
        left[next] = there.applyAsLong(number);
        charge[next] = charges.of(number);
        worthLeft += left[next] * charge[next];
      }
    }
    return new Row(option, what, units);
  }

  private boolean fits(Row row) {
    for (int t = 0; t < row.what().length; t++) {
      if (row.units()[t] > left[row.what()[t]]) {
        return false;
      }
    }
    return true;
  }

  private void take(Row row, int sign) {
    for (int t = 0; t < row.what().length; t++) {
      int number = row.what()[t];
      left[number] -= sign * row.units()[t];
      worthLeft -= sign * charge[number] * row.units()[t];
    }
  }
}
