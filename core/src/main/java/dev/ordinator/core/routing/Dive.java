package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
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
  private final Shelves shelves;
  private final double step;
  private final Picks served;
  private double[] charge;

  Dive(List<OrderOptions> orders, Shelves shelves, Bound bound) {
    this.orders = orders;
    this.shelves = shelves;
    this.step = STEP * bound.measure();
    this.served = new Picks(orders, shelves);
    this.charge = IntStream.range(0, shelves.size()).mapToDouble(bound.charges()::of).toArray();
  }

  /** What an order would take now, and what it loses if it can't. */
  private record Wish(int order, Option best, double regret) {}

  Picks serve() {
    List<Integer> open = IntStream.range(0, orders.size()).boxed().toList();
    while (!open.isEmpty()) {
      List<Wish> wishes = new ArrayList<>();
      open.forEach(o -> wishes.add(wish(o)));
      wishes.sort(Comparator.comparingDouble(Wish::regret).reversed());
      int now = Math.max(AT_LEAST, wishes.size() / PART);
      List<Integer> left = new ArrayList<>();
      for (int w = 0; w < wishes.size(); w++) {
        Wish wish = wishes.get(w);
        if (w < now && served.fits(wish.order(), wish.best())) {
          served.set(wish.order(), wish.best());
        } else {
          left.add(wish.order());
        }
      }
      open = left;
      tune(open);
    }
    return served;
  }

  private Wish wish(int o) {
    Option best = orders.get(o).unfilled();
    double least = best.value();
    double second = Double.MAX_VALUE;
    for (Option option : orders.get(o).all()) {
      if (option != best && served.fits(o, option)) {
        double charged = charged(option);
        if (charged < least) {
          second = least;
          least = charged;
          best = option;
        } else if (charged < second) {
          second = charged;
        }
      }
    }
    return new Wish(o, best, second == Double.MAX_VALUE ? 0 : second - least);
  }

  private double charged(Option option) {
    double sum = option.value();
    for (int t = 0; t < option.takes().what().length; t++) {
      sum += charge[option.takes().what()[t]] * option.takes().units()[t];
    }
    return sum;
  }

  private void tune(List<Integer> open) {
    List<List<Option>> possible = new ArrayList<>();
    for (int o : open) {
      possible.add(orders.get(o).all().stream().filter(c -> served.fits(o, c)).toList());
    }
    long[] left = new long[shelves.size()];
    for (int number = 0; number < left.length; number++) {
      left[number] = served.left(number);
    }
    charge = Tuning.tune(new OptionTable(possible), left, charge, step, ROUNDS);
  }
}
