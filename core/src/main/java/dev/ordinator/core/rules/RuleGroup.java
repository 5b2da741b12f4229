package dev.ordinator.core.rules;

import java.util.List;

/** Rules that are tried together, top to bottom. */
public record RuleGroup(String name, List<DeskRule> rules) {
  public RuleGroup {
    rules = List.copyOf(rules);
  }
}
