package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Tariff.Slot;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Good plans without a search, which let the search leave most branches at once: each bundle goes
 * to the nodes that prices prefer, as far as stock allows; then bundles move to other nodes as long
 * as that makes it cheaper.
 */
final class Quick {
  private static final int PASSES = 3;

  private final Basket basket;
  private final List<Source> set;
  private final List<int[]> bundles;
  private final Filling filling;
  private final Effort effort;

  Quick(Basket basket, List<Source> set, List<int[]> bundles, Filling filling, Effort effort) {
    this.effort = effort;
    this.basket = basket;
    this.set = set;
    this.bundles = bundles;
    this.filling = filling;
  }

  /**
   * Fills by preference as long as steps hold it, then what is left whatever they hold.
   *
   * @param preference by bundle, the nodes, the best first
   * @param steps one for each node; null: they hold anything
   * @return the units that are left
   */
  long fill(int[][] preference, Slot @Nullable [] steps) {
    if (steps != null) {
      put(preference, steps);
    }
    put(preference, null);
    return left();
  }

  private void put(int[][] preference, Slot @Nullable [] steps) {
    for (int depth = 0; depth < bundles.size(); depth++) {
      int[] bundle = bundles.get(depth);
      for (int s : preference[depth]) {
        long free = steps == null ? Long.MAX_VALUE : steps[s].upTo() - filling.masses()[s];
        if (basket.isDivisible(bundle)) {
          int l = bundle[0];
          long held = basket.mass(l) == 0 ? Long.MAX_VALUE : free / basket.mass(l);
          long some = Math.min(filling.left(l), room(s, basket.itemOf(l)));
          filling.put(s, l, Math.min(some, held));
        } else if (filling.left(bundle[0]) > 0 && basket.mass(bundle) <= free) {
          give(bundle, s);
        }
      }
    }
  }

  private long left() {
    long left = 0;
    for (int l = 0; l < basket.size(); l++) {
      left += filling.left(l);
    }
    return left;
  }

  /** Gives all of a bundle to a node, if it has all of it. */
  private boolean give(int[] bundle, int s) {
    int given = 0;
    for (; given < bundle.length; given++) {
      int l = bundle[given];
      if (room(s, basket.itemOf(l)) < basket.quantity(l)) {
        break;
      }
      filling.put(s, l, basket.quantity(l));
    }
    if (given == bundle.length) {
      return true;
    }
    for (int back = 0; back < given; back++) {
      filling.put(s, bundle[back], -basket.quantity(bundle[back]));
    }
    return false;
  }

  private long room(int s, int item) {
    return set.get(s).most(item) - filling.taken(s, item);
  }

  /** Moves bundles from node to node while that makes it better. */
  void improve(long missing) {
    Rank now = filling.rank(missing);
    boolean better = true;
    for (int pass = 0; pass < PASSES && better; pass++) {
      better = false;
      for (int[] bundle : bundles) {
        int from = giver(bundle);
        for (int to = 0; to < set.size() && from >= 0; to++) {
          if (to == from) {
            continue;
          }
          effort.spend(1);
          take(bundle, from);
          Rank then = give(bundle, to) ? filling.rank(missing) : null;
          if (then != null && (now == null || then.compareTo(now) < 0)) {
            now = then;
            from = to;
            better = true;
          } else {
            if (giver(bundle) == to) {
              take(bundle, to);
            }
            give(bundle, from);
          }
        }
      }
    }
  }

  private void take(int[] bundle, int s) {
    for (int l : bundle) {
      filling.put(s, l, -basket.quantity(l));
    }
  }

  /** The node that gives all of a bundle; −1 if none does. */
  private int giver(int[] bundle) {
    for (int s = 0; s < set.size(); s++) {
      if (filling.units(s, bundle[0]) == basket.quantity(bundle[0])) {
        return s;
      }
    }
    return -1;
  }
}
