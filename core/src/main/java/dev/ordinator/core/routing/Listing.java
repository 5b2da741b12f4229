package dev.ordinator.core.routing;

import dev.ordinator.core.routing.PlanTable.Row;
import dev.ordinator.core.routing.Source.Way;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.IntToLongFunction;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * All plans of a small order, up to what has mattered so far. Charges make nothing cheaper, so what
 * is not listed comes to more than that with any.
 */
final class Listing {
  /** A table of so many rows is not widened, so that a batch has room for all its tables. */
  private static final int CROWDED = 1_000;

  /** By what is taken from others. */
  private final Function<Worth, List<EveryPlan>> plans;

  private final Supplier<PlanTable> tables;
  private final Shelves shelves;
  private final PlanTable table;
  private final List<PlanTable.Rows> rows;

  private final Effort any = new Effort(Long.MAX_VALUE);

  /** What comes to more is of no use. */
  private final long most;

  Listing(
      Function<Worth, List<EveryPlan>> plans,
      Supplier<PlanTable> tables,
      Shelves shelves,
      long most) {
    this.plans = plans;
    this.tables = tables;
    this.shelves = shelves;
    this.table = tables.get();
    this.most = most;
    this.rows = new ArrayList<>();
    List<EveryPlan> all = plans.apply(Worth.NOTHING);
    for (EveryPlan some : all) {
      rows.add(table.new Rows(some.sources()));
    }
    reach(all, twice(least(all, most)));
  }

  private long least(List<EveryPlan> all, long upTo) {
    long least = upTo;
    for (EveryPlan some : all) {
      least = some.find(least, any, (rung, sum, units, ways) -> sum - 1);
    }
    return least;
  }

  PlanTable table() {
    return table;
  }

  /**
   * The cheapest plan that takes no more than is left; empty if there is none.
   *
   * @param left by number
   */
  Optional<Row> cheapest(IntToLongFunction left) {
    int row = table.cheapest(left);
    if (row >= 0 || isComplete(most)) {
      return table.row(row);
    }
    PlanTable fitting = tables.get();
    fitting.widen(most);
    long least = most;
    for (EveryPlan some : plans.apply(new Gone(shelves, left))) {
      Fitting sink = new Fitting(fitting, some.sources(), left, least);
      some.find(least, any, sink);
      least = sink.least;
    }
    return fitting.row(fitting.cheapest(left));
  }

  /** What plans come to with charges, by row: all that come to less than {@link #unknownFrom}. */
  long[] charged(Charges charges) {
    long[] charged = table.charged(charges);
    while (isToWiden(least(charged, most))) {
      reach(plans.apply(Worth.NOTHING), Math.min(least(charged, most), twice(table.upTo())));
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

  /** Whether not all is listed that comes to less than something known, and there is room. */
  private boolean isToWiden(long known) {
    return !isComplete(known) && table.size() < CROWDED;
  }

  /** Whether all that comes to less than a sum is listed. */
  private boolean isComplete(long sum) {
    return table.upTo() >= Math.min(sum, most);
  }

  private void reach(List<EveryPlan> all, long sum) {
    table.widen(Math.min(sum, most));
    for (int p = 0; p < all.size(); p++) {
      all.get(p).find(table.upTo(), any, rows.get(p));
    }
  }

  private static long twice(long sum) {
    return sum + Math.max(1, Math.abs(sum));
  }

  /** What nothing is left of is worth more than any plan. */
  private record Gone(Shelves shelves, IntToLongFunction left) implements Worth {
    private static final long GONE = Long.MAX_VALUE >> 24;

    @Override
    public long unit(String node, String sku) {
      return left.applyAsLong(shelves.ofStock(node, sku)) > 0 ? 0 : GONE;
    }

    @Override
    public long place(String node) {
      int number = shelves.ofPlaces(node);
      return number < 0 || left.applyAsLong(number) > 0 ? 0 : GONE;
    }
  }

  /** Looks for plans that take no more than is left, none dearer than the one before. */
  private static final class Fitting implements EveryPlan.Sink {
    private final PlanTable found;
    private final PlanTable.Rows rows;
    private final IntToLongFunction left;
    private long least;

    Fitting(PlanTable found, List<Source> sources, IntToLongFunction left, long upTo) {
      this.found = found;
      this.rows = found.new Rows(sources);
      this.left = left;
      this.least = upTo;
    }

    @Override
    public long found(int rung, long comesTo, long[][] sent, @Nullable Way[] ways) {
      rows.found(rung, comesTo, sent, ways);
      least = found.fits(found.size() - 1, left) ? comesTo : least;
      return least;
    }
  }
}
