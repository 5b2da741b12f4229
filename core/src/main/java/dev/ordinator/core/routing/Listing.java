package dev.ordinator.core.routing;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.function.IntToLongFunction;

/**
 * All plans of a small order, up to what has mattered so far. Charges make nothing cheaper, so what
 * is not listed comes to more than that with any.
 */
final class Listing {
  /** A table of so many rows is not widened, so that a batch has room for all its tables. */
  private static final int CROWDED = 1_000;

  private final List<EveryPlan> plans;
  private final List<PlanTable.Rows> rows;
  private final PlanTable table;

  private final Effort any = new Effort(Long.MAX_VALUE);

  /** What comes to more is of no use. */
  private final long most;

  Listing(List<EveryPlan> plans, PlanTable table, long most) {
    this.plans = plans;
    this.table = table;
    this.most = most;
    this.rows = new ArrayList<>();
    long least = most;
    for (EveryPlan some : plans) {
      rows.add(table.new Rows(some.sources()));
      least = some.find(least, any, (rung, sum, units, ways) -> sum - 1);
    }
    reach(twice(least));
  }

  PlanTable table() {
    return table;
  }

  /**
   * The cheapest plan that takes no more than is left.
   *
   * @param left by number
   * @return its row; −1 if there is none; empty if it can't be told
   */
  OptionalInt cheapest(IntToLongFunction left) {
    int row = table.cheapest(left);
    while (widened(value(row))) {
      row = table.cheapest(left);
    }
    return isComplete(value(row)) ? OptionalInt.of(row) : OptionalInt.empty();
  }

  private long value(int row) {
    return row < 0 ? most : table.value(row);
  }

  /** What plans come to with charges, by row: all that come to less than {@link #unknownFrom}. */
  long[] charged(Charges charges) {
    long[] charged = table.charged(charges);
    while (widened(least(charged, most))) {
      charged = table.charged(charges);
    }
    return charged;
  }

  /** What is not listed comes to no less with any charges. */
  long unknownFrom() {
    return table.upTo() + 1;
  }

  static long least(long[] charged, long atMost) {
    long least = atMost;
    for (long some : charged) {
      least = Math.min(least, some);
    }
    return least;
  }

  /** Whether more is listed, as not all was that comes to less than something known. */
  private boolean widened(long known) {
    boolean more = !isComplete(known) && table.size() < CROWDED;
    if (more) {
      reach(Math.min(known, twice(table.upTo())));
    }
    return more;
  }

  /** Whether all that comes to less than a sum is listed. */
  private boolean isComplete(long sum) {
    return table.upTo() >= Math.min(sum, most);
  }

  private void reach(long sum) {
    table.widen(Math.min(sum, most));
    for (int p = 0; p < plans.size(); p++) {
      plans.get(p).find(table.upTo(), any, rows.get(p));
    }
  }

  private static long twice(long sum) {
    return sum + Math.max(1, Math.abs(sum));
  }
}
