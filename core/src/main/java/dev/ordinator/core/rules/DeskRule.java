package dev.ordinator.core.rules;

import java.util.List;

/**
 * When this happens and this holds, do that to the order.
 *
 * @param id stable within its rulebook
 * @param endsGroup when it held, the rules after it in its group are not tried
 */
public record DeskRule(
    String id,
    String name,
    boolean on,
    RuleEvent event,
    Condition condition,
    List<Action> actions,
    boolean endsGroup) {
  public DeskRule {
    actions = List.copyOf(actions);
  }
}
