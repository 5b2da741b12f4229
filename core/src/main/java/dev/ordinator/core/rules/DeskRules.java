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
  private final Set<String> preferredNodes = new LinkedHashSet<>();
  private final List<String> notes = new ArrayList<>();
  private final Set<String> notices = new LinkedHashSet<>();
  private final List<Tried> trace = new ArrayList<>();
  private final List<DeskRule> tooCostly = new ArrayList<>();
  private @Nullable Integer priority;
  private @Nullable ServiceLevel level;
  private @Nullable String ladder;
  private @Nullable Boolean maySplit;
  private @Nullable Boolean mayWait;
  private @Nullable Boolean inPart;
  private @Nullable Boolean mayReplace;
  private @Nullable String assignee;
  private @Nullable String list;
  private boolean releasesHold;

  private DeskRules(OrderFacts facts) {
    this.facts = facts;
    this.tags = new LinkedHashSet<>(facts.tags());
  }

  /** What the rules for an event make of an order. */
  public static RuleOutcome evaluate(List<RuleGroup> groups, RuleEvent event, OrderFacts facts) {
    DeskRules desk = new DeskRules(facts);
    groups.forEach(group -> desk.tryAll(group, event));
    return desk.outcome();
  }

  /** What one rule makes of it, by itself. */
  public static RuleOutcome evaluate(DeskRule rule, OrderFacts facts) {
    DeskRules desk = new DeskRules(facts);
    desk.tryOne(rule);
    return desk.outcome();
  }

  private RuleOutcome outcome() {
    return new RuleOutcome(
        Set.copyOf(tags),
        Optional.ofNullable(priority),
        Optional.ofNullable(level),
        List.copyOf(holds),
        releasesHold,
        Optional.ofNullable(ladder),
        Set.copyOf(excludedNodes),
        Set.copyOf(preferredNodes),
        Optional.ofNullable(maySplit),
        Optional.ofNullable(mayWait),
        Optional.ofNullable(inPart),
        Optional.ofNullable(mayReplace),
        Optional.ofNullable(assignee),
        Optional.ofNullable(list),
        List.copyOf(notes),
        Set.copyOf(notices),
        List.copyOf(trace),
        List.copyOf(tooCostly));
  }

  private void tryAll(RuleGroup group, RuleEvent event) {
    for (DeskRule rule : group.rules()) {
      if (rule.on() && rule.event() == event && tryOne(rule) && rule.endsGroup()) {
        return;
      }
    }
  }

  private boolean tryOne(DeskRule rule) {
    boolean holds;
    try {
      holds = rule.condition().holds(facts);
    } catch (Expression.TooCostly e) {
      holds = false;
      tooCostly.add(rule);
    }
    trace.add(new Tried(rule.id(), rule.name(), holds, holds ? rule.actions() : List.of()));
    if (holds) {
      rule.actions().forEach(this::act);
    }
    return holds;
  }

  private void act(Action action) {
    switch (action) {
      case Action.AddTag(String tag) -> tags.add(tag);
      case Action.RemoveTag(String tag) -> tags.remove(tag);
      case Action.SetPriority(int priorityClass) -> priority = priorityClass;
      case Action.SetLevel(ServiceLevel to) -> level = to;
      case Action.Hold(String reason) -> holds.add(reason);
      case Action.ReleaseHold() -> {
        holds.clear();
        releasesHold = true;
      }
      case Action.UseLadder(String name) -> ladder = name;
      case Action.ExcludeNode(String node) -> excludedNodes.add(node);
      case Action.PreferNode(String node) -> preferredNodes.add(node);
      case Action.Split(boolean allowed) -> maySplit = allowed;
      case Action.Waiting(boolean allowed) -> mayWait = allowed;
      case Action.InPart(boolean allowed) -> inPart = allowed;
      case Action.Replacing(boolean allowed) -> mayReplace = allowed;
      case Action.Assign(String to) -> assignee = to;
      case Action.PutOnList(String name) -> list = name;
      case Action.Notify(String to) -> notices.add(to);
      case Action.AddNote(String text) -> notes.add(text);
    }
  }
}
