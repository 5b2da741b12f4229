package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.List;
import java.util.function.IntUnaryOperator;

/** The options of all orders as they are known at a moment, in rows that are quickly gone over. */
final class OptionTable {
  private final int[] firstOption;
  private final long[] value;
  private final int[] firstTake;
  private final int[] what;
  private final long[] units;

  OptionTable(List<List<Option>> orders) {
    this(orders, number -> number);
  }

  /**
   * @param row where what has a number is counted; −1: not at all
   */
  OptionTable(List<List<Option>> orders, IntUnaryOperator row) {
    int options = 0;
    int takes = 0;
    for (List<Option> order : orders) {
      options += order.size();
      for (Option option : order) {
        takes += option.takes().what().length;
      }
    }
    this.firstOption = new int[orders.size() + 1];
    this.value = new long[options];
    this.firstTake = new int[options + 1];
    this.what = new int[takes];
    this.units = new long[takes];
    int at = 0;
    int take = 0;
    for (int o = 0; o < orders.size(); o++) {
      for (Option option : orders.get(o)) {
        value[at] = option.value();
        Takes some = option.takes();
        for (int t = 0; t < some.what().length; t++) {
          what[take] = row.applyAsInt(some.what()[t]);
          units[take] = some.units()[t];
          take += what[take] < 0 ? 0 : 1;
        }
        at++;
        firstTake[at] = take;
      }
      firstOption[o + 1] = at;
    }
  }

  /** The number of an order's first option; its others follow. */
  int first(int order) {
    return firstOption[order];
  }

  long value(int option) {
    return value[option];
  }

  /** The number of the first thing that an option takes; the others follow. */
  int firstTake(int option) {
    return firstTake[option];
  }

  int what(int take) {
    return what[take];
  }

  long units(int take) {
    return units[take];
  }

  /**
   * Each order takes the option that is charged least.
   *
   * @param taken what all of them take is added to it, by number
   * @return the sum of what they are charged
   */
  double take(double[] charge, double[] taken) {
    double sum = 0;
    for (int o = 0; o < firstOption.length - 1; o++) {
      int cheapest = firstOption[o];
      double least = Double.MAX_VALUE;
      for (int option = firstOption[o]; option < firstOption[o + 1]; option++) {
        double charged = value[option];
        for (int t = firstTake[option]; t < firstTake[option + 1]; t++) {
          charged += charge[what[t]] * units[t];
        }
        if (charged < least) {
          least = charged;
          cheapest = option;
        }
      }
      sum += least;
      for (int t = firstTake[cheapest]; t < firstTake[cheapest + 1]; t++) {
        taken[what[t]] += units[t];
      }
    }
    return sum;
  }
}
