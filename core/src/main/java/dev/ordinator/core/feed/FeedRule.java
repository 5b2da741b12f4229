package dev.ordinator.core.feed;

import org.jspecify.annotations.Nullable;

/**
 * How much of what is in stock a listing may offer.
 *
 * @param basis what is counted
 * @param withinDays with {@link Basis#ATP}, what can be promised within so many days from today
 * @param buffer units of the item that are kept back first
 * @param sharePercent of what is left, the part that this listing may offer; 0 to 100
 * @param cap most units that it may offer; null: no limit
 * @param soldOut what happens when nothing is left
 * @param oversellTo with {@link SoldOut#OVERSELL}, units that may be sold beyond what is there
 * @param offered false: nothing is offered for now, whatever is there
 */
public record FeedRule(
    Basis basis,
    int withinDays,
    long buffer,
    int sharePercent,
    @Nullable Long cap,
    SoldOut soldOut,
    long oversellTo,
    boolean offered) {

  /** What is counted, over the nodes that serve the channel. */
  public enum Basis {
    /** On hand less allocated and safety stock. */
    AVAILABLE,
    ON_HAND,
    /** Available, and what is expected in time. */
    ATP
  }

  /** Nobody promises further ahead. */
  public static final int FURTHEST_DAYS = 180;

  public enum SoldOut {
    /** Nothing is offered any more. */
    STOP,
    /** It is offered down to a floor below zero; who buys it then waits for supply. */
    OVERSELL,
    /** Nothing is offered, and who wants it is told when there is stock again. */
    WAITING_LIST
  }

  /** All that is available, and stop. */
  public static final FeedRule PLAIN =
      new FeedRule(Basis.AVAILABLE, 0, 0, 100, null, SoldOut.STOP, 0, true);

  public FeedRule {
    if (buffer < 0 || sharePercent < 0 || sharePercent > 100 || oversellTo < 0) {
      throw new IllegalArgumentException(
          "buffer and floor are not negative, a share is 0 to 100 %");
    }
    if (withinDays < 0 || withinDays > FURTHEST_DAYS) {
      throw new IllegalArgumentException("promises reach 0 to 180 days ahead");
    }
    if (cap != null && cap < 0) {
      throw new IllegalArgumentException("a cap is not negative");
    }
  }

  /**
   * Units that the listing offers: ⌊(basis − buffer) × share⌋, at most the cap, in whole listings.
   * With overselling: basis − what orders already wait for + floor, then the same.
   *
   * @param available units available, not negative
   * @param onHand units on hand
   * @param promisable units that can be promised within {@code withinDays}
   * @param waitedFor units that orders wait for because none were left
   * @param unitsEach units of the item in one of the listing
   * @return listings, never negative
   */
  public long quantity(
      long available, long onHand, long promisable, long waitedFor, long unitsEach) {
    if (!offered) {
      return 0;
    }
    long base =
        switch (basis) {
          case AVAILABLE -> available;
          case ON_HAND -> onHand;
          case ATP -> promisable;
        };
    if (soldOut == SoldOut.OVERSELL) {
      // what can be promised has what is waited for taken off already
      base += oversellTo - (basis == Basis.ATP ? 0 : waitedFor);
    }
    long offered = Math.max(0, base - buffer) * sharePercent / 100;
    if (cap != null) {
      offered = Math.min(offered, cap);
    }
    return offered / unitsEach;
  }
}
