package dev.ordinator.returns;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A refund of an order. Amounts are in minor units of the order's currency.
 *
 * @param no of the order's refunds, from 1
 * @param shipping of the amount, for shipping
 * @param fee kept back for restocking
 */
public record RefundCard(
    long id,
    long orderId,
    int no,
    long amount,
    long shipping,
    long fee,
    String reason,
    State state,
    String askedBy,
    Instant askedAt,
    @Nullable Instant settledAt) {

  /** How far a refund has come. */
  public enum State {
    /** Whoever holds the buyer's payment is to pay it back. */
    ASKED,
    /** It was paid back. */
    SETTLED,
    /** It never was, and won't be. */
    WITHDRAWN
  }
}
