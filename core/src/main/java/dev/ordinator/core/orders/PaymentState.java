package dev.ordinator.core.orders;

/** How an order stands with its money; independent of its stage. */
public enum PaymentState {
  UNPAID,
  AUTHORISED,
  PAID,
  ON_DELIVERY,
  PART_REFUNDED,
  REFUNDED
}
