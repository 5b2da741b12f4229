package dev.ordinator.orders;

import dev.ordinator.core.orders.Stage;
import org.jspecify.annotations.Nullable;

/** What the desk has yet to do for an order by itself. */
public enum Step {
  /** Match its lines, read its service wording, look at its address, apply the rules. */
  CHECK,
  APPROVE,
  ROUTE,
  /** Waits to be routed with others of its channel; no step of the desk's. */
  BATCH,
  RELEASE;

  /**
   * The step that leads on from a stage; null: from there on people and carriers work.
   *
   * @param checked whether the order has passed CHECK
   */
  static @Nullable Step from(Stage stage, boolean checked) {
    return switch (stage) {
      case RECEIVED -> checked ? APPROVE : CHECK;
      case APPROVED -> checked ? ROUTE : CHECK;
      case ROUTED -> RELEASE;
      case RELEASED, PACKED, SHIPPED, DELIVERED, CANCELLED -> null;
    };
  }
}
