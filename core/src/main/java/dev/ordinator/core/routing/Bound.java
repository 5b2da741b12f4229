package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Listed;
import dev.ordinator.core.routing.Router.Offered;
import java.util.Arrays;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/**
 * What the orders of a batch come to at least: the sum of what each costs at its best with charges
 * for what is shared, less what all that is shared would be charged. {@link #raise} looks for
 * charges that make it high.
 */
final class Bound {
  private static final int PASSES = 12;

  private static final int FEWEST = 2;

  /** Passes that raise the bound by less than this part are not worth their time. */
  private static final double ENOUGH = 0.001;

  private static final int ROUNDS = 60;
  private static final int FEWER = 15;

  /** The first steps of charges, as parts of what an order costs alone: by item, then each. */
  private static final double STEP_BY_ITEM = 0.6;

  private static final double STEP = 0.5;

  /** From pass to pass, as more is known, charges are moved less far; and in the end little. */
  private static final double SHORTER = 0.8;

  private static final double LAST_STEP = 0.05;

  /**
   * Options are made of what comes to more than the best by up to such parts of what an order costs
   * alone: of less when charges are tuned, which goes over all of them in each round, than when it
   * is decided.
   */
  private static final Wanted FIRST = new Wanted(0.2, 12);

  private static final Wanted NEXT = new Wanted(0.06, 6);
  private static final Wanted LAST = new Wanted(0.5, 60);

  /**
   * @param part of what an order costs alone
   * @param most options
   */
  private record Wanted(double part, int most) {}

  private static final long STEPS_LISTED = 10_000;

  private final List<OrderOptions> orders;
  private final Policy policy;
  private final Situation situation;
  private final Shelves shelves;

  private final Option[] best;
  private final long[] free;
  private final boolean[] proven;

  /** Whether what is little dearer than the best is found in few steps, by order. */
  private final boolean[] quick;

  private double measure;
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
    this.quick = new boolean[orders.size()];
    this.least = free;
    this.charges = new Charges(shelves, new long[shelves.size()]);
  }

  /** What it comes to if nothing is charged: each order has all to itself. */
  void free() {
    for (int o = 0; o < free.length; o++) {
      OrderOptions order = orders.get(o);
      if (order.isListed()) {
        best[o] = order.cheapest(shelves::have, order.unfilled());
        proven[o] = true;
        free[o] = best[o].value();
      } else {
        search(o, order);
      }
      highest += free[o];
    }
    measure = Math.max(1, (double) highest / Math.max(1, free.length));
    Arrays.fill(quick, true);
  }

  private void search(int o, OrderOptions order) {
    Optional<Offered> offered =
        order.router().cheapest(order.rungs(), Worth.NOTHING, order.unfilled().value());
    // where rules prefer nodes, others come in only if those are out, and may cost less
    boolean anywhere = order.demand().from().preferred().isEmpty();
    best[o] =
        offered.map(found -> order.all().get(order.add(found.choice()))).orElse(order.unfilled());
    proven[o] = anywhere && offered.map(found -> found.choice().proven()).orElse(true);
    order.knows(charges, best[o].value());
    free[o] = proven[o] ? best[o].value() : unitByUnit(order.demand());
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

  /** What an order costs on average if it has all to itself: how large other sums are. */
  double measure() {
    return measure;
  }

  /**
   * @param reached what the orders are known to come to
   * @param enough whether it is high enough as it is
   */
  void raise(long reached, BooleanSupplier enough) {
    double[] trial = new ItemCharges(shelves).tune(options(), STEP_BY_ITEM * measure, ROUNDS);
    boolean going = true;
    route(trial, FIRST);
    double step = STEP * measure;
    for (int pass = 1; pass <= PASSES && going && highest < reached; pass++) {
      // what is known is far from enough at first, and few rounds do for that
      int rounds = Math.min(ROUNDS, FEWER * (pass + 1));
      trial = tune(trial, step, rounds);
      step *= SHORTER;
      long was = highest;
      boolean learned = route(trial, NEXT);
      boolean risen = highest - was > ENOUGH * Math.abs(was);
      going = (pass < FEWEST || learned && risen) && !enough.getAsBoolean();
    }
    if (!enough.getAsBoolean()) {
      route(tune(trial, LAST_STEP * measure, ROUNDS), NEXT);
    }
  }

  private double[] tune(double[] start, double step, int rounds) {
    return Tuning.tune(new OptionTable(options()), shelves.have(), start, step, rounds);
  }

  /** Makes options of more that is little dearer than the best, with the charges found. */
  void widen() {
    for (int o = 0; o < least.length; o++) {
      if (orders.get(o).isListed()) {
        orders.get(o).near(charges, more(LAST), LAST.most());
      } else if (proven[o] && quick[o]) {
        ask(o, charges, least[o], LAST);
      }
    }
  }

  /**
   * Makes options of what is best for each order with charges, and of what is little dearer.
   *
   * @return whether any has an option more
   */
  private boolean route(double[] tuned, Wanted wanted) {
    Charges trial = new Charges(shelves, Arrays.stream(tuned).mapToLong(Math::round).toArray());
    Map<Charges, Fall> falls = new IdentityHashMap<>();
    long[] lowest = free.clone();
    long sum = -trial.of(shelves.have());
    boolean learned = false;
    for (int o = 0; o < lowest.length; o++) {
      OrderOptions order = orders.get(o);
      if (proven[o] && trial.concern(order.items())) {
        int known = order.all().size();
        lowest[o] = learn(o, trial, wanted, falls);
        learned |= order.all().size() > known;
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

  private long learn(int o, Charges trial, Wanted wanted, Map<Charges, Fall> falls) {
    OrderOptions order = orders.get(o);
    if (order.isListed()) {
      return order.near(trial, more(wanted), wanted.most());
    }
    long known = order.least(trial);
    Fall fall = falls.computeIfAbsent(order.asked(), asked -> new Fall(shelves, asked, trial));
    return known <= order.unknownFrom(fall) ? known : ask(o, trial, known, wanted);
  }

  /** By how much more than the best something may come to, in minor units. */
  private long more(Wanted wanted) {
    return (long) (wanted.part() * measure);
  }

  /** What an order costs at least with charges; what is best for it is known then. */
  private long ask(int o, Charges trial, long known, Wanted wanted) {
    OrderOptions order = orders.get(o);
    if (quick[o]) {
      long limit = known + more(wanted);
      Effort effort = new Effort(STEPS_LISTED);
      Listed found = order.router().every(order.rungs(), trial, limit, wanted.most(), effort);
      found.offered().forEach(offered -> order.add(offered.choice()));
      quick[o] = found.isComplete();
      if (quick[o]) {
        order.knows(trial, found.upTo());
        return Math.min(order.least(trial), found.upTo());
      }
    }
    Optional<Offered> found = order.router().cheapest(order.rungs(), trial, known);
    found.ifPresent(offered -> order.add(offered.choice()));
    proven[o] = found.map(offered -> offered.choice().proven()).orElse(true);
    long least = found.map(Offered::charged).orElse(known);
    order.knows(trial, least);
    return proven[o] ? least : free[o];
  }

  private List<List<Option>> options() {
    return orders.stream().map(OrderOptions::all).toList();
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
