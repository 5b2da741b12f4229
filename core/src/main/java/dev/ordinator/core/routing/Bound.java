package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Offered;
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

  /** Passes that raise the bound by less than this part are not worth their time. */
  private static final double ENOUGH = 0.0005;

  private static final int ROUNDS = 60;

  /** How far charges go from the best to those that look best. */
  private static final double FAR = 0.7;

  private final List<OrderOptions> orders;
  private final Policy policy;
  private final Situation situation;
  private final Shelves shelves;

  private final Option[] best;
  private final long[] free;
  private final boolean[] proven;
  private long[] least;
  private Charges charges;
  private long highest;

  Bound(List<OrderOptions> orders, Policy policy, Situation situation, Shelves shelves) {
    this.orders = orders;
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
          order.router().cheapest(order.rungs(), Worth.NOTHING, order.unfilled().value());
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
    boolean going = true;
    for (int pass = 0; pass < PASSES && going && highest < reached; pass++) {
      trial = Tuning.tune(known(), shelves.have(), trial, reached, ROUNDS);
      long was = highest;
      boolean learned = route(new Charges(shelves, towards(trial)));
      boolean risen = highest - was > ENOUGH * Math.abs(was);
      going = learned && (risen || charges.isNothing());
    }
  }

  /**
   * Charges between the best and those that look best with what is known: as long as little is
   * known, these go too far.
   */
  private long[] towards(double[] trial) {
    long[] charge = new long[trial.length];
    for (int number = 0; number < charge.length; number++) {
      charge[number] = Math.round(FAR * trial[number] + (1 - FAR) * charges.of(number));
    }
    return charge;
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
        long known = known(order, trial);
        Optional<Offered> offered = order.router().cheapest(order.rungs(), trial, known);
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

  private OptionTable known() {
    return new OptionTable(orders.stream().map(OrderOptions::all).toList());
  }

  private static long known(OrderOptions order, Charges trial) {
    long least = Long.MAX_VALUE;
    for (Option option : order.all()) {
      least = Math.min(least, trial.charged(option));
    }
    return least;
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
