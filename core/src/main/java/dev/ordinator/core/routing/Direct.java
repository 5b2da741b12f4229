package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Spread.Found;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The cheapest way to spread a small order over a set of nodes, each of which sends something: of
 * so few ways that all are tried, unless what is decided of one already costs too much.
 */
final class Direct {
  /** Up to so many ways, trying them all takes less than thinking about it. */
  private static final long FEW = 300;

  private final Basket basket;
  private final List<Source> set;
  private final Fill fill;
  private final List<int[]> bundles;
  private final Filling filling;
  private final long[] leastLeft;
  private @Nullable Rank bar;
  private long @Nullable [][] best;

  Direct(Basket basket, List<Source> set, Policy policy, Fill fill) {
    this.basket = basket;
    this.set = set;
    this.fill = fill;
    this.bundles = basket.bundles();
    this.filling = new Filling(basket, set, policy, fill);
    this.leastLeft = new long[bundles.size() + 1];
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      leastLeft[depth] = leastLeft[depth + 1];
      for (int l : bundles.get(depth)) {
        leastLeft[depth] += basket.quantity(l) * cheapestUnit(basket.itemOf(l));
      }
    }
  }

  /** Whether so many nodes can share an order in few ways. */
  static boolean isFew(Basket basket, int nodes) {
    return basket.ways(item -> nodes, FEW) <= FEW;
  }

  private long cheapestUnit(int item) {
    long least = fill == Fill.WHOLE ? Long.MAX_VALUE : 0;
    for (Source source : set) {
      if (source.most(item) > 0) {
        least = Math.min(least, source.unitCost(item));
      }
    }
    return least == Long.MAX_VALUE ? 0 : least;
  }

  /**
   * @param bar what it must rank before; null: anything
   */
  Optional<Found> cheapest(@Nullable Rank bar) {
    this.bar = bar;
    decide(0, 0);
    return best == null || this.bar == null
        ? Optional.empty()
        : Optional.of(new Found(this.bar, best));
  }

  private void decide(int depth, long missing) {
    if (bar != null && !fill.countsFirst() && filling.cost() + leastLeft[depth] > bar.cost()) {
      return;
    }
    if (depth == bundles.size()) {
      Rank rank = filling.rank(fill.countsFirst() ? missing : 0);
      if (rank != null && (bar == null || rank.compareTo(bar) < 0)) {
        bar = rank;
        best = filling.copy();
      }
      return;
    }
    int[] bundle = bundles.get(depth);
    if (basket.isDivisible(bundle)) {
      divide(depth, bundle[0], 0, basket.quantity(bundle[0]), missing);
      return;
    }
    long units = 0;
    for (int l : bundle) {
      units += basket.quantity(l);
    }
    for (int s = 0; s < set.size(); s++) {
      give(s, bundle, 1);
      if (fits(s, bundle)) {
        decide(depth + 1, missing);
      }
      give(s, bundle, -1);
    }
    if (fill != Fill.WHOLE) {
      decide(depth + 1, missing + units);
    }
  }

  private void divide(int depth, int l, int s, long left, long missing) {
    if (s == set.size()) {
      if (left == 0 || fill != Fill.WHOLE) {
        decide(depth + 1, missing + left);
      }
      return;
    }
    int item = basket.itemOf(l);
    long most = Math.min(left, set.get(s).most(item) - filling.taken(s, item));
    boolean last = s == set.size() - 1 && fill == Fill.WHOLE;
    for (long some = last ? left : 0; some <= most; some++) {
      filling.put(s, l, some);
      divide(depth, l, s + 1, left - some, missing);
      filling.put(s, l, -some);
    }
  }

  private void give(int s, int[] bundle, int sign) {
    for (int l : bundle) {
      filling.put(s, l, sign * basket.quantity(l));
    }
  }

  private boolean fits(int s, int[] bundle) {
    for (int l : bundle) {
      if (filling.taken(s, basket.itemOf(l)) > set.get(s).most(basket.itemOf(l))) {
        return false;
      }
    }
    return true;
  }
}
