package dev.ordinator.core.routing;

import java.util.List;
import java.util.Optional;

/**
 * What the router decided, and why. Changes nothing itself.
 *
 * @param choice empty: nothing can fill the order as the ladder demands
 */
public record RoutingDecision(Optional<Choice> choice, Grounds grounds) {

  /**
   * @param rung 0-based place on the ladder
   * @param cost minor units of the base currency
   */
  public record Choice(int rung, List<PlannedConsignment> consignments, long cost) {
    public Choice {
      consignments = List.copyOf(consignments);
    }
  }
}
