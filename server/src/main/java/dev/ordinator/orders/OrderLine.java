package dev.ordinator.orders;

import org.jspecify.annotations.Nullable;

/**
 * @param itemId null while its listing is unmatched
 * @param quantity units of the item that are still wanted: ordered less cancelled
 * @param unitsEach units of the item in one as the channel counts them: a case of 12
 */
public record OrderLine(
    long id,
    int lineNo,
    String externalId,
    long listingId,
    @Nullable Long itemId,
    String title,
    long quantity,
    long unitsEach) {

  /** The line with so many units fewer wanted. */
  public OrderLine less(long units) {
    return new OrderLine(
        id, lineNo, externalId, listingId, itemId, title, quantity - units, unitsEach);
  }

  public boolean isOpen() {
    return quantity > 0;
  }
}
