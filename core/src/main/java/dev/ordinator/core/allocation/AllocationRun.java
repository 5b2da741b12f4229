package dev.ordinator.core.allocation;

import dev.ordinator.core.stock.LotPick;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Gives many lines at once what there is, in a stated order of service. Nothing is given twice, an
 * order that is sent whole gets all or nothing, and the same input gives the same answer.
 *
 * <p>Order by order, whoever comes first is given all they need before the next is looked at. Item
 * by item, each item is given out by itself; where it is scarce it may be shared: within a priority
 * class each line gets {@code left × need ÷ Σ needs}, by largest remainder. Orders sent whole that
 * are left short then give back what they had, and the rest is given out anew without them.
 *
 * <p>A line for kits gets all of its components from one node, or nothing. Kits are given out order
 * by order only: shared out item by item, they would be left with components that make none.
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

  /** An item at a node. */
  public record At(long item, long node) {}

  /**
   * What of an item lies at a node, lot by lot, and which of it goes first.
   *
   * @param lots of each, the units that may be taken at most
   */
  public record Shelf(LotPick.Rule rule, List<LotPick.Held> lots) {
    public Shelf {
      lots = List.copyOf(lots);
    }
  }

  /**
   * What there is.
   *
   * @param shelves of items that are given by lot; of others, and of those not in it, only the
   *     quantity is given
   */
  public record Stock(Map<Pool, Long> units, Map<At, Shelf> shelves) {
    public Stock {
      units = Map.copyOf(units);
      shelves = Map.copyOf(shelves);
    }
  }

  /** What some kits are made of. */
  public interface Kit {
    /** Items that may be taken for it. */
    Set<Long> items();

    /**
     * @param there units by item, at one node
     * @return units to take of each for all that the line wants; empty: there is not enough
     */
    Map<Long, Long> outOf(Map<Long, Long> there);
  }

  /**
   * A line that wants units.
   *
   * @param kit if it is for kits
   * @param whole whether its order gets all it wants or nothing
   * @param latestStart the day on which work must begin, counted from any fixed day; {@code
   *     Long.MAX_VALUE}: no day
   * @param placedAt counted from any fixed moment
   * @param arrival when it would arrive, from which on its lots must last
   * @param nodes that may send it; empty: all
   * @param owners pools set aside that it may take from
   */
  public record Line(
      long order,
      long line,
      long item,
      @Nullable Kit kit,
      long units,
      boolean whole,
      int priority,
      boolean shortAlready,
      long latestStart,
      long placedAt,
      long value,
      LocalDate arrival,
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

  /**
   * Units out of a pool.
   *
   * @param place where they lie, if their lot is said; 0: any
   */
  public record Part(Pool pool, long place, long units) {}

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
    /** Lots are there, but would last too short a time once they had arrived. */
    TOO_SHORT_LIVED,
    /** What is left is of lots that the run does not give. */
    LOT_EXCLUDED,
    /** Fewer than it asks for were left, and its order is sent whole. */
    TOO_FEW,
    /** It could have been had, but its order is sent whole, and lacks something else. */
    ORDER_NOT_WHOLE,
    /** It is for kits, and these are given order by order. */
    KIT
  }

  /**
   * What a line got.
   *
   * @param units of the line's item
   * @param parts of a kit's line, its components
   */
  public record Given(Line line, long units, List<Part> parts, Why why) {}

  /**
   * @return one for each line, in the order in which they were served
   */
  public static List<Given> run(Settings settings, List<Line> lines, Stock stock) {
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
    order.forEach(line -> given.add(pools.give(line, line.units(), together)));
    boolean lacks = given.stream().anyMatch(g -> g.why() != Why.FULL);
    if (lacks && order.stream().anyMatch(Line::whole)) {
      given.replaceAll(g -> nothing(g, pools));
    }
    return given;
  }

  /** The node that has all of an order; the least of them if several have; 0: none has. */
  private static long together(List<Line> order, Pools pools) {
    return pools.nodes(order.getFirst()).stream()
        .filter(node -> hasAll(node, order, pools))
        .findFirst()
        .orElse(0L);
  }

  private static boolean hasAll(long node, List<Line> order, Pools pools) {
    Map<Long, Long> taken = new HashMap<>();
    for (Line line : order) {
      Map<Long, Long> needs = pools.needs(line, line.units(), node, taken);
      if (needs.isEmpty()) {
        return false;
      }
      needs.forEach((item, units) -> taken.merge(item, units, Long::sum));
    }
    return true;
  }

  private static Given nothing(Given given, Pools pools) {
    pools.giveBack(given.parts());
    return new Given(given.line(), 0, List.of(), insteadOf(given));
  }

  /** Why a line gets nothing that would have been given something by itself. */
  static Why insteadOf(Given alone) {
    return switch (alone.why()) {
      case FULL -> Why.ORDER_NOT_WHOLE;
      case PART, SHARE -> Why.TOO_FEW;
      default -> alone.why();
    };
  }
}
