package dev.ordinator.core.dispatch;

/** The states of a consignment, each with those that may follow it. */
public enum ConsignmentState {
  PLANNED,
  RELEASED,
  PACKED,
  HANDED_OVER,
  IN_TRANSIT,
  DELIVERED,
  RECALLED,
  /** Its node said that it can't fill it. */
  REFUSED;

  public boolean mayBecome(ConsignmentState next) {
    return switch (this) {
      case PLANNED -> next == RELEASED || next == RECALLED;
      case RELEASED -> next == PACKED || next == RECALLED || next == REFUSED;
      case PACKED -> next == HANDED_OVER || next == RECALLED;
      // a carrier's scans may skip: the first we hear can be the delivery
      case HANDED_OVER -> next == IN_TRANSIT || next == DELIVERED;
      case IN_TRANSIT -> next == DELIVERED;
      case DELIVERED, RECALLED, REFUSED -> false;
    };
  }

  /** Whether it will not be sent, at least not so. */
  public boolean isOff() {
    return this == RECALLED || this == REFUSED;
  }

  /** Whether it has come at least as far as {@code stage}; one that is off has come nowhere. */
  public boolean reached(ConsignmentState stage) {
    return !isOff() && compareTo(stage) >= 0;
  }
}
