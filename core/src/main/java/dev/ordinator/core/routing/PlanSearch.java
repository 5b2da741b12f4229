package dev.ordinator.core.routing;

import dev.ordinator.core.routing.NodeSets.NodeSet;
import dev.ordinator.core.routing.Plan.Rank;
import dev.ordinator.core.routing.Spread.Found;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.Queue;
import org.jspecify.annotations.Nullable;

/**
 * The exactly cheapest plans for an order over some nodes: branch and bound over sets of nodes, the
 * smaller sets first, of those always the one with the lowest bound. A set that is little work is
 * decided at once; any other is first glanced at, which gives it a plan and a closer bound, and is
 * searched when it is its turn again. So there are good plans early, whenever the search is given
 * up, and most sets are never searched.
 */
final class PlanSearch {
  private final Basket basket;
  private final Policy policy;
  private final Fill fill;
  private final @Nullable Rank ceiling;
  private final int keep;
  private final Effort effort;
  private final List<Source> sources;
  private final List<Ranked> ranking = new ArrayList<>();

  private record Ranked(Found found, List<Source> nodes) {}

  /**
   * A set whose turn is still to come.
   *
   * @param floor what nothing over it ranks before
   * @param seen what was seen of it; null: it was not glanced at yet
   */
  private record Open(NodeSet set, Rank floor, @Nullable Spread seen) {}

  /**
   * @param charged its cost with what it takes from others
   */
  record Priced(Plan plan, long charged) {}

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
  }

  /** The best plans, the cheapest first; empty if there is none. */
  List<Priced> best(int maxConsignments) {
    int most = Math.min(maxConsignments, sources.size());
    NodeSets sets = new NodeSets(basket, sources, policy, fill, most);
    if (ceiling == null) {
      // if the search is given up there is at least this one
      sets.fullest(most).ifPresent(set -> keep(set, spread(set, effort).glance(null)));
    }
    for (int size = 1; size <= most; size++) {
      Queue<Open> open = new PriorityQueue<>(Comparator.comparing(Open::floor));
      for (NodeSet set : sets.ofSize(size, bar(), effort.part(3))) {
        open.add(new Open(set, set.floor(), null));
      }
      while (!open.isEmpty() && isWanted(open.element().floor()) && !effort.isSpent()) {
        Open next = open.remove();
        look(next.set(), next.seen()).filter(o -> isWanted(o.floor())).ifPresent(open::add);
      }
    }
    return ranking.stream().map(this::plan).toList();
  }

  private boolean isWanted(Rank floor) {
    Rank bar = bar();
    return bar == null || floor.compareTo(bar) < 0;
  }

  /** Decides a set, or glances at it, or searches it; gives what is then still to be done. */
  private Optional<Open> look(NodeSet set, @Nullable Spread seen) {
    Rank bar = bar(set.nodes());
    if (Direct.isFew(basket, set.nodes().size())) {
      keep(set, new Direct(basket, set.nodes(), policy, fill).cheapest(bar));
      return Optional.empty();
    }
    if (seen != null) {
      keep(set, seen.cheapest(bar));
      return Optional.empty();
    }
    // one set must not use up what is there for all
    Spread spread = spread(set, effort.part(2));
    keep(set, spread.glance(bar));
    Rank closer = spread.floor();
    return Optional.of(
        new Open(set, closer.compareTo(set.floor()) > 0 ? closer : set.floor(), spread));
  }

  private void keep(NodeSet set, Optional<Found> found) {
    if (found.isEmpty()) {
      return;
    }
    ranking.removeIf(ranked -> ranked.nodes().equals(set.nodes()));
    ranking.add(new Ranked(found.get(), set.nodes()));
    ranking.sort(Comparator.comparing(ranked -> ranked.found().rank()));
    if (ranking.size() > keep) {
      ranking.removeLast();
    }
  }

  private Spread spread(NodeSet set, Effort effort) {
    return new Spread(basket, set.nodes(), set.charge(), policy, fill, effort);
  }

  /** The rank that is to be beaten; null: any plan is welcome. */
  private @Nullable Rank bar() {
    return ranking.size() < keep ? ceiling : ranking.getLast().found().rank();
  }

  /** The rank that a plan over these nodes is to beat: their own, if they have one that counts. */
  private @Nullable Rank bar(List<Source> nodes) {
    for (Ranked ranked : ranking) {
      if (ranked.nodes().equals(nodes)) {
        return ranked.found().rank();
      }
    }
    return bar();
  }

  private Priced plan(Ranked ranked) {
    return new Priced(
        basket.plan(ranked.nodes(), ranked.found().units(), policy), ranked.found().rank().cost());
  }
}
