package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.function.IntUnaryOperator;

/**
 * The options of all orders as they are known at a moment, each order's cheapest first, in rows
 * that are quickly gone over: what is looked at together lies together, as a batch's options are
 * more than a processor holds near. Charges make nothing cheaper, so who looks for what is charged
 * least need not look at what costs more than that without any.
 */
final class OptionTable {
  private final int[] firstOption;

  /** By option, where it stands in the list of what its order could have. */
  private final int[] name;

  /** By option, where its row begins; it ends where the next begins. */
  private final int[] row;

  /** Rows: the value, then what it {@link Takes}. */
  private final long[] cells;

  OptionTable(List<List<Option>> orders) {
    int options = 0;
    int size = 0;
    for (List<Option> order : orders) {
      options += order.size();
      for (Option option : order) {
        size += 1 + option.takes().each().length;
      }
    }
    this.firstOption = new int[orders.size() + 1];
    this.name = new int[options];
    this.row = new int[options + 1];
    this.cells = new long[size];
    for (int o = 0; o < orders.size(); o++) {
      firstOption[o + 1] = firstOption[o] + orders.get(o).size();
      sort(o, orders.get(o));
      for (int option = first(o); option < first(o + 1); option++) {
        add(option, orders.get(o).get(name[option]));
      }
    }
  }

  /** Names an order's options, the cheapest first; most stand so already. */
  private void sort(int o, List<Option> options) {
    long[] values = new long[options.size()];
    for (int i = 0; i < values.length; i++) {
      values[i] = options.get(i).value();
      int at = first(o) + i;
      while (at > first(o) && values[name[at - 1]] > values[i]) {
        name[at] = name[--at];
      }
      name[at] = i;
    }
  }

  private void add(int option, Option some) {
    long[] takes = some.takes().each();
    cells[row[option]] = some.value();
    System.arraycopy(takes, 0, cells, row[option] + 1, takes.length);
    row[option + 1] = row[option] + 1 + takes.length;
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

  private OptionTable(OptionTable whole, IntUnaryOperator counted) {
    this.firstOption = whole.firstOption;
    this.name = whole.name;
    this.row = new int[whole.row.length];
    long[] some = new long[whole.cells.length];
    Takes.Sum sum = new Takes.Sum();
    for (int option = 0; option + 1 < row.length; option++) {
      sum.clear();
      for (int cell = whole.row[option] + 1; cell < whole.row[option + 1]; cell++) {
        int what = counted.applyAsInt(Takes.what(whole.cells[cell]));
        if (what >= 0) {
          sum.add(what, Takes.units(whole.cells[cell]));
        }
      }
      some[row[option]] = whole.value(option);
      sum.into(some, row[option] + 1);
      row[option + 1] = row[option] + 1 + sum.size();
    }
    this.cells = some;
  }

  /** Some of its orders, with some of their options. */
  OptionTable only(int[] orders, IntPredicate kept) {
    return new OptionTable(this, orders, kept);
  }

  /**
   * The same with other numbers.
   *
   * @param numbers by what has a number, its new one; −1: what is taken of it does not count
   */
  OptionTable numbered(IntUnaryOperator numbers) {
    return new OptionTable(this, numbers);
  }

  int orders() {
    return firstOption.length - 1;
  }

  /** The number of an order's first option; its others follow. */
  int first(int order) {
    return firstOption[order];
  }

  /** Where an option stands in the list of what its order could have. */
  int name(int option) {
    return name[option];
  }

  /** The option of an order that has a name. */
  int named(int order, int itsName) {
    int option = first(order);
    while (name[option] != itsName) {
      option++;
    }
    return option;
  }

  long value(int option) {
    return cells[row[option]];
  }

  /** How many things an option takes some of. */
  int takes(int option) {
    return row[option + 1] - row[option] - 1;
  }

  int what(int option, int take) {
    return Takes.what(cells[row[option] + 1 + take]);
  }

  long units(int option, int take) {
    return Takes.units(cells[row[option] + 1 + take]);
  }

  boolean fits(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell++) {
      if (Takes.units(cells[cell]) > left[Takes.what(cells[cell])]) {
        return false;
      }
    }
    return true;
  }

  /** Takes what an option takes from what is left, by number. */
  void use(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell++) {
      left[Takes.what(cells[cell])] -= Takes.units(cells[cell]);
    }
  }

  /** Gives it back. */
  void free(int option, long[] left) {
    for (int cell = row[option] + 1; cell < row[option + 1]; cell++) {
      left[Takes.what(cells[cell])] += Takes.units(cells[cell]);
    }
  }

  double charged(int option, double[] charge) {
    double charged = value(option);
    for (int cell = row[option] + 1; cell < row[option + 1]; cell++) {
      charged += charge[Takes.what(cells[cell])] * Takes.units(cells[cell]);
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
      int cell = row[cheapest];
      for (int option = cheapest; option < first(o + 1) && cells[cell] < least; option++) {
        double charged = cells[cell++];
        for (int end = row[option + 1]; cell < end; cell++) {
          charged += charge[Takes.what(cells[cell])] * Takes.units(cells[cell]);
        }
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
