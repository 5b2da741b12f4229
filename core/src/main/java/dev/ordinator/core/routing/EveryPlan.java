package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Source.Way;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import java.util.stream.IntStream;

/**
 * All plans of an order that come to no more than a limit, with what they take from others: each
 * way to divide its lines over nodes, unless what is decided of it already costs too much. If too
 * many are found the limit is lowered to what the cheapest come to.
 */
final class EveryPlan {
  private final Basket basket;
  private final List<Source> sources;
  private final Policy policy;
  private final Fill fill;
  private final int maxConsignments;
  private final int most;
  private long limit;
  private final List<Allowed> allowed;
  private final Effort effort;

  private final List<int[]> bundles;
  private final long[] leastLeft;
  private final long[][] units;
  private final long[][] taken;
  private final int[] touched;
  private int consignments;
  private long sent;

  /** What carriage from those that send something comes to at least. */
  private long carriage;

  /** The nodes that have some of an item, by item. */
  private final int[][] having;

  /** The dearest first. */
  private final PriorityQueue<Found> found =
      new PriorityQueue<>(Comparator.comparingLong(Found::charged).reversed());

  /**
   * What a rung allows.
   *
   * @param step what it costs that the rung is not the first
   * @param whole whether all must be sent
   */
  record Allowed(int rung, long step, int consignments, boolean whole) {}

  /**
   * @param rung the first that allows it
   * @param charged its cost and the step of the rung, and what all it takes is worth to others
   */
  record Found(int rung, Plan plan, long charged) {}

  /**
   * @param allowed by rungs that differ in nothing else, in their order
   * @param most so many plans are kept
   */
  EveryPlan(
      Basket basket,
      List<Source> sources,
      Policy policy,
      Fill fill,
      List<Allowed> allowed,
      long limit,
      int most,
      Effort effort) {
    this.basket = basket;
    this.sources = sources;
    this.policy = policy;
    this.fill = fill;
    this.allowed = allowed;
    this.maxConsignments = allowed.stream().mapToInt(Allowed::consignments).max().orElse(0);
    this.limit = limit;
    this.most = most;
    this.effort = effort;
    this.bundles = basket.bundles();
    this.units = new long[sources.size()][basket.size()];
    this.taken = new long[sources.size()][basket.items()];
    this.touched = new int[sources.size()];
    this.having = new int[basket.items()][];
    for (int item = 0; item < having.length; item++) {
      int its = item;
      having[item] =
          IntStream.range(0, sources.size())
              .filter(s -> sources.get(s).most(its) > 0)
              .boxed()
              .sorted(Comparator.comparingLong(s -> sources.get(s).unitCost(its)))
              .mapToInt(Integer::intValue)
              .toArray();
    }
    this.leastLeft = new long[bundles.size() + 1];
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      leastLeft[depth] = leastLeft[depth + 1] + least(bundles.get(depth));
    }
  }

  /** In no order. Not all of them if the effort gave up. */
  List<Found> all() {
    decide(0, fill.saves(policy) * basket.units());
    return new ArrayList<>(found);
  }

  /** All that comes to less than this was found. */
  long upTo() {
    return limit + 1;
  }

  private long least(int[] bundle) {
    long sum = 0;
    for (int l : bundle) {
      int item = basket.itemOf(l);
      long each = having[item].length == 0 ? 0 : Long.MAX_VALUE;
      for (int s : having[item]) {
        each = Math.min(each, sources.get(s).unitCost(item));
      }
      sum += basket.quantity(l) * (fill == Fill.WHOLE ? each : Math.min(0, each));
    }
    return sum;
  }

  private void decide(int depth, long cost) {
    effort.spend(1);
    if (effort.isSpent() || cost + carriage + leastLeft[depth] > limit) {
      return;
    }
    if (depth == bundles.size()) {
      boolean whole = sent == basket.units();
      for (Allowed rung : allowed) {
        if (consignments <= rung.consignments() && (whole || !rung.whole())) {
          keep(rung, cost + rung.step());
          return;
        }
      }
      return;
    }
    int[] bundle = bundles.get(depth);
    if (basket.isDivisible(bundle)) {
      divide(depth, 0, basket.quantity(bundle[0]), cost);
      return;
    }
    for (int s : having[basket.itemOf(bundle[0])]) {
      long more = give(s, bundle, 1);
      if (fits(s, bundle)) {
        decide(depth + 1, cost + more);
      }
      give(s, bundle, -1);
    }
    if (fill != Fill.WHOLE) {
      decide(depth + 1, cost);
    }
  }

  /** Gives nodes from the {@code k}-th that has the item on what is left of a line. */
  private void divide(int depth, int k, long left, long cost) {
    int l = bundles.get(depth)[0];
    int item = basket.itemOf(l);
    if (left == 0 || k == having[item].length) {
      if (left == 0 || fill != Fill.WHOLE) {
        decide(depth + 1, cost);
      }
      return;
    }
    int s = having[item][k];
    long most = Math.min(left, sources.get(s).most(item) - taken[s][item]);
    for (long some = 0; some <= most && !effort.isSpent(); some++) {
      long more = put(s, l, some);
      if (consignments <= maxConsignments) {
        divide(depth, k + 1, left - some, cost + more);
      }
      put(s, l, -some);
    }
  }

  private long give(int s, int[] bundle, int sign) {
    long more = 0;
    for (int l : bundle) {
      more += put(s, l, sign * basket.quantity(l));
    }
    return more;
  }

  private boolean fits(int s, int[] bundle) {
    for (int l : bundle) {
      if (taken[s][basket.itemOf(l)] > sources.get(s).most(basket.itemOf(l))) {
        return false;
      }
    }
    return consignments <= maxConsignments;
  }

  /** Gives units to a node, or takes them back; says what more that costs, all but carriage. */
  private long put(int s, int l, long some) {
    if (some == 0) {
      return 0;
    }
    Source source = sources.get(s);
    int before = touched[s];
    units[s][l] += some;
    taken[s][basket.itemOf(l)] += some;
    sent += some;
    touched[s] += some > 0 ? 1 : -1;
    int begun = before == 0 ? 1 : touched[s] == 0 ? -1 : 0;
    long split = policy.splitPenalty() * splits(consignments + begun);
    split -= policy.splitPenalty() * splits(consignments);
    consignments += begun;
    carriage += begun * source.leastCarriage();
    return split
        + begun * source.costPerConsignment()
        + (touched[s] - before) * source.costPerLine()
        + some * source.unitCost(basket.itemOf(l));
  }

  private static int splits(int consignments) {
    return Math.max(0, consignments - 1);
  }

  private void keep(Allowed rung, long besidesCarriage) {
    long cost = besidesCarriage;
    if (cost + carriage > limit) {
      return;
    }
    for (int s = 0; s < units.length; s++) {
      if (touched[s] > 0) {
        long billable = sources.get(s).billable(units[s]);
        Way way = sources.get(s).wayFor(taken[s], billable);
        if (way == null) {
          return;
        }
        cost += way.lane().rates().carriage(billable) + way.lateness();
      }
    }
    if (cost <= limit && consignments > 0) {
      found.add(new Found(rung.rung(), basket.plan(sources, units, policy), cost));
      if (found.size() > most) {
        found.remove();
        limit = found.element().charged() - 1;
      }
    }
  }
}
