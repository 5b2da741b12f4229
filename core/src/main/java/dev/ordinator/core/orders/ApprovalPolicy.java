package dev.ordinator.core.orders;

/** Which payment state lets a channel's orders go on by themselves. */
public enum ApprovalPolicy {
  /** Authorised, paid, or to be paid on delivery. */
  WHEN_AUTHORISED,
  /** Paid, or to be paid on delivery. */
  WHEN_PAID,
  /** A person decides on each order. */
  BY_HAND;

  public boolean approves(PaymentState payment) {
    return switch (payment) {
      case PAID, ON_DELIVERY -> this != BY_HAND;
      case AUTHORISED -> this == WHEN_AUTHORISED;
      case UNPAID, PART_REFUNDED, REFUNDED -> false;
    };
  }
}
