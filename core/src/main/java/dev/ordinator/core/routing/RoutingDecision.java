package dev.ordinator.core.routing;

import java.util.Optional;

/**
 * What the router decided, and why. Changes nothing itself.
 *
 * @param choice empty: nothing can fill the order as the ladder demands
 * @param full whether only nodes that have no place left on their day stand in the way
 */
public record RoutingDecision(Optional<Choice> choice, boolean full, Grounds grounds) {

  /**
   * @param rung 0-based place on the ladder
   * @param proven whether the plan is known to be the cheapest; else the search was given up for
   *     its size, and this is the best that it had found
   */
  public record Choice(int rung, Plan plan, boolean proven) {}
}
