package dev.ordinator.core.rules;

import dev.ordinator.core.network.ServiceLevel;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What the rules make of an order. Empty options: no rule had a say.
 *
 * @param tags the order's tags afterwards
 * @param releasesHold whether the holds that rules placed before end
 * @param maySplit whether it may leave in several consignments
 * @param notices mail addresses to tell
 * @param trace every rule tried, in order
 */
public record RuleOutcome(
    Set<String> tags,
    Optional<Integer> priority,
    Optional<ServiceLevel> level,
    List<String> holds,
    boolean releasesHold,
    Optional<String> ladder,
    Set<String> excludedNodes,
    Set<String> preferredNodes,
    Optional<Boolean> maySplit,
    List<String> notes,
    Set<String> notices,
    List<Tried> trace) {

  /**
   * @param held whether its condition held, so that its actions were done
   */
  public record Tried(String rule, String name, boolean held, List<Action> did) {}

  public boolean anyHeld() {
    return trace.stream().anyMatch(Tried::held);
  }
}
