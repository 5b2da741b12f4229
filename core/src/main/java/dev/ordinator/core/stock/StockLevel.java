package dev.ordinator.core.stock;

/**
 * One item at one node, in units. This is the one definition of what is available there now:
 * availability, feed, promises, routing, allocation and screens all ask it. Who sends to a certain
 * place looks besides at which lots last until they arrive there.
 *
 * @param onHand sellable units there, = Σ movements; never negative
 * @param allocated units of these that are held for lines; never more than on hand
 * @param safety units that are never offered
 * @param earmarked units set aside for somebody
 * @param shortDated units that nobody holds of lots that would last too short a time after their
 *     arrival, even if they were sent today to the nearest place
 */
public record StockLevel(
    long onHand, long allocated, long safety, long earmarked, long shortDated) {

  /** Units that there are of an item which nobody counts: enough for any order. */
  public static final long PLENTY = 1_000_000;

  public static final StockLevel NONE = new StockLevel(0, 0, 0, 0, 0);

  public StockLevel {
    if (allocated < 0 || onHand < allocated || safety < 0 || earmarked < 0 || shortDated < 0) {
      throw new IllegalArgumentException(
          "impossible level: on hand %d, allocated %d, safety %d, earmarked %d, short-dated %d"
              .formatted(onHand, allocated, safety, earmarked, shortDated));
    }
  }

  /**
   * on hand − allocated − safety − earmarked − short-dated, not below zero: what anybody may be
   * given.
   */
  public long available() {
    return availableTo(0);
  }

  /**
   * What somebody may be given for whom some of it is set aside.
   *
   * @param own units that are earmarked for them
   */
  public long availableTo(long own) {
    return Math.max(0, onHand - allocated - safety - shortDated - Math.max(0, earmarked - own));
  }
}
