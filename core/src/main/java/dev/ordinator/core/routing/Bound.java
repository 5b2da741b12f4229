package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Offered;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What the orders of a batch come to at least: the sum of what each costs at its best with charges
 * for what is shared, less what all that is shared would be charged. {@link #raise} looks for
 * charges that make it high.
 */
final class Bound {
  private static final int PASSES = 12;
  private static final int ROUNDS = 60;

  private final List<OrderOptions> orders;
  private final Ladder ladder;
  private final Policy policy;
  private final Situation situation;
  private final Shelves shelves;

  private final Option[] best;
  private final long[] free;
  private final boolean[] proven;
  private long[] least;
  private Charges charges;
  private long highest;

  Bound(
      List<OrderOptions> orders,
      Ladder ladder,
      Policy policy,
      Situation situation,
      Shelves shelves) {
    this.orders = orders;
    this.ladder = ladder;
    this.policy = policy;
    this.situation = situation;
    this.shelves = shelves;
    this.best = new Option[orders.size()];
    this.free = new long[orders.size()];
    this.proven = new boolean[orders.size()];
    this.least = free;
    this.charges = new Charges(shelves, new long[0]);
  }

  /** What it comes to if nothing is charged: each order has all to itself. */
  void free() {
    for (int o = 0; o < free.length; o++) {
      OrderOptions order = orders.get(o);
      Optional<Offered> offered =
          order.router().cheapest(ladder.rungs(), Worth.NOTHING, order.unfilled().value());
      best[o] =
          offered
              .map(found -> order.all().get(order.add(found.choice(), shelves)))
              .orElse(order.unfilled());
      proven[o] = offered.map(found -> found.choice().proven()).orElse(true);
      free[o] = proven[o] ? best[o].value() : unitByUnit(order.demand());
      highest += free[o];
    }
  }

  /** What is best for an order that has all to itself. */
  Option best(int order) {
    return best[order];
  }

  /** What an order costs at least with the charges. */
  long least(int order) {
    return least[order];
  }

  Charges charges() {
    return charges;
  }

  long highest() {
    return highest;
  }

  /**
   * @param reached what the orders are known to come to
   */
  void raise(long reached) {
    double[] trial = new double[shelves.size()];
    for (int pass = 0; pass < PASSES && highest < reached; pass++) {
      trial = tune(trial, reached);
      boolean learned =
          route(new Charges(shelves, Arrays.stream(trial).mapToLong(Math::round).toArray()));
      if (!learned) {
        break;
      }
    }
  }

  /**
   * Routes the orders with charges.
   *
   * @return whether a better option was found for any than those known
   */
  private boolean route(Charges trial) {
    long[] lowest = free.clone();
    long sum = -trial.of(shelves.have());
    boolean learned = false;
    for (int o = 0; o < lowest.length; o++) {
      OrderOptions order = orders.get(o);
      if (proven[o] && trial.concern(order.demand())) {
        long known = order.all().stream().mapToLong(trial::charged).min().orElseThrow();
        Optional<Offered> offered = order.router().cheapest(ladder.rungs(), trial, known);
        offered.ifPresent(found -> order.add(found.choice(), shelves));
        learned |= offered.isPresent();
        proven[o] = offered.map(found -> found.choice().proven()).orElse(true);
        lowest[o] = proven[o] ? offered.map(Offered::charged).orElse(known) : free[o];
      }
      sum += lowest[o];
    }
    if (sum > highest) {
      highest = sum;
      charges = trial;
      least = lowest;
    }
    return learned;
  }

  /** Better charges for the options that are known, by subgradient steps. */
  private double[] tune(double[] start, long reached) {
    double[] trial = Arrays.copyOf(start, shelves.size());
    double[] good = trial;
    double most = Double.NEGATIVE_INFINITY;
    long[] have = shelves.have();
    OptionTable options = new OptionTable(orders);
    double[] over = new double[trial.length];
    double pace = 1;
    int idle = 0;
    for (int round = 0; round < ROUNDS; round++) {
      for (int number = 0; number < over.length; number++) {
        over[number] = -have[number];
      }
      double value = options.take(trial, over);
      double square = 0;
      for (int number = 0; number < over.length; number++) {
        value -= trial[number] * have[number];
        square += over[number] > 0 || trial[number] > 0 ? over[number] * over[number] : 0;
      }
      if (value > most) {
        most = value;
        good = trial.clone();
        idle = 0;
      } else if (++idle == 5) {
        pace /= 2;
        idle = 0;
      }
      if (square == 0 || value >= reached) {
        break;
      }
      double step = pace * (reached - value) / square;
      for (int number = 0; number < over.length; number++) {
        trial[number] = Math.max(0, trial[number] + step * over[number]);
      }
    }
    return good;
  }

  /** Each unit at its least cost, or its penalty: less than anything that could be done. */
  private long unitByUnit(OrderDemand demand) {
    long least = 0;
    for (OrderDemand.Line line : demand.lines()) {
      long each =
          situation.network().nodes().stream()
              .map(node -> cost(node.code(), node.handling().perUnit(), line))
              .min(Comparator.naturalOrder())
              .orElse(Long.MAX_VALUE);
      least += Math.min(each, policy.unfilledPenaltyPerUnit()) * line.quantity();
    }
    return least;
  }

  private long cost(String node, long handling, OrderDemand.Line line) {
    Situation.Offer offer = situation.offer(node, line.item().sku());
    return offer.available() > 0
        ? handling + offer.purchasePrice() - offer.clearanceCredit()
        : Long.MAX_VALUE;
  }
}
