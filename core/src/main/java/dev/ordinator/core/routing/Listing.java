package dev.ordinator.core.routing;

import dev.ordinator.core.routing.PlanTable.Row;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.IntToLongFunction;
import java.util.function.Supplier;

/**
 * All plans of a small order that have mattered so far. Charges make nothing cheaper, so it is
 * known what those come to at least, with any, that are not listed.
 */
final class Listing {
  /** A table of so many rows is not widened, so that a batch has room for all its tables. */
  private static final int CROWDED = 1_000;

  /** Charges rise and fall from pass to pass: so much of them is relied upon. */
  private static final double LASTING = 0.7;

  /** It is listed so many times as far as is wanted, so as not to be wanted again soon. */
  private static final int FARTHER = 3;

  private final Basket basket;

  /** By item of the basket, its number on the shelves. */
  private final int[] items;

  /** By what is taken from others. */
  private final Function<Worth, List<EveryPlan>> plans;

  private final Supplier<PlanTable> tables;
  private final Shelves shelves;
  private final PlanTable table;
  private final List<PlanTable.Rows> rows = new ArrayList<>();

  /** How far it is listed: without charges first, then with some. */
  private final List<Reach> reaches = new ArrayList<>();

  private final Effort any = new Effort(Long.MAX_VALUE);

  /** What comes to more is of no use. */
  private final long most;

  Listing(
      Basket basket,
      Function<Worth, List<EveryPlan>> plans,
      Supplier<PlanTable> tables,
      Shelves shelves,
      long most) {
    this.basket = basket;
    this.items = new int[basket.items()];
    Arrays.setAll(items, item -> shelves.item(basket.item(item).sku()));
    this.plans = plans;
    this.tables = tables;
    this.shelves = shelves;
    this.table = tables.get();
    this.most = most;
    List<EveryPlan> all = plans.apply(Worth.NOTHING);
    for (EveryPlan some : all) {
      rows.add(table.new Rows(some.sources()));
    }
    reach(all, Reach.free(basket, items, Math.min(twice(least(all)), most)));
  }

  private long least(List<EveryPlan> all) {
    long least = most;
    for (EveryPlan some : all) {
      least = some.find(least, any, (rung, sum, plan) -> sum - 1);
    }
    return least;
  }

  private static long twice(long sum) {
    return sum + Math.max(1, Math.abs(sum));
  }

  PlanTable table() {
    return table;
  }

  /**
   * The cheapest plan that takes no more than is left; empty if there is none.
   *
   * @param left by number
   * @param upTo what comes to more is of no use
   */
  Optional<Row> cheapest(IntToLongFunction left, long upTo) {
    int row = table.cheapest(left);
    long known = row < 0 ? Long.MAX_VALUE : table.value(row);
    long least = Math.min(known, Math.min(upTo, most));
    if (least <= reaches.getFirst().upTo()) {
      return known <= least ? table.row(row) : Optional.empty();
    }
    PlanTable fitting = tables.get();
    for (EveryPlan some : plans.apply(new Gone(shelves, left))) {
      Fitting sink = new Fitting(fitting, some.sources(), left, least);
      some.find(least, any, sink);
      least = sink.least;
    }
    return fitting.row(fitting.cheapest(left));
  }

  /**
   * What plans come to with charges, by row: all that come to less than {@link #unknownFrom}.
   *
   * @param more what comes to so much more than the best is wanted, too
   */
  long[] charged(Charges charges, long more) {
    long[] charged = table.charged(charges);
    long least = least(charged, most);
    if (unknownFrom(charges) < least && table.size() < CROWDED) {
      long upTo = Math.min(least + FARTHER * more, most);
      Reach reach = Reach.under(charges, LASTING, basket, items, upTo);
      reach(plans.apply(reach), reach);
      charged = table.charged(charges);
    }
    return charged;
  }

  /** What is not listed comes to no less with charges. */
  long unknownFrom(Charges charges) {
    long from = Long.MIN_VALUE;
    for (Reach reach : reaches) {
      from = Math.max(from, reach.unknownFrom(charges));
    }
    return from;
  }

  static long least(long[] charged, long atMost) {
    long least = atMost;
    for (long some : charged) {
      least = Math.min(least, some);
    }
    return least;
  }

  private void reach(List<EveryPlan> all, Reach reach) {
    for (int p = 0; p < all.size(); p++) {
      all.get(p).find(reach.upTo(), any, new Reached(reach, rows.get(p)));
    }
    reaches.add(reach);
  }

  /** Adds what is not listed yet. */
  private final class Reached implements EveryPlan.Sink {
    private final Reach reach;
    private final PlanTable.Rows to;

    Reached(Reach reach, PlanTable.Rows to) {
      this.reach = reach;
      this.to = to;
    }

    @Override
    public long found(int rung, long comesTo, Sent plan) {
      long value = comesTo - reach.charge(plan.all());
      if (!isListed(value, plan.all())) {
        to.add(rung, value, plan);
      }
      return reach.upTo();
    }

    private boolean isListed(long value, long[] units) {
      for (Reach before : reaches) {
        if (before.holds(value, units)) {
          return true;
        }
      }
      return false;
    }
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
    public long found(int rung, long comesTo, Sent plan) {
      rows.add(rung, comesTo, plan);
      least = found.fits(found.size() - 1, left) ? comesTo : least;
      return least;
    }
  }
}
