package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Loads.Going;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * All plans of an order that come to no more than a limit, with what they take from others: each
 * way to divide its lines over nodes, unless what is decided of it already costs too much.
 */
final class EveryPlan {
  private final Basket basket;
  private final List<Source> sources;
  private final Policy policy;
  private final Fill fill;
  private final int maxConsignments;
  private final Allowed[] allowed;

  private final List<int[]> bundles;

  /** Units that there are at most, by source and item. */
  private final long[][] most;

  /** What a unit costs and is worth to others, less what it saves; by source and item. */
  private final long[][] unitCost;

  /** What it costs that a source sends some of a line. */
  private final long[] costPerLine;

  /** What it costs and is worth to others that a source sends something, of carriage the least. */
  private final long[] begin;

  /** Units of all bundles before one. */
  private final long[] unitsBefore;

  /** What bundles from one on come to at least. */
  private final long[] leastFrom;

  /** The nodes that have some of an item, by item; the cheapest first. */
  private final int[][] having;

  private final Sent sent;
  private final Loads loads;

  private long limit;
  private Effort effort = new Effort(0);
  private Sink sink = (rung, charged, plan) -> 0;

  /**
   * What a rung allows.
   *
   * @param step what it costs that the rung is not the first
   * @param whole whether all must be sent
   */
  record Allowed(int rung, long step, int consignments, boolean whole) {}

  /** Where the plans go that are found. */
  interface Sink {
    /**
     * @param rung the first that allows it
     * @param charged its cost and the step of the rung, and what all it takes is worth to others
     * @param plan what is sent; it changes after
     * @return what comes to more than this is not looked for any more
     */
    long found(int rung, long charged, Sent plan);
  }

  /**
   * @param worth to others, of all that is taken
   * @param allowed by rungs that differ in nothing else, in their order
   */
  EveryPlan(
      Basket basket,
      List<Source> sources,
      Worth worth,
      Policy policy,
      Fill fill,
      List<Allowed> allowed) {
    this.basket = basket;
    this.sources = sources;
    this.policy = policy;
    this.fill = fill;
    this.allowed = allowed.toArray(new Allowed[0]);
    this.maxConsignments = maxConsignments();
    this.bundles = basket.bundles();
    this.most = new long[sources.size()][basket.items()];
    this.unitCost = new long[sources.size()][basket.items()];
    this.costPerLine = new long[sources.size()];
    for (int s = 0; s < sources.size(); s++) {
      lookUp(s, worth);
    }
    this.begin = begin(worth);
    this.sent = new Sent(basket, sources.size());
    this.loads = new Loads(basket, sources);
    this.having = having();
    this.unitsBefore = unitsBefore();
    this.leastFrom = leastFrom();
  }

  private int maxConsignments() {
    int most = 0;
    for (Allowed rung : allowed) {
      most = Math.max(most, rung.consignments());
    }
    return most;
  }

  /** What is asked for at every step is looked up once. */
  private void lookUp(int s, Worth worth) {
    Source source = sources.get(s);
    costPerLine[s] = source.costPerLine();
    for (int item = 0; item < most[s].length; item++) {
      most[s][item] = source.most(item);
      boolean has = most[s][item] > 0;
      long others = has ? worth.unit(source.node().code(), basket.item(item).sku()) : 0;
      unitCost[s][item] = source.unitCost(item) + others - fill.saves(policy);
    }
  }

  private long[] begin(Worth worth) {
    long[] costs = new long[sources.size()];
    for (int s = 0; s < costs.length; s++) {
      Source source = sources.get(s);
      long place = worth.place(source.node().code());
      costs[s] = source.costPerConsignment() + place + source.tariff().least();
    }
    return costs;
  }

  private int[][] having() {
    int[][] nodes = new int[basket.items()][];
    for (int item = 0; item < nodes.length; item++) {
      nodes[item] = cheapestFirst(item);
    }
    return nodes;
  }

  private long[] unitsBefore() {
    long[] before = new long[bundles.size() + 1];
    for (int depth = 0; depth < bundles.size(); depth++) {
      before[depth + 1] = before[depth];
      for (int l : bundles.get(depth)) {
        before[depth + 1] += basket.quantity(l);
      }
    }
    return before;
  }

  private long[] leastFrom() {
    long[] least = new long[bundles.size() + 1];
    for (int depth = bundles.size() - 1; depth >= 0; depth--) {
      least[depth] = least[depth + 1] + least(bundles.get(depth));
    }
    return least;
  }

  private int[] cheapestFirst(int item) {
    int[] first = new int[sources.size()];
    int size = 0;
    for (int s = 0; s < first.length; s++) {
      if (most[s][item] > 0) {
        int at = size++;
        while (at > 0 && unitCost[first[at - 1]][item] > unitCost[s][item]) {
          first[at] = first[--at];
        }
        first[at] = s;
      }
    }
    return Arrays.copyOf(first, size);
  }

  List<Source> sources() {
    return sources;
  }

  /**
   * Finds them in no order; not all of them if the effort gives up.
   *
   * @param upTo nothing that comes to more is looked for
   * @return up to which sum they were looked for at last
   */
  long find(long upTo, Effort spent, Sink told) {
    limit = upTo;
    effort = spent;
    sink = told;
    decide(0, fill.saves(policy) * basket.units());
    return limit;
  }

  private long least(int[] bundle) {
    long sum = 0;
    for (int l : bundle) {
      sum += basket.quantity(l) * leastEach(basket.itemOf(l));
    }
    return sum;
  }

  /** What a unit comes to at least; nothing if it may be left out. */
  private long leastEach(int item) {
    int[] nodes = having[item];
    long each = nodes.length == 0 ? 0 : unitCost[nodes[0]][item];
    return fill == Fill.WHOLE ? each : Math.min(0, each);
  }

  private void decide(int depth, long cost) {
    effort.spend(1);
    Allowed rung = rung(sent.allUnits() == unitsBefore[depth]);
    if (effort.isSpent() || rung == null || cost + rung.step() + left(depth) > limit) {
      return;
    }
    if (depth == bundles.size()) {
      keep(rung, cost + rung.step());
      return;
    }
    int[] bundle = bundles.get(depth);
    if (basket.isDivisible(bundle)) {
      divide(depth, 0, basket.quantity(bundle[0]), cost);
      return;
    }
    for (int s : having[basket.itemOf(bundle[0])]) {
      if (maySend(s)) {
        long now = cost;
        for (int l : bundle) {
          now += more(s, basket.itemOf(l), basket.quantity(l));
          sent.give(s, l, basket.quantity(l));
        }
        if (fits(s, bundle)) {
          decide(depth + 1, now);
        }
        for (int l : bundle) {
          sent.take(s, l);
        }
      }
    }
    if (fill != Fill.WHOLE) {
      decide(depth + 1, cost);
    }
  }

  /**
   * The first rung that allows what is decided, and so the least that its step can be.
   *
   * @param whole whether nothing is left out
   */
  private @Nullable Allowed rung(boolean whole) {
    for (Allowed rung : allowed) {
      if (sent.consignments() <= rung.consignments() && (whole || !rung.whole())) {
        return rung;
      }
    }
    return null;
  }

  /** What bundles from one on come to at least. */
  private long left(int depth) {
    if (sent.consignments() < maxConsignments) {
      return leastFrom[depth];
    }
    long sum = 0;
    for (int d = depth; d < bundles.size(); d++) {
      int[] bundle = bundles.get(d);
      sum += canSend(basket.itemOf(bundle[0])) ? leastFrom[d] - leastFrom[d + 1] : 0;
    }
    return sum;
  }

  /** Whether any of those that send something has an item. */
  private boolean canSend(int item) {
    for (int s : having[item]) {
      if (sent.sends(s)) {
        return true;
      }
    }
    return false;
  }

  private boolean maySend(int s) {
    return sent.sends(s) || sent.consignments() < maxConsignments;
  }

  /** Gives nodes from the {@code k}-th that has the item on what is left of a line. */
  private void divide(int depth, int k, long left, long cost) {
    if (left == 0) {
      decide(depth + 1, cost);
      return;
    }
    int l = bundles.get(depth)[0];
    int item = basket.itemOf(l);
    for (int next = k; next < having[item].length; next++) {
      int s = having[item][next];
      long upTo = maySend(s) ? Math.min(left, most[s][item] - sent.unitsByItem(s)[item]) : 0;
      for (long some = upTo; some > 0 && !effort.isSpent(); some--) {
        long now = cost + more(s, item, some);
        if (now + (left - some) * leastEach(item) + leastFrom[depth + 1] <= limit) {
          sent.give(s, l, some);
          divide(depth, next + 1, left - some, now);
          sent.take(s, l);
        }
      }
    }
    if (fill != Fill.WHOLE) {
      decide(depth + 1, cost);
    }
  }

  private boolean fits(int s, int[] bundle) {
    for (int l : bundle) {
      if (sent.unitsByItem(s)[basket.itemOf(l)] > most[s][basket.itemOf(l)]) {
        return false;
      }
    }
    return true;
  }

  /** What it comes to more that a node sends units of one line more; of carriage the least. */
  private long more(int s, int item, long some) {
    long more = costPerLine[s] + some * unitCost[s][item];
    if (!sent.sends(s)) {
      more += begin[s] + (sent.consignments() > 0 ? policy.splitPenalty() : 0);
    }
    return more;
  }

  /**
   * @param atLeast its cost, of carriage the least
   */
  private void keep(Allowed rung, long atLeast) {
    if (sent.consignments() > 0) {
      send(0, rung, atLeast);
    }
  }

  /** Sends the consignments from one on, each by all of its ways. */
  private void send(int from, Allowed rung, long cost) {
    if (from == sent.consignments()) {
      limit = Math.min(limit, sink.found(rung.rung(), cost, sent));
      return;
    }
    int s = sent.sender(from);
    for (Going going : loads.of(s, sent)) {
      if (cost + going.more() <= limit) {
        sent.go(s, going.way());
        send(from + 1, rung, cost + going.more());
      }
    }
  }
}
