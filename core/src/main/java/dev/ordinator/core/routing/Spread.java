package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Steps.Choice;
import dev.ordinator.core.routing.Tariff.Slot;
import java.time.LocalDate;
import java.util.Arrays;
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
  private int[][] preference = new int[0][];
  private long carriage;
  private LocalDate arrival = LocalDate.MIN;
  private final long[] there;
  private final long[] least;

  /** Lines that can't be filled whatever is done. */
  private final boolean[] hopeless;

  /** Units that are left out so far. */
  private long missing;

  // of the bundles still to be decided, by depth: units that stock can't fill, mass that must go
  private final long[] missingLeft;
  private final long[] massLeft;

  // of the line at a depth, by its order of preference: units a node can send, and those after it
  private final long[][] room;
  private final long[][] roomAfter;

  private Rank floor;
  private @Nullable Rank bar;
  private long @Nullable [][] best;

  /** A rank that was reached, with the units by node and line. */
  record Found(Rank rank, long[][] units) {}

  /**
   * @param charge for a unit of mass, to begin with
   */
  Spread(Basket basket, List<Source> set, double charge, Policy policy, Fill fill, Effort effort) {
    this.basket = basket;
    this.set = set;
    this.policy = policy;
    this.fill = fill;
    this.effort = effort;
    this.bundles = basket.bundles(set);
    this.allSlots = set.stream().map(source -> source.tariff().slots()).toList();
    this.prices = new Prices(basket, set, bundles, charge, effort);
    this.filling = new Filling(basket, set, policy, fill);
    this.quick = new Quick(basket, set, bundles, filling, effort);
    this.slots = new Slot[set.size()];
    this.there = new long[basket.items()];
    this.least = new long[basket.size()];
    this.hopeless = new boolean[basket.size()];
    this.floor = filling.atBest(0, Long.MIN_VALUE, LocalDate.MIN);
    this.missingLeft = new long[bundles.size() + 1];
    this.massLeft = new long[bundles.size() + 1];
    this.room = new long[bundles.size()][set.size()];
    this.roomAfter = new long[bundles.size()][set.size()];
    for (Source source : set) {
      for (int item = 0; item < there.length; item++) {
        there[item] += source.most(item);
      }
    }
    findHopeless((s, item) -> set.get(s).most(item));
  }

  private interface Most {
    long of(int s, int item);
  }

  /** Finds the bundles that none of the nodes has all of though they can't be divided. */
  private void findHopeless(Most most) {
    for (int[] bundle : bundles) {
      boolean some = basket.isDivisible(bundle);
      for (int s = 0; s < set.size() && !some; s++) {
        boolean all = true;
        for (int l : bundle) {
          all &= most.of(s, basket.itemOf(l)) >= basket.quantity(l);
        }
        some = all;
      }
      for (int l : bundle) {
        hopeless[l] = !some;
      }
    }
  }

  /** A good plan that ranks before the bar, if one is found without a search. */
  Optional<Found> glance(@Nullable Rank bar) {
    this.bar = bar;
    charge();
    return found();
  }

  /** What nothing over these nodes ranks before, by what was seen so far. */
  Rank floor() {
    return floor;
  }

  /**
   * The cheapest, after a glance.
   *
   * @param bar what it must rank before; null: anything
   */
  Optional<Found> cheapest(@Nullable Rank bar) {
    this.bar = bar;
    this.best = null;
    for (Choice tried : steps().upTo(worth() - filling.cost())) {
      if (bound(tried.bound()) > worth() || effort.isSpent()) {
        break;
      }
      use(tried.slots());
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
    return found();
  }

  private Optional<Found> found() {
    return best == null || bar == null ? Optional.empty() : Optional.of(new Found(bar, best));
  }

  private long shortage() {
    if (fill == Fill.ANY) {
      return 0;
    }
    long shortage = 0;
    long[] wanted = wanted();
    for (int item = 0; item < there.length; item++) {
      shortage += basket.demand(item) - wanted[item] + shortOf(item, wanted[item]);
    }
    return shortage;
  }

  /** Units of each item that lines ask for which may be filled. */
  private long[] wanted() {
    long[] wanted = new long[there.length];
    for (int l = 0; l < hopeless.length; l++) {
      wanted[basket.itemOf(l)] += hopeless[l] ? 0 : basket.quantity(l);
    }
    return wanted;
  }

  /** Units left out, as far as they count before cost does. */
  private long counted(long out) {
    return fill.countsFirst() ? out : 0;
  }

  private long shortOf(int item, long wanted) {
    return Math.max(0, wanted - there[item]);
  }

  private void needAllThatThereIs() {
    long[] wanted = wanted();
    for (int l = 0; l < least.length; l++) {
      long out =
          hopeless[l] ? basket.quantity(l) : shortOf(basket.itemOf(l), wanted[basket.itemOf(l)]);
      least[l] = Math.max(0, basket.quantity(l) - out);
    }
  }

  /** Looks for good charges, and tries what they prefer as plans. */
  private void charge() {
    long shortage = shortage();
    if (fill == Fill.WHOLE) {
      needAllThatThereIs();
    }
    // otherwise nothing is needed for sure, as lanes may differ in what they can carry
    double bound = prices.begin(allSlots, least);
    if (fill != Fill.WHOLE) {
      tryQuickly(null);
    }
    bound = prices.raise(bound, worth() - filling.cost());
    prices.goOn();
    Optional<Choice> least = fill == Fill.WHOLE ? steps().least() : Optional.empty();
    bound = Math.max(bound, least.map(Choice::bound).orElse(bound));
    if (bound(bound) <= worth()) {
      tryQuickly(least.map(Choice::slots).orElse(null));
    }
    floor =
        filling.atBest(
            shortage, bound(bound) + policy.unfilledPenaltyPerUnit() * shortage, LocalDate.MIN);
  }

  private Steps steps() {
    return new Steps(allSlots, prices, fill == Fill.WHOLE ? basket.mass() : 0, effort);
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

  /**
   * Tries what the prices prefer as a plan.
   *
   * @param steps to keep to as far as can be; null: none
   */
  private void tryQuickly(Slot @Nullable [] steps) {
    effort.spend(basket.size() / 4);
    long left = quick.fill(prices.preferences(), steps);
    if (left == 0 || fill != Fill.WHOLE) {
      missing = counted(left);
      quick.improve(missing);
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
    findHopeless((s, item) -> tried[s].way().most()[item]);
  }

  private void search() {
    long[] wanted = new long[basket.items()];
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      missingLeft[depth] = missingLeft[depth + 1];
      massLeft[depth] = massLeft[depth + 1];
      for (int l : bundles.get(depth)) {
        int item = basket.itemOf(l);
        missingLeft[depth] -= counted(shortOf(item, wanted[item]));
        wanted[item] += hopeless[l] ? 0 : basket.quantity(l);
        missingLeft[depth] += counted(shortOf(item, wanted[item]));
        missingLeft[depth] += hopeless[l] ? counted(basket.quantity(l)) : 0;
        massLeft[depth] += basket.mass(l) * least[l];
      }
    }
    double bound = prices.begin(Arrays.stream(slots).map(List::of).toList(), least);
    if (isPromising(0)) {
      prices.raise(bound, worth() - filling.cost());
      if (isPromising(0)) {
        preference = prices.preferences();
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
      int l = bundle[0];
      long others = 0;
      for (int k = set.size() - 1; k >= 0; k--) {
        room[depth][k] = room(preference[depth][k], l);
        roomAfter[depth][k] = others;
        others += room[depth][k];
      }
      divide(depth, l, 0, basket.quantity(l));
      return;
    }
    for (int s : preference[depth]) {
      if (fits(s, bundle)) {
        for (int l : bundle) {
          filling.put(s, l, basket.quantity(l));
        }
        goOn(depth, 0);
        for (int l : bundle) {
          filling.put(s, l, -basket.quantity(l));
        }
      }
    }
    leaveOut(depth, bundle);
  }

  /** Gives nodes from the {@code k}-th in the line's order of preference on what is left of it. */
  private void divide(int depth, int l, int k, long left) {
    long mayMiss = basket.quantity(l) - least[l];
    if (left == 0 || k == set.size()) {
      if (left <= mayMiss) {
        goOn(depth, left);
      }
      return;
    }
    int s = preference[depth][k];
    long fewest = Math.max(0, left - mayMiss - roomAfter[depth][k]);
    for (long some = Math.min(left, room[depth][k]); some >= fewest; some--) {
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
      out += basket.quantity(l);
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
      mass += basket.mass(l) * basket.quantity(l);
      long wanted = 0;
      for (int other : bundle) {
        wanted += basket.itemOf(other) == basket.itemOf(l) ? basket.quantity(other) : 0;
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
