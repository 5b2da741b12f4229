package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Tariff.Slot;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.TreeSet;

/**
 * What it costs at least that some of the nodes send so much mass together: each of them has one
 * step of its rates, and what these hold is at least the mass.
 *
 * <p>A unit of mass is worth {@code λ}; each node takes the step for which {@code cost − λ × what
 * it holds} is least; with any {@code λ ≥ 0}, {@code Σ + λ × mass} is no more than the least cost.
 * A few {@code λ} are tried for all sets: prices at which a node goes over to its next useful step.
 */
final class CarriageFloor {
  private static final int CHARGES = 12;

  private final double[] charge;
  private final double[][] least;
  private final double[] leastOfAny;
  private final long mass;

  /**
   * @param mass that is to be sent for sure
   */
  CarriageFloor(List<Source> sources, long mass) {
    this.mass = mass;
    this.charge = mass == 0 ? new double[1] : charges(sources);
    this.least = new double[sources.size()][charge.length];
    this.leastOfAny = new double[charge.length];
    Arrays.fill(leastOfAny, Double.MAX_VALUE);
    for (int s = 0; s < least.length; s++) {
      for (int k = 0; k < charge.length; k++) {
        double lowest = Double.MAX_VALUE;
        for (Slot slot : sources.get(s).tariff().slots()) {
          lowest = Math.min(lowest, slot.cost() - charge[k] * slot.upTo());
        }
        least[s][k] = sources.get(s).costPerConsignment() + lowest;
        leastOfAny[k] = Math.min(leastOfAny[k], least[s][k]);
      }
    }
  }

  /** No charge, and some of those at which any node would go from one step to the next. */
  private static double[] charges(List<Source> sources) {
    TreeSet<Double> all = new TreeSet<>();
    for (Source source : sources) {
      List<Slot> hull = useful(source.tariff().slots());
      for (int i = 1; i < hull.size(); i++) {
        all.add(each(hull.get(i - 1), hull.get(i)));
      }
    }
    Double[] sorted = all.toArray(Double[]::new);
    double[] some = new double[Math.min(CHARGES, sorted.length) + 1];
    for (int k = 1; k < some.length; k++) {
      some[k] = sorted[k * sorted.length / some.length];
    }
    return some;
  }

  /**
   * The steps from the cheapest on of which none holds more at less for each unit of it: the lower
   * convex hull of what they cost by what they hold (Andrew's monotone chain).
   */
  private static List<Slot> useful(List<Slot> slots) {
    List<Slot> byMass = new ArrayList<>(slots);
    byMass.sort(Comparator.comparingLong(Slot::upTo).thenComparingLong(Slot::cost));
    List<Slot> hull = new ArrayList<>();
    for (Slot slot : byMass) {
      while (!hull.isEmpty() && isAbove(hull, slot)) {
        hull.removeLast();
      }
      if (hull.isEmpty() || slot.upTo() > hull.getLast().upTo()) {
        hull.add(slot);
      }
    }
    return hull;
  }

  /** Whether the last of a hull says nothing more once there is this step. */
  private static boolean isAbove(List<Slot> hull, Slot slot) {
    Slot last = hull.getLast();
    if (slot.upTo() == last.upTo()) {
      return false;
    }
    return hull.size() == 1
        ? slot.cost() <= last.cost()
        : each(last, slot) <= each(hull.get(hull.size() - 2), last);
  }

  private static double each(Slot one, Slot next) {
    return (double) (next.cost() - one.cost()) / (next.upTo() - one.upTo());
  }

  /** What no set at all costs, by charge; {@link #add} adds its nodes. */
  double[] none() {
    return new double[charge.length];
  }

  /** By charge, with one node more. */
  double[] add(double[] some, int s) {
    double[] more = some.clone();
    for (int k = 0; k < more.length; k++) {
      more[k] += least[s][k];
    }
    return more;
  }

  /**
   * @param others nodes that are still to come, whichever they are
   * @return the least cost, with what any consignment costs; a lower bound that is not whole
   */
  double of(double[] some, int others) {
    return of(some, others, best(some, others));
  }

  /** The {@code λ} that says most about such a set. */
  double charge(double[] set) {
    return charge[best(set, 0)];
  }

  private int best(double[] some, int others) {
    int best = 0;
    for (int k = 1; k < some.length; k++) {
      best = of(some, others, k) > of(some, others, best) ? k : best;
    }
    return best;
  }

  private double of(double[] some, int others, int k) {
    return some[k] + charge[k] * mass + (others == 0 ? 0 : others * leastOfAny[k]);
  }
}
