package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Source.Slot;
import java.util.Arrays;
import java.util.List;

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

  private final Basket basket;
  private final List<Source> set;
  private final List<int[]> bundles;
  private final int[][] preference;

  private List<List<Slot>> slots = List.of();
  private long[] least = new long[0];
  private final long[][] most;

  /** The best charges that were found, and what bundles from a depth on cost by them at least. */
  private double[] charge;

  private final double[] charged;

  /** Without any charge. */
  private final double[] free;

  // one relaxed answer: its bound, what bundles cost by depth, and the mass that each node sends
  private final double[] left;
  private final double[] sent;
  private final double[] held;

  Prices(Basket basket, List<Source> set, List<int[]> bundles) {
    this.basket = basket;
    this.set = set;
    this.bundles = bundles;
    this.preference = new int[bundles.size()][set.size()];
    this.most = new long[set.size()][basket.items()];
    this.free = new double[bundles.size() + 1];
    this.charged = new double[bundles.size() + 1];
    this.left = new double[bundles.size() + 1];
    this.charge = new double[set.size()];
    this.sent = new double[set.size()];
    this.held = new double[set.size()];
  }

  /**
   * Begins anew, with no charge.
   *
   * @param slots steps that each node may take
   * @param least units that must be filled of each line
   * @return the bound
   */
  double free(List<List<Slot>> slots, long[] least) {
    this.slots = slots;
    this.least = least;
    for (int s = 0; s < most.length; s++) {
      Arrays.fill(most[s], 0);
      for (Slot slot : slots.get(s)) {
        for (int item = 0; item < most[s].length; item++) {
          most[s][item] = Math.max(most[s][item], slot.way().most()[item]);
        }
      }
    }
    Arrays.fill(charge, 0);
    double bound = relax(charge);
    System.arraycopy(left, 0, free, 0, left.length);
    System.arraycopy(left, 0, charged, 0, left.length);
    return bound;
  }

  /** Nodes for a bundle, the cheapest by the charges that were tried last first. */
  int[] preference(int depth) {
    return preference[depth];
  }

  /**
   * The least that bundles from a depth on cost beside what is decided, each node with one step.
   */
  long atLeast(int depth, long[] masses) {
    double with = charged[depth];
    for (int s = 0; s < masses.length; s++) {
      with -= charge[s] * (slots.get(s).getFirst().upTo() - masses[s]);
    }
    return whole(Math.max(free[depth], with));
  }

  /** The least that carriage and bundles come to if a node takes that step. */
  double reduced(int s, Slot slot) {
    return slot.cost() - charge[s] * slot.upTo();
  }

  /** The least that all bundles come to with the charges. */
  double bundles() {
    return charged[0];
  }

  static long whole(double bound) {
    return (long) Math.ceil(bound - SLIGHTLY);
  }

  /**
   * Looks for better charges.
   *
   * @param bound with those that there are
   * @param enough a bound that needn't be passed
   * @param answer is called after each round, when {@link #preference} is by the charges tried
   * @return the highest bound
   */
  double raise(double bound, double enough, Runnable answer) {
    double highest = bound;
    double here = bound;
    double[] trial = charge.clone();
    for (int round = 0; round < ROUNDS && highest <= enough; round++) {
      double square = 0;
      for (int s = 0; s < trial.length; s++) {
        double over = sent[s] - held[s];
        square += over > 0 || trial[s] > 0 ? over * over : 0;
      }
      if (square == 0) {
        break;
      }
      double goal = Math.min(enough, here + Math.abs(here) / 10 + 1);
      double step = Math.max(goal - here, 1) / square;
      for (int s = 0; s < trial.length; s++) {
        trial[s] = Math.max(0, trial[s] + step * (sent[s] - held[s]));
      }
      here = relax(trial);
      answer.run();
      if (here > highest) {
        highest = here;
        charge = trial.clone();
        System.arraycopy(left, 0, charged, 0, left.length);
      }
    }
    return highest;
  }

  private double relax(double[] trial) {
    Arrays.fill(sent, 0);
    double bound = 0;
    for (int s = 0; s < trial.length; s++) {
      double lowest = Double.MAX_VALUE;
      for (Slot slot : slots.get(s)) {
        double reduced = slot.cost() - trial[s] * slot.upTo();
        if (reduced < lowest) {
          lowest = reduced;
          held[s] = slot.upTo();
        }
      }
      bound += lowest;
    }
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      int[] bundle = bundles.get(depth);
      double cost = basket.isDivisible(bundle) ? divided(depth, trial) : together(depth, trial);
      left[depth] = left[depth + 1] + cost;
    }
    return bound + left[0];
  }

  /** A line whose units go where each is cheapest, as far as stock there goes. */
  private double divided(int depth, double[] trial) {
    int l = bundles.get(depth)[0];
    int item = basket.itemOf(l);
    long mass = basket.mass(l);
    int[] order = preference[depth];
    sort(order, s -> set.get(s).unitCost(item) + trial[s] * mass);
    double cost = 0;
    double perLine = Double.MAX_VALUE;
    long filled = 0;
    for (int s : order) {
      long there = most[s][item];
      if (there == 0) {
        continue;
      }
      double each = set.get(s).unitCost(item) + trial[s] * mass;
      long upTo = each < 0 ? basket.line(l).quantity() : Math.max(filled, least[l]);
      long some = Math.min(upTo - filled, there);
      cost += some * each;
      filled += some;
      sent[s] += some * mass;
      perLine = Math.min(perLine, set.get(s).costPerLine());
    }
    return least[l] > 0 && perLine != Double.MAX_VALUE ? cost + perLine : cost;
  }

  /** A bundle that goes to one node, or nowhere if it may be left out. */
  private double together(int depth, double[] trial) {
    int[] bundle = bundles.get(depth);
    int[] order = preference[depth];
    sort(order, s -> cost(bundle, s, trial));
    boolean must = false;
    long mass = 0;
    for (int l : bundle) {
      must |= least[l] > 0;
      mass += basket.mass(l) * basket.line(l).quantity();
    }
    for (int s : order) {
      if (has(s, bundle)) {
        double cost = cost(bundle, s, trial);
        if (must || cost < 0) {
          sent[s] += mass;
          return cost;
        }
        return 0;
      }
    }
    return 0;
  }

  private boolean has(int s, int[] bundle) {
    for (int l : bundle) {
      if (most[s][basket.itemOf(l)] < basket.line(l).quantity()) {
        return false;
      }
    }
    return true;
  }

  private double cost(int[] bundle, int s, double[] trial) {
    double cost = 0;
    for (int l : bundle) {
      Source source = set.get(s);
      double each = source.unitCost(basket.itemOf(l)) + trial[s] * basket.mass(l);
      cost += source.costPerLine() + each * basket.line(l).quantity();
    }
    return cost;
  }

  private interface Cost {
    double of(int s);
  }

  /** By cost, equals in the listed order. */
  private static void sort(int[] order, Cost cost) {
    for (int s = 0; s < order.length; s++) {
      int at = s;
      for (double here = cost.of(s); at > 0 && cost.of(order[at - 1]) > here; at--) {
        order[at] = order[at - 1];
      }
      order[at] = s;
    }
  }
}
