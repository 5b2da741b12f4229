package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.ServiceLevel;
import java.time.LocalDate;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is to be routed: an order's open lines.
 *
 * @param arriveBy the date asked for or promised; null: never late
 * @param maxConsignments the most that the order itself allows; null: what the rung allows
 * @param lines at least one
 */
public record OrderDemand(
    String id,
    Destination to,
    ServiceLevel level,
    @Nullable LocalDate arriveBy,
    @Nullable Integer maxConsignments,
    From from,
    List<Line> lines) {

  /**
   * Which nodes may send an order, whatever the rung; all by their codes.
   *
   * @param serving those that serve the order's channel; empty: all do
   * @param pickUp where the buyer collects it; null: it is sent
   * @param excluded those that rules rule out
   * @param preferred those that rules prefer: a rung that can fill the whole order from them alone
   *     does
   * @param refused those that said they can’t fill it
   */
  public record From(
      Set<String> serving,
      @Nullable String pickUp,
      Set<String> excluded,
      Set<String> preferred,
      Set<String> refused) {
    public static final From ANYWHERE = new From(Set.of(), null, Set.of(), Set.of(), Set.of());

    public From {
      serving = Set.copyOf(serving);
      excluded = Set.copyOf(excluded);
      preferred = Set.copyOf(preferred);
      refused = Set.copyOf(refused);
    }

    /** The same if no node had refused it. */
    public From withoutRefusals() {
      return new From(serving, pickUp, excluded, preferred, Set.of());
    }

    /** Whether a node may send any of it. */
    public boolean admits(String node) {
      return (serving.isEmpty() || serving.contains(node))
          && (pickUp == null || pickUp.equals(node))
          && !excluded.contains(node)
          && !refused.contains(node);
    }
  }

  /**
   * @param quantity units, positive
   * @param divisible whether its units may come from several nodes
   * @param together lines that say the same here come, whole, from one node; null: it goes alone
   */
  public record Line(
      String id, Item item, long quantity, boolean divisible, @Nullable String together) {
    public Line {
      if (quantity <= 0) {
        throw new IllegalArgumentException("line " + id + " asks for " + quantity + " units");
      }
    }

    public Line(String id, Item item, long quantity) {
      this(id, item, quantity, true, null);
    }
  }

  /**
   * The line with an id.
   *
   * @throws NoSuchElementException if there is none
   */
  Line line(String lineId) {
    for (Line line : lines) {
      if (line.id().equals(lineId)) {
        return line;
      }
    }
    throw new NoSuchElementException("order " + id + " has no line " + lineId);
  }

  public OrderDemand {
    lines = List.copyOf(lines);
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("order " + id + " has no open line");
    }
    if (maxConsignments != null && maxConsignments < 1) {
      throw new IllegalArgumentException("order " + id + " allows no consignment");
    }
  }
}
