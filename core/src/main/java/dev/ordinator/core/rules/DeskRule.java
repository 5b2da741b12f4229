package dev.ordinator.core.rules;

import dev.ordinator.core.orders.Stage;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * When this happens and this holds, do that to the order.
 *
 * @param id stable within its rulebook
 * @param stay in which stage for how long, for the event {@link RuleEvent#STAYS}; else null
 * @param endsGroup when it held, the rules after it in its group are not tried
 */
public record DeskRule(
    String id,
    String name,
    boolean on,
    RuleEvent event,
    @Nullable Stay stay,
    Condition condition,
    List<Action> actions,
    boolean endsGroup) {

  /**
   * @param hours at least one
   */
  public record Stay(Stage stage, int hours) {
    public Stay {
      if (hours < 1) {
        throw new IllegalArgumentException("an order stays for at least one hour");
      }
    }
  }

  public DeskRule {
    actions = List.copyOf(actions);
    if ((event == RuleEvent.STAYS) != (stay != null)) {
      throw new IllegalArgumentException(
          "a stage and hours belong to rules for orders that stay, and to no others: " + name);
    }
    if (actions.isEmpty()) {
      throw new IllegalArgumentException("a rule does at least one thing: " + name);
    }
  }
}
