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
 * @param mayWait whether what is short is waited for
 * @param inPart whether what is there is sent while the rest waits
 * @param mayReplace whether another item may be sent instead of one that is short
 * @param assignee the name by which the colleague logs in who looks after it
 * @param list on which it stands
 * @param notices mail addresses to tell
 * @param trace every rule tried, in order
 * @param tooCostly those whose condition took more steps than it may; they did not hold
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
    Optional<Boolean> mayWait,
    Optional<Boolean> inPart,
    Optional<Boolean> mayReplace,
    Optional<String> assignee,
    Optional<String> list,
    List<String> notes,
    Set<String> notices,
    List<Tried> trace,
    List<DeskRule> tooCostly) {

  /**
   * @param held whether its condition held, so that its actions were done
   */
  public record Tried(String rule, String name, boolean held, List<Action> did) {}

  public boolean anyHeld() {
    return trace.stream().anyMatch(Tried::held);
  }
}
