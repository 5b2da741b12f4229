package dev.ordinator.rulebook;

import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.RuleGroup;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What an edition says.
 *
 * @param ladders at least one; the first is for every order that no rule sends to another
 */
public record Rulebook(Policy policy, List<Ladder> ladders, List<RuleGroup> groups) {
  public Rulebook {
    ladders = List.copyOf(ladders);
    groups = List.copyOf(groups);
  }

  /** The ladder of that name; the first if there is none such, or no name is given. */
  public Ladder ladder(@Nullable String name) {
    return ladders.stream()
        .filter(l -> l.name().equals(name))
        .findFirst()
        .orElse(ladders.getFirst());
  }

  /** All rules, in the order in which they are tried. */
  public Stream<DeskRule> rules() {
    return groups.stream().flatMap(group -> group.rules().stream());
  }

  /** Whether any rule that is on may ask what there is in stock. */
  public boolean looksAtStock() {
    return rules().anyMatch(rule -> rule.on() && rule.condition().looksAtStock());
  }
}
