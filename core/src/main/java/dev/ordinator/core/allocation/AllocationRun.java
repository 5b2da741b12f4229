package dev.ordinator.core.allocation;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Gives many lines at once what there is, in a stated order of service. Nothing is given twice, an
 * order that is sent whole gets all or nothing, and the same input gives the same answer.
 *
 * <p>Order by order, whoever comes first is given all they need before the next is looked at. Item
 * by item, each item is given out by itself; where it is scarce it may be shared: within a priority
 * class each line gets {@code left × need ÷ Σ needs}, by largest remainder. Orders sent whole that
 * are left short then give back what they had, and the rest is given out anew without them.
 */
public final class AllocationRun {
  private AllocationRun() {}

  /** How a run goes through what is wanted. */
  public enum Way {
    BY_ORDER,
    BY_ITEM
  }

  /**
   * @param by in which order lines are served; the first decides most
   * @param share whether a scarce item is shared within a class, item by item
   */
  public record Settings(Way way, List<Service.By> by, boolean share) {
    public Settings {
      by = List.copyOf(by);
    }
  }

  /**
   * Units at a node.
   *
   * @param owner for whom they are set aside; 0: free for anybody
   */
  public record Pool(long item, long node, long owner) {}

  /**
   * A line that wants units.
   *
   * @param whole whether its order gets all it wants or nothing
   * @param latestStart the day on which work must begin, counted from any fixed day; {@code
   *     Long.MAX_VALUE}: no day
   * @param placedAt counted from any fixed moment
   * @param nodes that may send it; empty: all
   * @param owners pools set aside that it may take from
   */
  public record Line(
      long order,
      long line,
      long item,
      long units,
      boolean whole,
      int priority,
      boolean shortAlready,
      long latestStart,
      long placedAt,
      long value,
      Set<Long> nodes,
      Set<Long> owners) {
    public Line {
      if (units <= 0) {
        throw new IllegalArgumentException("a line wants at least one unit");
      }
    }

    boolean mayTake(Pool pool) {
      return (nodes.isEmpty() || nodes.contains(pool.node()))
          && (pool.owner() == 0 || owners.contains(pool.owner()));
    }
  }

  /** Units out of a pool. */
  public record Part(Pool pool, long units) {}

  /** Why a line got what it got. */
  public enum Why {
    /** All of it. */
    FULL,
    /** What was left when its turn came. */
    PART,
    /** Its share of what is scarce. */
    SHARE,
    /** Nothing was left when its turn came. */
    NONE_LEFT,
    /** It could have been had, but its order is sent whole, and lacks something else. */
    ORDER_NOT_WHOLE
  }

  /** What a line got. */
  public record Given(Line line, List<Part> parts, Why why) {
    public long units() {
      return parts.stream().mapToLong(Part::units).sum();
    }
  }

  /**
   * @param stock what there is
   * @return one for each line, in the order in which they were served
   */
  public static List<Given> run(Settings settings, List<Line> lines, Map<Pool, Long> stock) {
    List<Line> inOrder = lines.stream().sorted(Service.order(settings.by())).toList();
    return switch (settings.way()) {
      case BY_ORDER -> byOrder(inOrder, new Pools(stock));
      case BY_ITEM -> new ItemByItem(inOrder, stock, settings.share()).run();
    };
  }

  private static List<Given> byOrder(List<Line> inOrder, Pools pools) {
    Map<Long, List<Line>> orders = new LinkedHashMap<>();
    inOrder.forEach(line -> orders.computeIfAbsent(line.order(), o -> new ArrayList<>()).add(line));
    List<Given> given = new ArrayList<>();
    orders.values().forEach(order -> given.addAll(one(order, pools)));
    return given;
  }

  private static List<Given> one(List<Line> order, Pools pools) {
    long together = together(order, pools);
    List<Given> given = new ArrayList<>();
    for (Line line : order) {
      List<Part> parts = pools.take(line, line.units(), together);
      given.add(given(line, parts));
    }
    boolean lacks = given.stream().anyMatch(g -> g.why() != Why.FULL);
    if (lacks && order.stream().anyMatch(Line::whole)) {
      given.replaceAll(g -> nothing(g, pools));
    }
    return given;
  }

  /** The node that has all of an order; the least of them if several have; 0: none has. */
  private static long together(List<Line> order, Pools pools) {
    Map<Long, Long> wanted = new TreeMap<>();
    order.forEach(line -> wanted.merge(line.item(), line.units(), Long::sum));
    return pools.nodes(order.getFirst()).stream()
        .filter(node ->
            order.stream()
                .allMatch(l -> pools.leftAt(l, node) >= wanted.getOrDefault(l.item(), l.units())))
        .findFirst()
        .orElse(0L);
  }

  static Given given(Line line, List<Part> parts) {
    long units = parts.stream().mapToLong(Part::units).sum();
    return new Given(
        line, parts, units == line.units() ? Why.FULL : units == 0 ? Why.NONE_LEFT : Why.PART);
  }

  private static Given nothing(Given given, Pools pools) {
    pools.giveBack(given.parts());
    return new Given(
        given.line(), List.of(), given.why() == Why.FULL ? Why.ORDER_NOT_WHOLE : Why.NONE_LEFT);
  }
}
