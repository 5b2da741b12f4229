package dev.ordinator.core.allocation;

import dev.ordinator.core.allocation.AllocationRun.At;
import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.allocation.AllocationRun.Shelf;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.allocation.AllocationRun.Why;
import dev.ordinator.core.money.Shares;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Gives each item out by itself. Of the orders that are sent whole and lack something, the last in
 * the order of service is taken out, and what it had is given out anew, until none is left that
 * lacks anything; only the items of the order that was taken out are looked at again. Kits get
 * nothing, and so does all of an order that is sent whole and has some.
 */
final class ItemByItem {
  private final List<Line> inOrder;
  private final boolean share;
  private final Map<Long, List<Line>> lines = new TreeMap<>();
  private final Map<Long, Map<Pool, Long>> stock = new HashMap<>();
  private final Map<Long, Map<At, Shelf>> shelves = new HashMap<>();
  private final Map<Long, List<Given>> given = new HashMap<>();
  private final Map<Long, Integer> rank = new HashMap<>();
  private final Map<Long, Set<Long>> itemsOf = new HashMap<>();
  private final Map<Long, Set<Long>> lacks = new HashMap<>();
  private final TreeSet<Long> broken;
  private final Set<Long> out = new HashSet<>();

  ItemByItem(List<Line> inOrder, Stock there, boolean share) {
    this.inOrder = inOrder;
    this.share = share;
    this.broken = new TreeSet<>((a, b) -> Integer.compare(rankOf(a), rankOf(b)));
    for (int i = 0; i < inOrder.size(); i++) {
      Line line = inOrder.get(i);
      if (line.kit() != null) {
        if (line.whole()) {
          out.add(line.order());
        }
        continue;
      }
      lines.computeIfAbsent(line.item(), item -> new ArrayList<>()).add(line);
      rank.put(line.order(), i);
      itemsOf.computeIfAbsent(line.order(), o -> new TreeSet<>()).add(line.item());
    }
    there
        .units()
        .forEach((pool, units) ->
            stock.computeIfAbsent(pool.item(), i -> new HashMap<>()).put(pool, units));
    there
        .shelves()
        .forEach(
            (at, shelf) -> shelves.computeIfAbsent(at.item(), i -> new HashMap<>()).put(at, shelf));
  }

  private int rankOf(long order) {
    return rank.getOrDefault(order, 0);
  }

  /** One for each line, in the order of service. */
  List<Given> run() {
    lines.keySet().forEach(this::giveOut);
    while (!broken.isEmpty()) {
      long last = broken.last();
      broken.remove(last);
      out.add(last);
      itemsOf.getOrDefault(last, Set.of()).forEach(this::giveOut);
    }
    Map<Line, Given> got = new HashMap<>();
    given.values().forEach(all -> all.forEach(g -> got.put(g.line(), g)));
    return inOrder.stream()
        .map(line -> {
          Given its = got.get(line);
          return its == null ? nothing(line) : its;
        })
        .toList();
  }

  private Given nothing(Line line) {
    if (line.kit() != null) {
      return new Given(line, 0, List.of(), Why.KIT);
    }
    boolean there = pools(line.item()).left(line) >= line.units();
    return new Given(line, 0, List.of(), there ? Why.ORDER_NOT_WHOLE : Why.NONE_LEFT);
  }

  private Pools pools(long item) {
    return new Pools(
        new Stock(stock.getOrDefault(item, Map.of()), shelves.getOrDefault(item, Map.of())));
  }

  private void giveOut(long item) {
    Pools pools = pools(item);
    List<Line> wanting =
        lines.getOrDefault(item, List.of()).stream()
            .filter(line -> !out.contains(line.order()))
            .toList();
    List<Given> now = new ArrayList<>();
    if (share) {
      classes(wanting).forEach(same -> now.addAll(shared(same, pools)));
    } else {
      wanting.forEach(line -> now.add(pools.give(line, line.units(), 0)));
    }
    given.put(item, now);
    now.stream().filter(g -> g.line().whole()).forEach(g -> note(g, item));
  }

  private void note(Given got, long item) {
    long order = got.line().order();
    Set<Long> its = lacks.computeIfAbsent(order, o -> new HashSet<>());
    if (got.why() == Why.FULL) {
      its.remove(item);
    } else {
      its.add(item);
    }
    if (its.isEmpty()) {
      broken.remove(order);
    } else {
      broken.add(order);
    }
  }

  private static List<List<Line>> classes(List<Line> lines) {
    Map<Integer, List<Line>> classes = new TreeMap<>();
    lines.forEach(
        line -> classes.computeIfAbsent(line.priority(), p -> new ArrayList<>()).add(line));
    return List.copyOf(classes.values());
  }

  private static List<Given> shared(List<Line> same, Pools pools) {
    long wanted = same.stream().mapToLong(Line::units).sum();
    long left = same.stream().mapToLong(pools::left).max().orElse(0);
    long[] wants = same.stream().mapToLong(Line::units).toArray();
    long[] shares = left >= wanted ? wants : Shares.split(left, wants);
    List<Given> given = new ArrayList<>();
    for (int i = 0; i < same.size(); i++) {
      Given got = pools.give(same.get(i), shares[i], 0);
      boolean share = got.why() == Why.PART && left < wanted;
      given.add(share ? new Given(got.line(), got.units(), got.parts(), Why.SHARE) : got);
    }
    return given;
  }
}
