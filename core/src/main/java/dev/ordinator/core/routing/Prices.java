package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Source.Way;
import dev.ordinator.core.routing.Tariff.Slot;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What it costs at least to spread an order over a set of nodes: a Lagrangian relaxation.
 *
 * <p>Each node has a step of its rates, which holds so much mass at so much carriage. A unit of
 * mass is charged {@code λ} at each node, each bundle goes where it is cheapest then, and each node
 * takes the step for which {@code carriage − λ × what it holds} is least. With any {@code λ ≥ 0},
 * the sum of both is no more than the cost of anything that fits into its steps. {@link #raise}
 * looks for a {@code λ} for which it is as high as can be, by subgradient steps (Fisher, The
 * Lagrangian Relaxation Method, Management Science 27, 1981).
 */
final class Prices {
  private static final int ROUNDS = 12;

  /** What a double may be off by. */
  private static final double SLIGHTLY = 1e-6;

  private final List<int[]> bundles;
  private final Effort effort;
  private final Basket basket;
  private final int[][] preference;
  private List<List<Slot>> slots = List.of();

  // by bundle, and by node: a bundle that can't be divided counts as one unit
  private final long[] quantity;
  private final long[] mass;
  private final long[][] unitCost;
  private final long[][] lineCost;
  private final long[][] there;
  private final long[] must;

  /** By which a node sends, if there is no other. */
  private final @Nullable Way[] ways;

  /** What each bundle costs at least with some charges. */
  private static final class Relaxed {
    private final double[] charge;

    /** Of bundles from a depth on. */
    private final double[] cost;

    /** Mass, by node. */
    private final double[] sent;

    Relaxed(int nodes, int bundles) {
      this.charge = new double[nodes];
      this.cost = new double[bundles + 1];
      this.sent = new double[nodes];
    }

    void copy(Relaxed other) {
      System.arraycopy(other.charge, 0, charge, 0, charge.length);
      System.arraycopy(other.cost, 0, cost, 0, cost.length);
      System.arraycopy(other.sent, 0, sent, 0, sent.length);
    }
  }

  private final Relaxed free;
  private final Relaxed first;
  private final Relaxed best;
  private final Relaxed trial;

  // what the steps hold that are least with the charges tried last; each node's costs, and its part
  private final double[] held;
  private final double[] each;
  private final long[] part;

  /**
   * @param first the charge to begin with
   */
  Prices(Basket basket, List<Source> set, List<int[]> bundles, double first, Effort effort) {
    this.effort = effort;
    this.basket = basket;
    this.bundles = bundles;
    int depths = bundles.size();
    this.preference = new int[depths][set.size()];
    this.quantity = new long[depths];
    this.mass = new long[depths];
    this.unitCost = new long[depths][set.size()];
    this.lineCost = new long[depths][set.size()];
    this.there = new long[depths][set.size()];
    this.must = new long[depths];
    this.ways = new Way[set.size()];
    for (int depth = 0; depth < depths; depth++) {
      int[] bundle = bundles.get(depth);
      boolean divisible = basket.isDivisible(bundle);
      quantity[depth] = divisible ? basket.quantity(bundle[0]) : 1;
      mass[depth] = divisible ? basket.mass(bundle[0]) : basket.mass(bundle);
      for (int s = 0; s < set.size(); s++) {
        for (int l : bundle) {
          long each = set.get(s).unitCost(basket.itemOf(l));
          long line = set.get(s).costPerLine();
          unitCost[depth][s] += divisible ? each : basket.quantity(l) * each + line;
          lineCost[depth][s] += divisible ? line : 0;
        }
      }
    }
    this.free = new Relaxed(set.size(), depths);
    this.first = new Relaxed(set.size(), depths);
    Arrays.fill(this.first.charge, first);
    this.best = new Relaxed(set.size(), depths);
    this.trial = new Relaxed(set.size(), depths);
    this.held = new double[set.size()];
    this.each = new double[set.size()];
    this.part = new long[set.size()];
  }

  /**
   * Begins anew, with the first charge.
   *
   * @param slots steps that each node may take
   * @param least units that must be filled of each line
   * @return the bound
   */
  double begin(List<List<Slot>> slots, long[] least) {
    this.slots = slots;
    if (changes(least)) {
      relax(free);
      relax(first);
    }
    best.copy(first);
    return Math.max(bound(free), bound(first));
  }

  /** Lets what comes begin with the charges that were found. */
  void goOn() {
    first.copy(best);
  }

  /** Looks what there is and must go; gives whether it is other than before. */
  private boolean changes(long[] least) {
    boolean changes = false;
    for (int depth = 0; depth < must.length; depth++) {
      long needed = 0;
      for (int l : bundles.get(depth)) {
        needed = Math.max(needed, Math.min(least[l], quantity[depth]));
      }
      changes |= needed != must[depth];
      must[depth] = needed;
    }
    for (int s = 0; s < held.length; s++) {
      Way way = onlyWay(slots.get(s));
      if (way == null || way != ways[s]) {
        ways[s] = way;
        changes = true;
        for (int depth = 0; depth < must.length; depth++) {
          there[depth][s] = there(bundles.get(depth), slots.get(s));
        }
      }
    }
    return changes;
  }

  private static @Nullable Way onlyWay(List<Slot> steps) {
    Way way = steps.getFirst().way();
    for (Slot slot : steps) {
      if (slot.way() != way) {
        return null;
      }
    }
    return way;
  }

  /** How much of a bundle can go by some of these steps. */
  private long there(int[] bundle, List<Slot> steps) {
    if (basket.isDivisible(bundle)) {
      return most(basket.itemOf(bundle[0]), steps);
    }
    for (int l : bundle) {
      if (most(basket.itemOf(l), steps) < basket.quantity(l)) {
        return 0;
      }
    }
    return 1;
  }

  private static long most(int item, List<Slot> steps) {
    long most = 0;
    Way last = null;
    for (Slot slot : steps) {
      most = slot.way() == last ? most : Math.max(most, slot.way().most()[item]);
      last = slot.way();
    }
    return most;
  }

  /** Sorts the nodes for each bundle, the cheapest by the best charges first. */
  int[][] preferences() {
    for (int depth = 0; depth < must.length; depth++) {
      charge(depth, best.charge);
      for (int s = 0; s < each.length; s++) {
        each[s] = quantity[depth] * each[s] + lineCost[depth][s];
      }
      sort(preference[depth]);
    }
    return preference;
  }

  /**
   * The least that bundles from a depth on cost beside what is decided, each node with one step.
   */
  long atLeast(int depth, long[] masses) {
    double with = best.cost[depth];
    for (int s = 0; s < masses.length; s++) {
      with -= best.charge[s] * (slots.get(s).getFirst().upTo() - masses[s]);
    }
    return whole(Math.max(free.cost[depth], with));
  }

  /** The least that carriage and bundles come to if a node takes that step. */
  double reduced(int s, Slot slot) {
    return slot.cost() - best.charge[s] * slot.upTo();
  }

  /** The least that all bundles come to with the charges. */
  double bundles() {
    return best.cost[0];
  }

  static long whole(double bound) {
    return (long) Math.ceil(bound - SLIGHTLY);
  }

  /**
   * Looks for better charges.
   *
   * @param bound with those that there are
   * @param enough a bound that needn't be passed
   * @return the highest bound
   */
  double raise(double bound, double enough) {
    double highest = bound;
    double here = bound;
    trial.copy(best);
    for (int round = 0; round < ROUNDS && highest <= enough; round++) {
      double square = 0;
      for (int s = 0; s < held.length; s++) {
        double over = trial.sent[s] - held[s];
        square += over > 0 || trial.charge[s] > 0 ? over * over : 0;
      }
      if (square == 0) {
        break;
      }
      double goal = Math.min(enough, here + Math.abs(here) / 10 + 1);
      double step = Math.max(goal - here, 1) / square;
      for (int s = 0; s < held.length; s++) {
        trial.charge[s] = Math.max(0, trial.charge[s] + step * (trial.sent[s] - held[s]));
      }
      relax(trial);
      here = bound(trial);
      if (here > highest) {
        highest = here;
        best.copy(trial);
      }
    }
    return highest;
  }

  /** What steps and bundles come to. */
  private double bound(Relaxed relaxed) {
    double bound = relaxed.cost[0];
    for (int s = 0; s < held.length; s++) {
      double lowest = Double.MAX_VALUE;
      for (Slot slot : slots.get(s)) {
        double reduced = slot.cost() - relaxed.charge[s] * slot.upTo();
        if (reduced < lowest) {
          lowest = reduced;
          held[s] = slot.upTo();
        }
      }
      bound += lowest;
    }
    return bound;
  }

  private void relax(Relaxed relaxed) {
    effort.spend(1 + must.length * held.length / 4);
    Arrays.fill(relaxed.sent, 0);
    for (int depth = must.length - 1; depth >= 0; depth--) {
      relaxed.cost[depth] = relaxed.cost[depth + 1] + cheapest(depth, relaxed);
    }
  }

  /** What a unit of a bundle costs from each node. */
  private void charge(int depth, double[] charge) {
    for (int s = 0; s < each.length; s++) {
      each[s] = unitCost[depth][s] + charge[s] * mass[depth];
    }
  }

  /**
   * A bundle whose units go where each is cheapest, as far as stock there goes. If all of it must
   * go, either one node sends all of it, or at least two are paid for the line.
   */
  private double cheapest(int depth, Relaxed relaxed) {
    charge(depth, relaxed.charge);
    int[] order = preference[depth];
    sort(order);
    double cost = 0;
    double line = Double.MAX_VALUE;
    double secondLine = Double.MAX_VALUE;
    double alone = Double.MAX_VALUE;
    int by = -1;
    long filled = 0;
    for (int s : order) {
      part[s] = 0;
      if (there[depth][s] == 0) {
        continue;
      }
      long upTo = each[s] < 0 ? quantity[depth] : Math.max(filled, must[depth]);
      part[s] = Math.min(upTo - filled, there[depth][s]);
      cost += part[s] * each[s];
      filled += part[s];
      double here = lineCost[depth][s];
      secondLine = Math.min(secondLine, Math.max(line, here));
      line = Math.min(line, here);
      if (there[depth][s] >= quantity[depth] && quantity[depth] * each[s] + here < alone) {
        alone = quantity[depth] * each[s] + here;
        by = s;
      }
    }
    boolean whole = must[depth] == quantity[depth];
    double several = cost + line + (secondLine < Double.MAX_VALUE ? secondLine : 0);
    if (whole && by >= 0 && alone <= several) {
      relaxed.sent[by] += quantity[depth] * mass[depth];
      return alone;
    }
    for (int s = 0; s < part.length; s++) {
      relaxed.sent[s] += part[s] * mass[depth];
    }
    if (must[depth] == 0 || line == Double.MAX_VALUE) {
      return cost;
    }
    return whole ? several : cost + line;
  }

  /** Nodes by what they cost, equals in the listed order. */
  private void sort(int[] order) {
    for (int s = 0; s < order.length; s++) {
      int at = s;
      for (; at > 0 && each[order[at - 1]] > each[s]; at--) {
        order[at] = order[at - 1];
      }
      order[at] = s;
    }
  }
}
