package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Plan.Rank;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The sets of nodes that could fill an order, each once: of the nodes that have what the fewest
 * have, one must be in it. A set is left out when its lower bound shows that no plan over it, nor
 * over any of the same size that contains what is chosen, ranks before the best that is known.
 */
final class NodeSets {
  /**
   * A set that may have a plan that is wanted.
   *
   * @param nodes in listed order
   * @param floor what nothing over them ranks before
   * @param charge for a unit of mass, at which that was seen
   */
  record NodeSet(List<Source> nodes, Rank floor, double charge) {}

  private final Basket basket;
  private final List<Source> sources;
  private final Policy policy;
  private final Fill fill;
  private final CarriageFloor carriage;
  private final int[] scarcestFirst;
  private final long[] mostAnywhere;

  /** What all units and lines cost where each costs least. */
  private final long linear;

  private final boolean[] used;
  private final int[] chosen;
  private final long[] residual;
  private int size;
  private int depth;
  private @Nullable Rank beat;
  private Effort effort = new Effort(0);
  private List<NodeSet> found = List.of();

  /**
   * @param most nodes in a set
   */
  NodeSets(Basket basket, List<Source> sources, Policy policy, Fill fill, int most) {
    this.basket = basket;
    this.sources = sources;
    this.policy = policy;
    this.fill = fill;
    this.used = new boolean[sources.size()];
    this.chosen = new int[sources.size()];
    this.residual = new long[basket.items()];
    this.mostAnywhere = new long[basket.items()];
    int[] having = new int[basket.items()];
    for (int item = 0; item < residual.length; item++) {
      residual[item] = basket.demand(item);
      for (Source source : sources) {
        mostAnywhere[item] = Math.max(mostAnywhere[item], source.most(item));
        having[item] += source.most(item) > 0 ? 1 : 0;
      }
    }
    this.scarcestFirst = new int[basket.items()];
    Integer[] items = new Integer[basket.items()];
    Arrays.setAll(items, item -> item);
    Arrays.sort(items, Comparator.comparingInt(item -> having[item]));
    Arrays.setAll(scarcestFirst, i -> items[i]);
    // what may be left out, or may be tried in all its ways, needs no bound on its mass
    boolean light = fill != Fill.WHOLE || Direct.isFew(basket, most);
    this.carriage = new CarriageFloor(sources, light ? 0 : basket.mass());
    int[] all = new int[sources.size()];
    Arrays.setAll(all, s -> s);
    long cheapest = fill.saves(policy) * basket.units();
    for (int item = 0; item < residual.length; item++) {
      cheapest += cheapest(all, all.length, item);
    }
    this.linear = cheapest;
  }

  /**
   * @param beat what a set's floor must rank before; null: anything
   * @return not all of them if the effort was spent
   */
  List<NodeSet> ofSize(int size, @Nullable Rank beat, Effort effort) {
    this.size = size;
    this.beat = beat;
    this.effort = effort;
    found = new ArrayList<>();
    choose(carriage.none());
    return found;
  }

  /**
   * The nodes that fill most of what is left each time.
   *
   * @return nothing if they can't fill what must be filled
   */
  Optional<NodeSet> fullest(int most) {
    double[] fixed = carriage.none();
    depth = 0;
    for (int next = fullest(); depth < most && next >= 0; next = fullest()) {
      add(next);
      fixed = carriage.add(fixed, next);
    }
    boolean fills = depth > 0 && (covers() || fill != Fill.WHOLE);
    List<Source> set = inListedOrder();
    while (depth > 0) {
      used[remove()] = false;
    }
    Rank floor = new Rank(0, Long.MIN_VALUE, 0, LocalDate.MIN, List.of());
    return fills ? Optional.of(new NodeSet(set, floor, carriage.charge(fixed))) : Optional.empty();
  }

  /** The node that fills most of what is left; −1 if none fills any. */
  private int fullest() {
    int fullest = -1;
    long most = 0;
    for (int s = 0; s < used.length; s++) {
      long here = used[s] ? 0 : fills(s);
      if (here > most) {
        most = here;
        fullest = s;
      }
    }
    return fullest;
  }

  private long fills(int s) {
    long fills = 0;
    for (int item = 0; item < residual.length; item++) {
      fills += Math.clamp(residual[item], 0, sources.get(s).most(item));
    }
    return fills;
  }

  private boolean covers() {
    return missing() == 0;
  }

  private long missing() {
    long missing = 0;
    for (long left : residual) {
      missing += Math.max(0, left);
    }
    return missing;
  }

  private void add(int s) {
    used[s] = true;
    chosen[depth++] = s;
    for (int item = 0; item < residual.length; item++) {
      residual[item] -= sources.get(s).most(item);
    }
  }

  /** Takes the last away; it counts as tried until it is told otherwise. */
  private int remove() {
    int s = chosen[--depth];
    for (int item = 0; item < residual.length; item++) {
      residual[item] += sources.get(s).most(item);
    }
    return s;
  }

  private List<Source> inListedOrder() {
    int[] set = Arrays.copyOf(chosen, depth);
    Arrays.sort(set);
    List<Source> listed = new ArrayList<>(depth);
    for (int s : set) {
      listed.add(sources.get(s));
    }
    return listed;
  }

  /** Adds nodes until the set has its size. Those tried before, up the branch, are in it or out. */
  private void choose(double[] fixed) {
    effort.spend(1);
    if (effort.isSpent() || !isPromising(fixed)) {
      return;
    }
    if (depth == size) {
      look(fixed);
      return;
    }
    int scarcest = fill == Fill.WHOLE ? scarcest() : -1;
    int[] tried = new int[sources.size()];
    int count = 0;
    for (int s = 0; s < used.length; s++) {
      if (!used[s] && (scarcest < 0 || sources.get(s).most(scarcest) > 0) && mayCover(s)) {
        add(s);
        choose(carriage.add(fixed, s));
        remove();
        tried[count++] = s;
      }
    }
    for (int t = 0; t < count; t++) {
      used[tried[t]] = false;
    }
  }

  /** Of the items that the set can't fill yet, the one that the fewest nodes have; −1: none. */
  private int scarcest() {
    for (int item : scarcestFirst) {
      if (residual[item] > 0) {
        return item;
      }
    }
    return -1;
  }

  /** Whether with one more node the set could fill all that must be filled. */
  private boolean mayCover(int s) {
    int others = size - depth - 1;
    for (int item = 0; item < residual.length && fill == Fill.WHOLE; item++) {
      if (residual[item] > sources.get(s).most(item) + others * mostAnywhere[item]) {
        return false;
      }
    }
    return true;
  }

  /** Whether a set of this size that contains what is chosen may have a plan that is wanted. */
  private boolean isPromising(double[] fixed) {
    if (beat == null) {
      return true;
    }
    int slots = size - depth;
    long out = 0;
    for (int item = 0; item < residual.length && fill == Fill.MOST; item++) {
      out += Math.max(0, residual[item] - slots * mostAnywhere[item]);
    }
    if (out != beat.missing()) {
      return out < beat.missing();
    }
    return cost(fixed, slots, linear) + policy.unfilledPenaltyPerUnit() * out <= beat.cost();
  }

  private long cost(double[] fixed, int slots, long lines) {
    return Prices.whole(carriage.of(fixed, slots)) + policy.splitPenalty() * (size - 1) + lines;
  }

  private void look(double[] fixed) {
    effort.spend(basket.items() / 4);
    long lines = fill.saves(policy) * basket.units();
    for (int item = 0; item < residual.length; item++) {
      lines += cheapest(chosen, size, item);
    }
    long missing = fill == Fill.MOST ? missing() : 0;
    long cost = cost(fixed, 0, lines) + policy.unfilledPenaltyPerUnit() * missing;
    Rank floor = new Rank(missing, cost, size, LocalDate.MIN, List.of());
    if (beat == null || floor.compareTo(beat) < 0) {
      found.add(new NodeSet(inListedOrder(), floor, carriage.charge(fixed)));
    }
  }

  /**
   * What an item costs at least: units from where they cost least in a set, as far as stock there
   * goes, and their lines. If all of one line must go, either one node sends it, or at least two
   * are paid for the line.
   */
  private long cheapest(int[] set, int count, int item) {
    long units = units(set, count, item);
    if (fill != Fill.WHOLE) {
      return units;
    }
    long demand = basket.demand(item);
    long alone = Long.MAX_VALUE;
    long least = Long.MAX_VALUE;
    long second = Long.MAX_VALUE;
    for (int n = 0; n < count; n++) {
      Source source = sources.get(set[n]);
      if (source.most(item) > 0) {
        long line = source.costPerLine();
        second = Math.min(second, Math.max(least, line));
        least = Math.min(least, line);
        if (source.most(item) >= demand) {
          alone = Math.min(alone, demand * source.unitCost(item) + line);
        }
      }
    }
    if (least == Long.MAX_VALUE || basket.linesOf(item) > 1) {
      return units + (least == Long.MAX_VALUE ? 0 : least * basket.linesOf(item));
    }
    return second == Long.MAX_VALUE ? units + least : Math.min(alone, units + least + second);
  }

  private long units(int[] set, int count, int item) {
    long left = basket.demand(item);
    long cost = 0;
    long above = Long.MIN_VALUE;
    while (left > 0) {
      // those not dearer than the last were taken before
      long next = Long.MAX_VALUE;
      long there = 0;
      for (int n = 0; n < count; n++) {
        Source source = sources.get(set[n]);
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
}
