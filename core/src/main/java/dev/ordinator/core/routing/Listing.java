package dev.ordinator.core.routing;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntToLongFunction;

/**
 * All plans of a small order, up to what has mattered so far. Charges make nothing cheaper, so what
 * is not listed comes to more than that with any.
 */
final class Listing {
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
   * @return its row; −1 if there is none
   */
  int cheapest(IntToLongFunction left) {
    int row = table.cheapest(left);
    while (widened(row < 0 ? most : table.value(row))) {
      row = table.cheapest(left);
    }
    return row;
  }

  /** What plans come to with charges, by row: if any comes to less than is of no use, the least. */
  long[] charged(Charges charges) {
    long[] charged = table.charged(charges);
    while (widened(least(charged, most))) {
      charged = table.charged(charges);
    }
    return charged;
  }

  static long least(long[] charged, long atMost) {
    long least = atMost;
    for (long some : charged) {
      least = Math.min(least, some);
    }
    return least;
  }

  /** Lists more, if not all is listed that comes to less than something known. */
  private boolean widened(long known) {
    boolean more = table.upTo() < Math.min(known, most);
    if (more) {
      reach(Math.min(known, twice(table.upTo())));
    }
    return more;
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
