package dev.ordinator.core.stock;

/**
 * One item at one node, in units.
 *
 * @param onHand sellable units there, = Σ movements; never negative
 * @param allocated units of these that are held for lines; never more than on hand
 * @param safety units that are never offered
 */
public record StockLevel(long onHand, long allocated, long safety) {

  public static final StockLevel NONE = new StockLevel(0, 0, 0);

  public StockLevel {
    if (allocated < 0 || onHand < allocated || safety < 0) {
      throw new IllegalArgumentException(
          "impossible level: on hand %d, allocated %d, safety %d"
              .formatted(onHand, allocated, safety));
    }
  }

  /** on hand − allocated − safety, not below zero: what a new line may be given. */
  public long available() {
    return Math.max(0, onHand - allocated - safety);
  }
}
