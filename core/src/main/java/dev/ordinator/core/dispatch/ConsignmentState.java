package dev.ordinator.core.dispatch;

/** The states of a consignment, each with those that may follow it. */
public enum ConsignmentState {
  PLANNED,
  RELEASED,
  PACKED,
  HANDED_OVER,
  IN_TRANSIT,
  DELIVERED,
  RECALLED;

  public boolean mayBecome(ConsignmentState next) {
    return switch (this) {
      case PLANNED -> next == RELEASED || next == RECALLED;
      case RELEASED -> next == PACKED || next == RECALLED;
      case PACKED -> next == HANDED_OVER || next == RECALLED;
      // a carrier's scans may skip: the first we hear can be the delivery
      case HANDED_OVER -> next == IN_TRANSIT || next == DELIVERED;
      case IN_TRANSIT -> next == DELIVERED;
      case DELIVERED, RECALLED -> false;
    };
  }

  /** Whether it has come at least as far as {@code stage}; a recalled one has come nowhere. */
  public boolean reached(ConsignmentState stage) {
    return this != RECALLED && compareTo(stage) >= 0;
  }
}
