package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.function.IntUnaryOperator;
import java.util.stream.IntStream;

/**
 * The options of all orders as they are known at a moment, in rows that are quickly gone over: what
 * is looked at together lies together, as a batch's options are more than a processor holds near.
 */
final class OptionTable {
  private final int[] firstOption;

  /** By option, what it is called in the table that this one is part of. */
  private final int[] name;

  /** By option, where its row begins; it ends where the next begins. */
  private final int[] row;

  /** Rows: the value, then by turns what it takes and how many units of that. */
  private final long[] cells;

  OptionTable(List<List<Option>> orders) {
    this(orders, number -> number);
  }

  /**
   * @param counted where what has a number is counted; −1: not at all
   */
  OptionTable(List<List<Option>> orders, IntUnaryOperator counted) {
    int options = 0;
    int size = 0;
    for (List<Option> order : orders) {
      options += order.size();
      for (Option option : order) {
        size += 1 + 2 * option.takes().what().length;
      }
    }
    this.firstOption = new int[orders.size() + 1];
    this.name = IntStream.range(0, options).toArray();
    this.row = new int[options + 1];
    this.cells = new long[size];
    int at = 0;
    int cell = 0;
    for (int o = 0; o < orders.size(); o++) {
      for (Option option : orders.get(o)) {
        cells[cell++] = option.value();
        Takes some = option.takes();
        for (int t = 0; t < some.what().length; t++) {
          int what = counted.applyAsInt(some.what()[t]);
          if (what >= 0) {
            cells[cell++] = what;
            cells[cell++] = some.units()[t];
          }
        }
        row[++at] = cell;
      }
      firstOption[o + 1] = at;
    }
  }

  private OptionTable(OptionTable whole, int[] orders, IntPredicate kept) {
    this.firstOption = new int[orders.length + 1];
    int most = 0;
    int size = 0;
    for (int o : orders) {
      most += whole.first(o + 1) - whole.first(o);
      size += whole.row[whole.first(o + 1)] - whole.row[whole.first(o)];
    }
    this.name = new int[most];
    this.row = new int[most + 1];
    this.cells = new long[size];
    int at = 0;
    for (int o = 0; o < orders.length; o++) {
      for (int option = whole.first(orders[o]); option < whole.first(orders[o] + 1); option++) {
        if (kept.test(option)) {
          int length = whole.row[option + 1] - whole.row[option];
          System.arraycopy(whole.cells, whole.row[option], cells, row[at], length);
          name[at] = whole.name[option];
          row[at + 1] = row[at] + length;
          at++;
        }
      }
      firstOption[o + 1] = at;
    }
  }

  /** Some of its orders, with some of their options. */
  OptionTable only(int[] orders, IntPredicate kept) {
    return new OptionTable(this, orders, kept);
  }

  int orders() {
    return firstOption.length - 1;
  }

  /** The number of an order's first option; its others follow. */
  int first(int order) {
    return firstOption[order];
  }

  int name(int option) {
    return name[option];
  }

  long value(int option) {
    return cells[row[option]];
  }

  /** How many things an option takes some of. */
  int takes(int option) {
    return (row[option + 1] - row[option]) / 2;
  }

  int what(int option, int take) {
    return (int) cells[row[option] + 1 + 2 * take];
  }

  long units(int option, int take) {
    return cells[row[option] + 2 + 2 * take];
  }

  boolean fits(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell += 2) {
      if (cells[cell + 1] > left[(int) cells[cell]]) {
        return false;
      }
    }
    return true;
  }

  /** Takes what an option takes from what is left, by number. */
  void use(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell += 2) {
      left[(int) cells[cell]] -= cells[cell + 1];
    }
  }

  /** Gives it back. */
  void free(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell += 2) {
      left[(int) cells[cell]] += cells[cell + 1];
    }
  }

  double charged(int option, double[] charge) {
    double charged = value(option);
    for (int cell = row[option] + 1; cell < row[option + 1]; cell += 2) {
      charged += charge[(int) cells[cell]] * cells[cell + 1];
    }
    return charged;
  }

  /**
   * Each order takes the option that is charged least.
   *
   * @param taken what all of them take is added to it, by number
   * @return the sum of what they are charged
   */
  double take(double[] charge, double[] taken) {
    double sum = 0;
    for (int o = 0; o < orders(); o++) {
      int cheapest = first(o);
      double least = Double.MAX_VALUE;
      for (int option = first(o); option < first(o + 1); option++) {
        double charged = charged(option, charge);
        if (charged < least) {
          least = charged;
          cheapest = option;
        }
      }
      sum += least;
      for (int t = 0; t < takes(cheapest); t++) {
        taken[what(cheapest, t)] += units(cheapest, t);
      }
    }
    return sum;
  }
}
