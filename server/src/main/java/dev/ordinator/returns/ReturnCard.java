package dev.ordinator.returns;

import dev.ordinator.returns.RefundCard.State;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A return: units that a buyer sends back under one number.
 *
 * @param number what the buyer writes on the parcel, the RMA number
 * @param node where it comes back to
 * @param item the first of those that come back, of so many {@code lines}
 * @param units of items, of which {@code came} have come
 * @param endedWhy why nothing was paid back for it
 * @param refund how far what is paid back for it has come; null: nothing was asked for
 * @param refunded minor units of the order's currency
 */
public record ReturnCard(
    long id,
    long orderId,
    String number,
    String orderNumber,
    String buyer,
    String channel,
    long nodeId,
    String node,
    Reason reason,
    String note,
    Stage stage,
    String item,
    int lines,
    long units,
    long came,
    String openedBy,
    Instant openedAt,
    @Nullable Instant endedAt,
    String endedWhy,
    @Nullable State refund,
    long refunded,
    String currency) {

  /** How far a return has come. */
  public enum Stage {
    /** The parcel is to come. */
    AWAITED,
    /** All that comes has come; what is owed for it is to be said. */
    ARRIVED,
    /** It was paid back, or somebody said why it is not. */
    CLOSED,
    /** The buyer keeps it. */
    CALLED_OFF
  }

  /** Why buyers send things back. */
  public enum Reason {
    DAMAGED,
    FAULTY,
    WRONG_ITEM,
    NOT_AS_DESCRIBED,
    UNWANTED,
    TOO_LATE,
    OTHER
  }
}
