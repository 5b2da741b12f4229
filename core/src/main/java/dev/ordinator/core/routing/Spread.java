package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Source.Slot;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The cheapest way to spread an order over a set of nodes, each of which sends something.
 *
 * <p>Branch and bound in two layers. First each node is given a lane and a step of its rates, so
 * that carriage is known; then each bundle is given to a node at the least cost besides carriage so
 * that no node has more than its step holds, the heaviest with a choice first. Both use the bounds
 * of {@link Prices}, whose relaxed answers are also tried as they are: every one of them that stock
 * allows is a plan, and the search needs good plans early.
 */
final class Spread {
  private final Basket basket;
  private final List<Source> set;
  private final Policy policy;
  private final Fill fill;
  private final Effort effort;
  private final List<int[]> bundles;
  private final List<List<Slot>> allSlots;
  private final Prices prices;
  private final Filling filling;
  private final Quick quick;

  // the step that each node has, and what must be filled of each line
  private final Slot[] slots;
  private long carriage;
  private LocalDate arrival = LocalDate.MIN;
  private final long[] there;
  private final long[] least;

  /** Units that are left out so far. */
  private long missing;

  // of the bundles still to be decided, by depth: units that stock can't fill, mass that must go
  private final long[] missingLeft;
  private final long[] massLeft;

  private @Nullable Rank bar;
  private long @Nullable [][] best;

  /** A rank that was reached, with the units by node and line. */
  record Found(Rank rank, long[][] units) {}

  Spread(Basket basket, List<Source> set, Policy policy, Fill fill, Effort effort) {
    this.basket = basket;
    this.set = set;
    this.policy = policy;
    this.fill = fill;
    this.effort = effort;
    this.bundles = basket.bundles(set);
    this.allSlots = set.stream().map(Source::slots).toList();
    this.prices = new Prices(basket, set, bundles);
    this.filling = new Filling(basket, set, policy, fill);
    this.quick = new Quick(basket, set, bundles, filling);
    this.slots = new Slot[set.size()];
    this.there = new long[basket.items()];
    this.least = new long[basket.size()];
    this.missingLeft = new long[bundles.size() + 1];
    this.massLeft = new long[bundles.size() + 1];
    for (Source source : set) {
      for (int item = 0; item < there.length; item++) {
        there[item] += source.most(item);
      }
    }
  }

  /** What nothing over these nodes ranks before. Cheap to know. */
  Rank floor() {
    long shortage = shortage();
    if (fill == Fill.WHOLE) {
      needAllThatThereIs();
    }
    // otherwise nothing is needed for sure, as lanes may differ in what they can carry
    double bound = prices.free(allSlots, least);
    if (fill == Fill.WHOLE) {
      bound = Math.max(bound, prices.bundles() + cheapestThatHolds(0, basket.mass()));
    }
    return filling.atBest(
        shortage,
        filling.cost() + Prices.whole(bound) + policy.unfilledPenaltyPerUnit() * shortage,
        LocalDate.MIN);
  }

  /** The least carriage of steps that together hold so much; each node has one. */
  private long cheapestThatHolds(int s, long mass) {
    if (s == set.size()) {
      return mass <= 0 ? 0 : Long.MAX_VALUE / 2;
    }
    if (set.size() > 3 || allSlots.get(s).size() > 12) {
      return 0;
    }
    long least = Long.MAX_VALUE / 2;
    for (Slot slot : allSlots.get(s)) {
      least = Math.min(least, slot.cost() + cheapestThatHolds(s + 1, mass - slot.upTo()));
    }
    return least;
  }

  /**
   * @param bar what it must rank before; null: anything
   */
  Optional<Found> cheapest(@Nullable Rank bar) {
    this.bar = bar;
    for (Slot[] tried : combinations()) {
      if (effort.isSpent()) {
        break;
      }
      use(tried);
      long shortage = shortage();
      if (fill == Fill.WHOLE && shortage > 0) {
        continue;
      }
      if (fill != Fill.ANY) {
        // first for as many as stock allows; only if those can't go together, for fewer
        needAllThatThereIs();
        search();
      }
      boolean mayBeFewer = this.bar == null || this.bar.missing() > shortage;
      if (fill == Fill.ANY || (fill == Fill.MOST && mayBeFewer)) {
        Arrays.fill(least, 0);
        search();
      }
    }
    return best == null || this.bar == null
        ? Optional.empty()
        : Optional.of(new Found(this.bar, best));
  }

  private long shortage() {
    long shortage = 0;
    for (int item = 0; item < there.length; item++) {
      shortage += shortOf(item, basket.demand(item));
    }
    return fill == Fill.ANY ? 0 : shortage;
  }

  /** Units left out, as far as they count before cost does. */
  private long counted(long out) {
    return fill.countsFirst() ? out : 0;
  }

  private long shortOf(int item, long wanted) {
    return Math.max(0, wanted - there[item]);
  }

  private void needAllThatThereIs() {
    for (int l = 0; l < least.length; l++) {
      int item = basket.itemOf(l);
      least[l] = Math.max(0, basket.line(l).quantity() - shortOf(item, basket.demand(item)));
    }
  }

  private record Combination(Slot[] slots, double bound) {}

  /**
   * Ways to give each node a step that hold it all and may be worth it, the most promising first.
   */
  private List<Slot[]> combinations() {
    if (fill == Fill.WHOLE) {
      needAllThatThereIs();
    }
    double bound = prices.free(allSlots, least);
    tryQuickly(true);
    bound = prices.raise(bound, worth() - filling.cost(), () -> tryQuickly(false));
    if (bound(bound) > worth()) {
      return List.of();
    }
    List<Combination> combinations = new ArrayList<>();
    double[] lowest = new double[set.size() + 1];
    for (int s = set.size() - 1; s >= 0; s--) {
      double least = Double.MAX_VALUE;
      for (Slot slot : allSlots.get(s)) {
        least = Math.min(least, prices.reduced(s, slot));
      }
      lowest[s] = lowest[s + 1] + least;
    }
    long mass = fill == Fill.WHOLE ? basket.mass() : 0;
    combine(new Slot[set.size()], 0, mass, prices.bundles(), lowest, combinations);
    combinations.sort(Comparator.comparingDouble(Combination::bound));
    return combinations.stream().map(Combination::slots).toList();
  }

  private void combine(
      Slot[] chosen,
      int s,
      long mass,
      double bound,
      double[] lowest,
      List<Combination> combinations) {
    effort.spend(1);
    if (effort.isSpent() || bound(bound + lowest[s]) > worth()) {
      return;
    }
    if (s == set.size()) {
      if (mass <= 0) {
        combinations.add(new Combination(chosen.clone(), bound));
      }
      return;
    }
    for (Slot slot : allSlots.get(s)) {
      chosen[s] = slot;
      double with = bound + prices.reduced(s, slot);
      combine(chosen, s + 1, mass - slot.upTo(), with, lowest, combinations);
    }
  }

  private long bound(double relaxed) {
    return filling.cost() + Prices.whole(relaxed);
  }

  /**
   * The cost up to which a plan may be worth finding; of those with fewer units filled, all may be.
   */
  private long worth() {
    Rank beat = bar;
    if (beat == null || beat.missing() > 0) {
      return Long.MAX_VALUE;
    }
    return beat.cost();
  }

  /** Tries what the prices prefer as a plan. */
  private void tryQuickly(boolean thoroughly) {
    effort.spend(basket.size());
    long left = quick.fill(prices);
    if (left == 0 || fill != Fill.WHOLE) {
      missing = counted(left);
      if (thoroughly) {
        quick.improve(missing);
      }
      compare();
      missing = 0;
    }
    filling.clear();
  }

  private void use(Slot[] tried) {
    System.arraycopy(tried, 0, slots, 0, slots.length);
    carriage = 0;
    arrival = LocalDate.MIN;
    Arrays.fill(there, 0);
    for (Slot slot : tried) {
      carriage += slot.cost();
      arrival = slot.way().arrival().isAfter(arrival) ? slot.way().arrival() : arrival;
      for (int item = 0; item < there.length; item++) {
        there[item] += slot.way().most()[item];
      }
    }
  }

  private void search() {
    long[] wanted = new long[basket.items()];
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      missingLeft[depth] = missingLeft[depth + 1];
      massLeft[depth] = massLeft[depth + 1];
      for (int l : bundles.get(depth)) {
        int item = basket.itemOf(l);
        missingLeft[depth] -= counted(shortOf(item, wanted[item]));
        wanted[item] += basket.line(l).quantity();
        missingLeft[depth] += counted(shortOf(item, wanted[item]));
        massLeft[depth] += basket.mass(l) * least[l];
      }
    }
    double bound = prices.free(Arrays.stream(slots).map(List::of).toList(), least);
    if (isPromising(0)) {
      prices.raise(bound, worth() - filling.cost(), () -> {});
      if (isPromising(0)) {
        decide(0);
      }
    }
  }

  private void decide(int depth) {
    if (effort.isSpent()) {
      return;
    }
    if (depth == bundles.size()) {
      compare();
      return;
    }
    int[] bundle = bundles.get(depth);
    if (basket.isDivisible(bundle)) {
      divide(depth, bundle[0], 0, basket.line(bundle[0]).quantity());
      return;
    }
    for (int s : prices.preference(depth)) {
      if (fits(s, bundle)) {
        for (int l : bundle) {
          filling.put(s, l, basket.line(l).quantity());
        }
        goOn(depth, 0);
        for (int l : bundle) {
          filling.put(s, l, -basket.line(l).quantity());
        }
      }
    }
    leaveOut(depth, bundle);
  }

  /** Gives nodes from the {@code k}-th in the line's order of preference on what is left of it. */
  private void divide(int depth, int l, int k, long left) {
    int[] preference = prices.preference(depth);
    long mayMiss = basket.line(l).quantity() - least[l];
    if (k == preference.length) {
      if (left <= mayMiss) {
        goOn(depth, left);
      }
      return;
    }
    int s = preference[k];
    long others = 0;
    for (int later = k + 1; later < preference.length; later++) {
      others += room(preference[later], l);
    }
    long fewest = Math.max(0, left - mayMiss - others);
    for (long some = Math.min(left, room(s, l)); some >= fewest; some--) {
      if (effort.isSpent()) {
        return;
      }
      filling.put(s, l, some);
      divide(depth, l, k + 1, left - some);
      filling.put(s, l, -some);
    }
  }

  private void leaveOut(int depth, int[] bundle) {
    long out = 0;
    for (int l : bundle) {
      if (least[l] > 0) {
        return;
      }
      out += basket.line(l).quantity();
    }
    goOn(depth, out);
  }

  private void goOn(int depth, long out) {
    missing += counted(out);
    effort.spend(1);
    if (holds(depth + 1) && isPromising(depth + 1)) {
      decide(depth + 1);
    }
    missing -= counted(out);
  }

  /** More units of a line that a node can send beside what it sends already. */
  private long room(int s, int l) {
    int item = basket.itemOf(l);
    long stocked = slots[s].way().most()[item] - filling.taken(s, item);
    long held = slots[s].upTo() - filling.masses()[s];
    return basket.mass(l) == 0 ? stocked : Math.min(stocked, held / basket.mass(l));
  }

  private boolean fits(int s, int[] bundle) {
    long mass = filling.masses()[s];
    for (int l : bundle) {
      mass += basket.mass(l) * basket.line(l).quantity();
      long wanted = 0;
      for (int other : bundle) {
        wanted += basket.itemOf(other) == basket.itemOf(l) ? basket.line(other).quantity() : 0;
      }
      int item = basket.itemOf(l);
      if (filling.taken(s, item) + wanted > slots[s].way().most()[item]) {
        return false;
      }
    }
    return mass <= slots[s].upTo();
  }

  /** Whether the steps still hold what must go. */
  private boolean holds(int depth) {
    long free = 0;
    for (int s = 0; s < slots.length; s++) {
      free += slots[s].upTo() - filling.masses()[s];
    }
    return free >= massLeft[depth];
  }

  /** Whether something that continues what is decided may rank before the bar. */
  private boolean isPromising(int depth) {
    Rank beat = bar;
    if (beat == null) {
      return true;
    }
    long out = missing + missingLeft[depth];
    if (out != beat.missing()) {
      return out < beat.missing();
    }
    long cost =
        filling.cost()
            + carriage
            + prices.atLeast(depth, filling.masses())
            + policy.unfilledPenaltyPerUnit() * out;
    if (cost != beat.cost()) {
      return cost < beat.cost();
    }
    return filling.atBest(out, cost, arrival).compareTo(beat) < 0;
  }

  private void compare() {
    Rank rank = filling.rank(missing);
    if (rank != null && (bar == null || rank.compareTo(bar) < 0)) {
      bar = rank;
      best = filling.copy();
    }
  }
}
