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
 * @param servingNodes the nodes that serve the order's channel; empty: all do
 * @param pickUpNode the node where the buyer collects it; null: it is sent
 * @param excludedNodes nodes that rules or refusals rule out
 * @param lines at least one
 */
public record OrderDemand(
    String id,
    Destination to,
    ServiceLevel level,
    @Nullable LocalDate arriveBy,
    Set<String> servingNodes,
    @Nullable String pickUpNode,
    Set<String> excludedNodes,
    List<Line> lines) {

  /**
   * @param quantity units, positive
   */
  public record Line(String id, Item item, long quantity) {
    public Line {
      if (quantity <= 0) {
        throw new IllegalArgumentException("line " + id + " asks for " + quantity + " units");
      }
    }
  }

  public OrderDemand {
    servingNodes = Set.copyOf(servingNodes);
    excludedNodes = Set.copyOf(excludedNodes);
    lines = List.copyOf(lines);
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("order " + id + " has no open line");
    }
  }
}
