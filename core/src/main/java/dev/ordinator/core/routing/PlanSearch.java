package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Spread.Found;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The exactly cheapest plans for an order over some nodes: branch and bound over sets of nodes, the
 * smaller sets first, with {@link Spread} for each set. Every set that could cover the order is
 * looked at once: of the nodes that have what the fewest have, one must be in it. A set is left out
 * when its lower bound shows that no plan over it, nor over any that contains it, ranks before the
 * best that is known.
 */
final class PlanSearch {
  /** What no node that is left has enough of. */
  private static final int NOWHERE = -2;

  private final Basket basket;
  private final List<Source> sources;
  private final Policy policy;
  private final Fill fill;
  private final @Nullable Rank ceiling;
  private final int keep;
  private final Effort effort;
  private final long linear;
  private final long[] mostAnywhere;
  private final long[] emptyCost;

  private final List<Integer> chosen = new ArrayList<>();
  private final boolean[] used;
  private final long[] residual;
  private int size;

  /** A set that is worth a search, and what nothing over it ranks before. */
  private record Candidate(List<Source> set, Rank floor) {}

  private record Ranked(Found found, List<Source> set) {}

  /**
   * @param charged its cost with what it takes from others
   */
  record Priced(Plan plan, long charged) {}

  private final List<Candidate> candidates = new ArrayList<>();

  private final List<Ranked> ranking = new ArrayList<>();

  /**
   * @param below plans that come to so much or more are of no use
   * @param keep how many of the cheapest are wanted, each over other nodes
   */
  PlanSearch(
      Basket basket,
      List<Source> sources,
      Policy policy,
      Fill fill,
      long below,
      int keep,
      Effort effort) {
    this.basket = basket;
    this.sources = sources;
    this.policy = policy;
    this.fill = fill;
    this.ceiling = below == Long.MAX_VALUE ? null : new Rank(0, below, 0, LocalDate.MIN, List.of());
    this.keep = keep;
    this.effort = effort;
    this.used = new boolean[sources.size()];
    this.residual = new long[basket.items()];
    this.mostAnywhere = new long[basket.items()];
    for (int item = 0; item < residual.length; item++) {
      residual[item] = basket.demand(item);
      for (Source source : sources) {
        mostAnywhere[item] = Math.max(mostAnywhere[item], source.most(item));
      }
    }
    this.emptyCost = new long[sources.size()];
    for (int s = 0; s < emptyCost.length; s++) {
      emptyCost[s] = sources.get(s).leastCost();
    }
    long cheapest = fill.saves(policy) * basket.units();
    for (int l = 0; l < basket.size(); l++) {
      cheapest += basket.line(l).quantity() * cheapestUnit(basket.itemOf(l));
    }
    this.linear = cheapest;
  }

  /** What a unit costs where it costs least; where it need not be filled, no more than nothing. */
  private long cheapestUnit(int item) {
    long least = Long.MAX_VALUE;
    for (Source source : sources) {
      if (source.most(item) > 0) {
        least = Math.min(least, source.unitCost(item));
      }
    }
    if (least == Long.MAX_VALUE) {
      return 0;
    }
    return fill == Fill.WHOLE ? least : Math.min(0, least);
  }

  /** The best plans, the cheapest first; empty if there is none. */
  List<Priced> best(int maxConsignments) {
    startWithTheFullest(Math.min(maxConsignments, sources.size()));
    for (size = 1; size <= Math.min(maxConsignments, sources.size()); size++) {
      choose(0);
      search();
    }
    return ranking.stream().map(this::plan).toList();
  }

  /**
   * A first plan, from the nodes that fill most of what is left each time: if the search is given
   * up there is at least this one.
   */
  private void startWithTheFullest(int most) {
    List<Integer> fullest = new ArrayList<>();
    while (fullest.size() < most && !covers()) {
      int next = -1;
      long fills = 0;
      for (int s = 0; s < used.length; s++) {
        long here = fullest.contains(s) ? 0 : fills(s);
        if (here > fills) {
          fills = here;
          next = s;
        }
      }
      if (next < 0) {
        break;
      }
      fullest.add(next);
      take(next, 1);
    }
    boolean covers = covers();
    fullest.forEach(s -> take(s, -1));
    if (!fullest.isEmpty() && (covers || fill != Fill.WHOLE)) {
      search(inListedOrder(fullest));
    }
  }

  private boolean covers() {
    for (long left : residual) {
      if (left > 0) {
        return false;
      }
    }
    return true;
  }

  private List<Source> inListedOrder(List<Integer> some) {
    boolean[] in = new boolean[sources.size()];
    for (int s : some) {
      in[s] = true;
    }
    List<Source> set = new ArrayList<>(some.size());
    for (int s = 0; s < in.length; s++) {
      if (in[s]) {
        set.add(sources.get(s));
      }
    }
    return set;
  }

  private long fills(int s) {
    long fills = 0;
    for (int item = 0; item < residual.length; item++) {
      fills += Math.clamp(residual[item], 0, sources.get(s).most(item));
    }
    return fills;
  }

  private Priced plan(Ranked ranked) {
    return new Priced(
        basket.plan(ranked.set(), ranked.found().units(), policy), ranked.found().rank().cost());
  }

  /** Adds nodes until the set has its size. Those tried before, up the branch, are in it or out. */
  private void choose(long fixed) {
    if (effort.isSpent() || !isPromising(fixed)) {
      return;
    }
    if (chosen.size() == size) {
      look();
      return;
    }
    int scarcest = fill == Fill.WHOLE ? scarcest() : -1;
    if (scarcest == NOWHERE) {
      return;
    }
    List<Integer> tried = new ArrayList<>();
    for (int s = 0; s < sources.size(); s++) {
      if (!used[s] && (scarcest < 0 || sources.get(s).most(scarcest) > 0)) {
        used[s] = true;
        tried.add(s);
        take(s, 1);
        chosen.add(s);
        choose(fixed + emptyCost[s]);
        chosen.removeLast();
        take(s, -1);
      }
    }
    tried.forEach(s -> used[s] = false);
  }

  private void take(int s, int sign) {
    for (int item = 0; item < residual.length; item++) {
      residual[item] -= sign * sources.get(s).most(item);
    }
  }

  /**
   * Of the items that the set can't cover yet, the one that the fewest other nodes have; −1 if it
   * covers all, {@link #NOWHERE} if it never can.
   */
  private int scarcest() {
    int scarcest = -1;
    int fewest = Integer.MAX_VALUE;
    int slots = size - chosen.size();
    for (int item = 0; item < residual.length; item++) {
      if (residual[item] <= 0) {
        continue;
      }
      int having = 0;
      long most = 0;
      for (int s = 0; s < used.length; s++) {
        long there = used[s] ? 0 : sources.get(s).most(item);
        having += there > 0 ? 1 : 0;
        most = Math.max(most, there);
      }
      if (most * slots < residual[item]) {
        return NOWHERE;
      }
      if (having < fewest) {
        fewest = having;
        scarcest = item;
      }
    }
    return scarcest;
  }

  /** Whether a set of this size that contains what is chosen may have a plan that is wanted. */
  private boolean isPromising(long fixed) {
    Rank beat = bar();
    if (beat == null) {
      return true;
    }
    int slots = size - chosen.size();
    long out = 0;
    for (int item = 0; item < residual.length && fill != Fill.ANY; item++) {
      out += Math.max(0, residual[item] - slots * mostAnywhere[item]);
    }
    if (out != beat.missing()) {
      return out < beat.missing();
    }
    long cost =
        fixed + policy.splitPenalty() * (size - 1) + linear + policy.unfilledPenaltyPerUnit() * out;
    return cost <= beat.cost();
  }

  private void look() {
    Rank beat = bar();
    long cheapest = cheapest(chosen);
    if (beat != null && beat.missing() == 0 && cheapest > beat.cost()) {
      return;
    }
    effort.spend(basket.size());
    List<Source> set = inListedOrder(chosen);
    Rank floor =
        fill != Fill.MOST && Direct.isFew(basket, size)
            ? new Rank(0, cheapest, size, LocalDate.MIN, List.of())
            : spread(set).floor();
    if (beat == null || floor.compareTo(beat) < 0) {
      candidates.add(new Candidate(set, floor));
    }
  }

  /** Each item from where it costs least in a set, as far as stock there goes. */
  private long cheapest(List<Integer> set) {
    long cost = policy.splitPenalty() * (set.size() - 1) + fill.saves(policy) * basket.units();
    for (int s : set) {
      cost += emptyCost[s];
    }
    for (int item = 0; item < residual.length; item++) {
      cost += cheapest(set, item);
    }
    return cost;
  }

  private long cheapest(List<Integer> set, int item) {
    long left = basket.demand(item);
    long cost = 0;
    long above = Long.MIN_VALUE;
    while (left > 0) {
      // those not dearer than the last were taken before
      long next = Long.MAX_VALUE;
      long there = 0;
      for (int s : set) {
        Source source = sources.get(s);
        long each = source.unitCost(item);
        if (each > above && each <= next && source.most(item) > 0) {
          there = each < next ? source.most(item) : there + source.most(item);
          next = each;
        }
      }
      if (there == 0 || (next >= 0 && fill != Fill.WHOLE)) {
        break;
      }
      cost += next * Math.min(left, there);
      left -= there;
      above = next;
    }
    return cost;
  }

  /** Searches the sets that were found, the most promising first. */
  private void search() {
    candidates.sort(Comparator.comparing(Candidate::floor));
    for (Candidate candidate : candidates) {
      Rank beat = bar();
      if (beat != null && candidate.floor().compareTo(beat) >= 0) {
        break;
      }
      if (effort.isSpent() && !ranking.isEmpty()) {
        break;
      }
      search(candidate.set());
    }
    candidates.clear();
  }

  private void search(List<Source> set) {
    Rank own = null;
    for (Ranked ranked : ranking) {
      own = ranked.set().equals(set) ? ranked.found().rank() : own;
    }
    Rank beat = own == null ? bar() : own;
    Optional<Found> found =
        Direct.isFew(basket, set.size())
            ? new Direct(basket, set, policy, fill).cheapest(beat)
            : spread(set).cheapest(beat);
    if (found.isPresent()) {
      ranking.removeIf(ranked -> ranked.set().equals(set));
      ranking.add(new Ranked(found.get(), set));
      ranking.sort(Comparator.comparing(r -> r.found().rank()));
      if (ranking.size() > keep) {
        ranking.removeLast();
      }
    }
  }

  private Spread spread(List<Source> set) {
    return new Spread(basket, set, policy, fill, effort);
  }

  /** The rank that is to be beaten; null: any plan is welcome. */
  private @Nullable Rank bar() {
    return ranking.size() < keep ? ceiling : ranking.getLast().found().rank();
  }
}
