package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Tariff.Slot;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Ways to give each node of a set a step of its rates, so that together they hold an order. */
final class Steps {
  /** What looking for the least may take; with many nodes and steps it can be left. */
  private static final int STEPS_LEAST = 2_000;

  /**
   * @param slots one for each node
   * @param bound what nothing that keeps to them costs less than, by the best charges
   */
  record Choice(Slot[] slots, double bound) {}

  private final List<List<Slot>> slots;
  private final Prices prices;
  private final long mass;
  private final Effort effort;
  private final double[] lowest;

  private final Slot[] chosen;
  private @Nullable Choice least;
  private int left = STEPS_LEAST;

  /**
   * @param slots that each node may take
   * @param mass that they must hold together
   */
  Steps(List<List<Slot>> slots, Prices prices, long mass, Effort effort) {
    this.slots = slots;
    this.prices = prices;
    this.mass = mass;
    this.effort = effort;
    this.chosen = new Slot[slots.size()];
    this.lowest = new double[slots.size() + 1];
    for (int s = slots.size() - 1; s >= 0; s--) {
      double least = Double.MAX_VALUE;
      for (Slot slot : slots.get(s)) {
        least = Math.min(least, prices.reduced(s, slot));
      }
      lowest[s] = lowest[s + 1] + least;
    }
  }

  /** The choice with the lowest bound; nothing if that takes too long to know. */
  Optional<Choice> least() {
    least(0, mass, prices.bundles());
    effort.spend(STEPS_LEAST - left);
    return left > 0 ? Optional.ofNullable(least) : Optional.empty();
  }

  private void least(int s, long mass, double bound) {
    if (left <= 0 || (least != null && bound + lowest[s] >= least.bound())) {
      return;
    }
    if (s == chosen.length) {
      if (mass <= 0) {
        least = new Choice(chosen.clone(), bound);
      }
      return;
    }
    for (Slot slot : slots.get(s)) {
      left--;
      chosen[s] = slot;
      least(s + 1, mass - slot.upTo(), bound + prices.reduced(s, slot));
    }
  }

  /**
   * All choices with bounds up to a limit, the lowest first; not all of them if the effort was
   * spent.
   */
  List<Choice> upTo(long limit) {
    List<Choice> choices = new ArrayList<>();
    choose(0, mass, prices.bundles(), limit, choices);
    choices.sort(Comparator.comparingDouble(Choice::bound));
    return choices;
  }

  private void choose(int s, long mass, double bound, long limit, List<Choice> choices) {
    effort.spend(1);
    if (effort.isSpent() || Prices.whole(bound + lowest[s]) > limit) {
      return;
    }
    if (s == chosen.length) {
      if (mass <= 0) {
        choices.add(new Choice(chosen.clone(), bound));
      }
      return;
    }
    for (Slot slot : slots.get(s)) {
      chosen[s] = slot;
      choose(s + 1, mass - slot.upTo(), bound + prices.reduced(s, slot), limit, choices);
    }
  }
}
