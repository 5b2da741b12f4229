package dev.ordinator.core.rules;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.rules.RuleOutcome.Tried;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Evaluates desk rules: groups in order, rules top to bottom, a later result over an earlier one.
 */
public final class DeskRules {
  private final OrderFacts facts;
  private final Set<String> tags;
  private final List<String> holds = new ArrayList<>();
  private final Set<String> excludedNodes = new LinkedHashSet<>();
  private final List<String> notes = new ArrayList<>();
  private final List<Tried> trace = new ArrayList<>();
  private @Nullable Integer priority;
  private @Nullable ServiceLevel level;

  private DeskRules(OrderFacts facts) {
    this.facts = facts;
    this.tags = new LinkedHashSet<>(facts.tags());
  }

  public static RuleOutcome evaluate(List<RuleGroup> groups, RuleEvent event, OrderFacts facts) {
    DeskRules desk = new DeskRules(facts);
    groups.forEach(group -> desk.tryAll(group, event));
    return new RuleOutcome(
        Set.copyOf(desk.tags),
        Optional.ofNullable(desk.priority),
        Optional.ofNullable(desk.level),
        List.copyOf(desk.holds),
        Set.copyOf(desk.excludedNodes),
        List.copyOf(desk.notes),
        List.copyOf(desk.trace));
  }

  private void tryAll(RuleGroup group, RuleEvent event) {
    for (DeskRule rule : group.rules()) {
      if (!rule.on() || rule.event() != event) {
        continue;
      }
      boolean holds = rule.condition().holds(facts);
      trace.add(new Tried(rule.id(), rule.name(), holds, holds ? rule.actions() : List.of()));
      if (holds) {
        rule.actions().forEach(this::act);
        if (rule.endsGroup()) {
          return;
        }
      }
    }
  }

  private void act(Action action) {
    switch (action) {
      case Action.AddTag(String tag) -> tags.add(tag);
      case Action.RemoveTag(String tag) -> tags.remove(tag);
      case Action.SetPriority(int priorityClass) -> priority = priorityClass;
      case Action.SetLevel(ServiceLevel to) -> level = to;
      case Action.Hold(String reason) -> holds.add(reason);
      case Action.ExcludeNode(String node) -> excludedNodes.add(node);
      case Action.AddNote(String text) -> notes.add(text);
    }
  }
}
