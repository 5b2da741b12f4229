package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Source.Way;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Who gives how much of each line, as far as it is decided; and what that costs. */
final class Filling {
  private final Basket basket;
  private final Source[] set;
  private final Policy policy;
  private final List<Integer> places;
  private final long fixed;

  private final long[][] units;
  private final long[][] taken;
  private final int[] touched;
  private final long[] masses;
  private final long[] weights;
  private final long[] volumes;
  private long linear;

  Filling(Basket basket, List<Source> set, Policy policy, Fill fill) {
    this.basket = basket;
    this.set = set.toArray(Source[]::new);
    this.policy = policy;
    Integer[] listed = new Integer[set.size()];
    long sum = policy.splitPenalty() * (set.size() - 1) + fill.saves(policy) * basket.units();
    for (int s = 0; s < listed.length; s++) {
      listed[s] = set.get(s).place();
      sum += set.get(s).costPerConsignment();
    }
    this.places = List.of(listed);
    this.fixed = sum;
    this.units = new long[set.size()][basket.size()];
    this.taken = new long[set.size()][basket.items()];
    this.touched = new int[set.size()];
    this.masses = new long[set.size()];
    this.weights = new long[set.size()];
    this.volumes = new long[set.size()];
  }

  /** Gives units of a line to a node, or takes them back. */
  void put(int s, int l, long some) {
    if (some == 0) {
      return;
    }
    Source source = set[s];
    int item = basket.itemOf(l);
    boolean before = units[s][l] > 0;
    units[s][l] += some;
    taken[s][item] += some;
    masses[s] += some * basket.mass(l);
    weights[s] += some * basket.weight(l);
    volumes[s] += some * basket.volume(l);
    linear += some * source.unitCost(item);
    boolean after = units[s][l] > 0;
    if (before != after) {
      touched[s] += after ? 1 : -1;
      linear += after ? source.costPerLine() : -source.costPerLine();
    }
  }

  void clear() {
    for (int s = 0; s < units.length; s++) {
      for (int l = 0; l < units[s].length; l++) {
        put(s, l, -units[s][l]);
      }
    }
  }

  long units(int s, int l) {
    return units[s][l];
  }

  /** Units of an item that a node gives. */
  long taken(int s, int item) {
    return taken[s][item];
  }

  long[] masses() {
    return masses;
  }

  /** What of the cost does not hang on what else is decided: all but carriage and lateness. */
  long cost() {
    return fixed + linear;
  }

  /** Units of a line that nobody gives. */
  long left(int l) {
    long left = basket.quantity(l);
    for (long[] from : units) {
      left -= from[l];
    }
    return left;
  }

  /** How good it is as it stands; null if some node gives nothing, or can't send what it gives. */
  @Nullable Rank rank(long missing) {
    long cost = cost() + policy.unfilledPenaltyPerUnit() * missing;
    LocalDate last = LocalDate.MIN;
    for (int s = 0; s < set.length; s++) {
      if (touched[s] == 0) {
        return null;
      }
      Source source = set[s];
      long billable = policy.billableWeight(weights[s], volumes[s]);
      Way way = source.wayFor(taken[s], billable);
      if (way == null) {
        return null;
      }
      cost += way.cost(billable);
      last = way.arrival().isAfter(last) ? way.arrival() : last;
    }
    return new Rank(missing, cost, set.length, last, places);
  }

  /** The least that a plan over these nodes ranks if it misses and costs so much. */
  Rank atBest(long missing, long cost, LocalDate arrival) {
    return new Rank(missing, cost, set.length, arrival, places);
  }

  long[][] copy() {
    return Arrays.stream(units).map(long[]::clone).toArray(long[][]::new);
  }
}
