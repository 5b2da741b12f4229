package dev.ordinator.core.orders;

/** How an order stands with its money; independent of its stage. */
public enum PaymentState {
  UNPAID,
  AUTHORISED,
  PAID,
  ON_DELIVERY,
  PART_REFUNDED,
  REFUNDED;

  /** Whether the money was there once. */
  public boolean hasBeenPaid() {
    return this == PAID || isRefunded();
  }

  /** Whether some of the money, or all of it, was paid back. */
  public boolean isRefunded() {
    return this == PART_REFUNDED || this == REFUNDED;
  }

  /**
   * What is known of a payment once its channel has told something: one that does not tell of
   * refunds goes on saying PAID, which takes none back.
   */
  public PaymentState told(PaymentState said) {
    return isRefunded() && said == PAID ? this : said;
  }
}
