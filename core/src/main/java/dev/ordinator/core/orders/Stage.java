package dev.ordinator.core.orders;

import java.util.List;

/** The stages of an order. Derived from quantities, never set by hand. */
public enum Stage {
  RECEIVED,
  APPROVED,
  ROUTED,
  RELEASED,
  PACKED,
  SHIPPED,
  DELIVERED,
  CANCELLED;

  /**
   * The furthest stage that every open unit has reached; cancelled when no unit is open.
   *
   * @param lines at least one
   */
  public static Stage of(boolean approved, List<LineProgress> lines) {
    if (lines.isEmpty()) {
      throw new IllegalArgumentException("an order has at least one line");
    }
    if (lines.stream().allMatch(l -> l.open() == 0)) {
      return CANCELLED;
    }
    if (lines.stream().allMatch(l -> l.delivered() == l.open())) {
      return DELIVERED;
    }
    if (lines.stream().allMatch(l -> l.shipped() == l.open())) {
      return SHIPPED;
    }
    if (lines.stream().allMatch(l -> l.packed() == l.open())) {
      return PACKED;
    }
    if (lines.stream().allMatch(l -> l.released() == l.open())) {
      return RELEASED;
    }
    if (lines.stream().allMatch(l -> l.routed() == l.open())) {
      return ROUTED;
    }
    return approved ? APPROVED : RECEIVED;
  }
}
