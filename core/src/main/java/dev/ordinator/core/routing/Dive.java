package dev.ordinator.core.routing;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Serves orders by charges: those first that lose most if they don't get what is best for them. As
 * what is left gets less, charges are tuned again for those still to be served.
 */
final class Dive {
  /** The part of those still to be served that is, before charges are tuned again. */
  private static final int PART = 3;

  private static final int AT_LEAST = 4;
  private static final int ROUNDS = 12;

  /** The first step of charges, as a part of what an order costs alone. */
  private static final double STEP = 0.09;

  private final List<OrderOptions> orders;
  private final double step;
  private final Picks served;
  private final long[] left;
  private double[] charge;

  /** Orders still to be served, and what they could still have. */
  private int[] open;

  private OptionTable possible;

  Dive(List<OrderOptions> orders, Shelves shelves, Bound bound) {
    this.orders = orders;
    this.step = STEP * bound.measure();
    this.served = new Picks(orders, shelves);
    this.left = shelves.have();
    this.charge = bound.charges().each();
    this.open = IntStream.range(0, orders.size()).toArray();
    this.possible = new OptionTable(orders.stream().map(OrderOptions::all).toList());
  }

  /**
   * What an order would take now, and what it loses if it can't.
   *
   * @param at where it stands among those still to be served
   */
  private record Wish(int at, int best, double regret) {}

  Picks serve() {
    while (open.length > 0) {
      List<Wish> wishes = new ArrayList<>();
      for (int at = 0; at < open.length; at++) {
        wishes.add(wish(at));
      }
      wishes.sort(Comparator.comparingDouble(Wish::regret).reversed());
      int now = Math.max(AT_LEAST, wishes.size() / PART);
      List<Wish> waiting = new ArrayList<>();
      for (int w = 0; w < wishes.size(); w++) {
        Wish wish = wishes.get(w);
        if (w < now && possible.fits(wish.best(), left)) {
          serve(wish);
        } else {
          waiting.add(wish);
        }
      }
      keep(waiting.stream().mapToInt(Wish::at).toArray());
    }
    return served;
  }

  private Wish wish(int at) {
    int best = possible.first(at);
    double least = Double.MAX_VALUE;
    double second = Double.MAX_VALUE;
    int end = possible.first(at + 1);
    for (int option = best; option < end && possible.value(option) < second; option++) {
      double charged = possible.charged(option, charge);
      if (charged < least) {
        second = least;
        least = charged;
        best = option;
      } else if (charged < second) {
        second = charged;
      }
    }
    return new Wish(at, best, second == Double.MAX_VALUE ? 0 : second - least);
  }

  private void serve(Wish wish) {
    int o = open[wish.at()];
    served.set(o, orders.get(o).all().get(possible.name(wish.best())));
    possible.use(wish.best(), left);
  }

  private void keep(int[] waiting) {
    OptionTable before = possible;
    open = IntStream.of(waiting).map(at -> open[at]).toArray();
    possible = before.only(waiting, option -> before.fits(option, left));
    charge = Tuning.tune(possible, left, charge, step, ROUNDS);
  }
}
