package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.ServiceLevel;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is to be routed: an order's open lines.
 *
 * @param arriveBy the date asked for or promised; null: never late
 * @param maxConsignments the most that the order itself allows; null: what the rung allows
 * @param servingNodes the nodes that serve the order's channel; empty: all do
 * @param pickUpNode the node where the buyer collects it; null: it is sent
 * @param excludedNodes nodes that rules rule out
 * @param refusedBy nodes that said they can’t fill it
 * @param lines at least one
 */
public record OrderDemand(
    String id,
    Destination to,
    ServiceLevel level,
    @Nullable LocalDate arriveBy,
    @Nullable Integer maxConsignments,
    Set<String> servingNodes,
    @Nullable String pickUpNode,
    Set<String> excludedNodes,
    Set<String> refusedBy,
    List<Line> lines) {

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

  public OrderDemand {
    servingNodes = Set.copyOf(servingNodes);
    excludedNodes = Set.copyOf(excludedNodes);
    refusedBy = Set.copyOf(refusedBy);
    lines = List.copyOf(lines);
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("order " + id + " has no open line");
    }
    if (maxConsignments != null && maxConsignments < 1) {
      throw new IllegalArgumentException("order " + id + " allows no consignment");
    }
  }

  /** Whether a node may send any of it, whatever the rung. */
  public boolean mayComeFrom(String node) {
    return (servingNodes.isEmpty() || servingNodes.contains(node))
        && (pickUpNode == null || pickUpNode.equals(node))
        && !excludedNodes.contains(node)
        && !refusedBy.contains(node);
  }
}
