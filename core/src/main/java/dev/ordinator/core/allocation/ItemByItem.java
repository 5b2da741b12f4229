package dev.ordinator.core.allocation;

import dev.ordinator.core.allocation.AllocationRun.At;
import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Part;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.allocation.AllocationRun.Shelf;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.allocation.AllocationRun.Why;
import dev.ordinator.core.money.Shares;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Gives each item out by itself. Of the orders that are sent whole and lack something, the last in
 * the order of service is taken out, until none is left that lacks anything. What it had goes to
 * those who lack of it, in their order; where items are shared, the shares of its items are worked
 * out anew. At last, those that were taken out and can be had whole of what is left then get it, in
 * the order of service. Kits get nothing, and so does all of an order that is sent whole and has
 * some.
 *
 * <p>Lines are known by their places in the order of service.
 */
final class ItemByItem {
  private final List<Line> inOrder;
  private final boolean share;
  private final Map<Long, Goods> items = new TreeMap<>();
  private final @Nullable Given[] got;
  private final Map<Long, List<Integer>> linesOf = new HashMap<>();
  private final Map<Long, Integer> lacks = new HashMap<>();
  private final Set<Long> out = new HashSet<>();

  /** What lines of orders that were taken out would have got. */
  private final Map<Integer, Given> atItsTurn = new HashMap<>();

  private final Set<Long> wholeWithKit = new HashSet<>();

  /** Orders that are sent whole and lack something, by the place of their last line. */
  private final TreeMap<Integer, Long> broken = new TreeMap<>();

  /** An item: what there is of it, and who wants it. */
  private static final class Goods {
    private final Map<Pool, Long> units = new HashMap<>();
    private final Map<At, Shelf> shelves = new HashMap<>();
    private final List<Integer> lines = new ArrayList<>();
    private final TreeSet<Integer> lacking = new TreeSet<>();
    private Pools left = new Pools(new Stock(Map.of(), Map.of()));

    Pools all() {
      return new Pools(new Stock(units, shelves));
    }
  }

  ItemByItem(List<Line> inOrder, Stock there, boolean share) {
    this.inOrder = inOrder;
    this.share = share;
    this.got = new Given[inOrder.size()];
    for (int place = 0; place < inOrder.size(); place++) {
      Line line = inOrder.get(place);
      if (line.kit() == null) {
        of(line.item()).lines.add(place);
        linesOf.computeIfAbsent(line.order(), o -> new ArrayList<>()).add(place);
      } else if (line.whole()) {
        out.add(line.order());
        wholeWithKit.add(line.order());
      }
    }
    there.units().forEach((pool, units) -> of(pool.item()).units.put(pool, units));
    there.shelves().forEach((at, shelf) -> of(at.item()).shelves.put(at, shelf));
  }

  private Goods of(long item) {
    return items.computeIfAbsent(item, i -> new Goods());
  }

  /** One for each line, in the order of service. */
  List<Given> run() {
    items.values().forEach(this::giveOut);
    while (!broken.isEmpty()) {
      takeOut(broken.pollLastEntry().getValue());
    }
    fillWhatFits();
    List<Given> all = new ArrayList<>();
    for (int place = 0; place < got.length; place++) {
      Given its = got[place];
      all.add(its == null ? nothing(place) : its);
    }
    return all;
  }

  private Given nothing(int place) {
    Line line = inOrder.get(place);
    Given alone = atItsTurn.get(place);
    if (line.kit() != null) {
      return new Given(line, 0, List.of(), Why.KIT);
    }
    return new Given(
        line, 0, List.of(), alone == null ? Why.ORDER_NOT_WHOLE : AllocationRun.insteadOf(alone));
  }

  private void takeOut(long order) {
    out.add(order);
    List<Integer> its = linesOf.getOrDefault(order, List.of());
    for (int place : its) {
      Goods goods = of(inOrder.get(place).item());
      Given given = got[place];
      got[place] = null;
      if (given != null) {
        atItsTurn.put(place, given);
      }
      goods.lacking.remove(place);
      if (!share && given != null && given.units() > 0) {
        goods.left.giveBack(given.parts());
        topUp(goods);
      }
    }
    if (share) {
      its.stream().map(place -> inOrder.get(place).item()).distinct().forEach(i -> giveOut(of(i)));
    }
  }

  /** Orders that were taken out for want of what others then did not get either. */
  private void fillWhatFits() {
    Set<Long> looked = new HashSet<>();
    for (Line line : inOrder) {
      boolean wantsItems = out.contains(line.order()) && !wholeWithKit.contains(line.order());
      if (wantsItems && looked.add(line.order())) {
        fill(linesOf.getOrDefault(line.order(), List.of()));
      }
    }
  }

  private void fill(List<Integer> its) {
    Map<Integer, Given> given = new LinkedHashMap<>();
    for (int place : its) {
      Line line = inOrder.get(place);
      given.put(place, of(line.item()).left.give(line, line.units(), 0));
    }
    if (given.values().stream().allMatch(g -> g.why() == Why.FULL)) {
      given.forEach((place, g) -> got[place] = g);
    } else {
      given.values().forEach(g -> of(g.line().item()).left.giveBack(g.parts()));
    }
  }

  /** Those who lack of it get of what has come back. */
  private void topUp(Goods goods) {
    for (int place : List.copyOf(goods.lacking)) {
      Given before = got[place];
      if (before == null) {
        continue;
      }
      Given more = goods.left.give(before.line(), before.line().units() - before.units(), 0);
      if (more.units() > 0) {
        List<Part> parts = together(before.parts(), more.parts());
        note(goods, place, given(before.line(), before.units() + more.units(), parts));
      }
    }
  }

  /** What comes out of one pool, and lies at one place, is one part. */
  private static List<Part> together(List<Part> some, List<Part> more) {
    Map<Part, Long> units = new LinkedHashMap<>();
    Stream.concat(some.stream(), more.stream())
        .forEach(p -> units.merge(new Part(p.pool(), p.place(), 0), p.units(), Long::sum));
    return units.entrySet().stream()
        .map(e -> new Part(e.getKey().pool(), e.getKey().place(), e.getValue()))
        .toList();
  }

  private void giveOut(Goods goods) {
    goods.left = goods.all();
    List<Integer> wanting =
        goods.lines.stream().filter(p -> !out.contains(inOrder.get(p).order())).toList();
    if (share) {
      classes(wanting).forEach(same -> share(goods, same));
    } else {
      for (int place : wanting) {
        Line line = inOrder.get(place);
        note(goods, place, goods.left.give(line, line.units(), 0));
      }
    }
  }

  private static Given given(Line line, long units, List<Part> parts) {
    return new Given(line, units, parts, units == line.units() ? Why.FULL : Why.PART);
  }

  /** Writes down what a line has now, and whether its order lacks something. */
  private void note(Goods goods, int place, Given now) {
    Given before = got[place];
    boolean lacked = before != null && before.why() != Why.FULL;
    boolean isLacking = now.why() != Why.FULL;
    got[place] = now;
    if (isLacking) {
      goods.lacking.add(place);
    } else {
      goods.lacking.remove(place);
    }
    long order = now.line().order();
    if (now.line().whole() && lacked != isLacking) {
      int left = lacks.merge(order, isLacking ? 1 : -1, Integer::sum);
      int last = linesOf.getOrDefault(order, List.of(place)).getLast();
      if (left == 0) {
        broken.remove(last);
      } else {
        broken.put(last, order);
      }
    }
  }

  private List<List<Integer>> classes(List<Integer> places) {
    Map<Integer, List<Integer>> classes = new TreeMap<>();
    places.forEach(place ->
        classes.computeIfAbsent(inOrder.get(place).priority(), p -> new ArrayList<>()).add(place));
    return List.copyOf(classes.values());
  }

  private void share(Goods goods, List<Integer> same) {
    long[] wants = same.stream().mapToLong(place -> inOrder.get(place).units()).toArray();
    long wanted = same.stream().mapToLong(place -> inOrder.get(place).units()).sum();
    long left = same.stream().mapToLong(p -> goods.left.left(inOrder.get(p))).max().orElse(0);
    long[] shares = left >= wanted ? wants : Shares.split(left, wants);
    for (int i = 0; i < shares.length; i++) {
      int place = same.get(i);
      Given now = goods.left.give(inOrder.get(place), shares[i], 0);
      boolean isShare = now.why() == Why.PART && left < wanted;
      note(
          goods, place, isShare ? new Given(now.line(), now.units(), now.parts(), Why.SHARE) : now);
    }
  }
}
