package dev.ordinator.core.routing;

/**
 * By how much less what an order takes may be charged than it was with other charges: for each unit
 * by what its item fell most at any node. What is not known then comes to no less than it did
 * before, less the fall; so an order need not be routed anew for each change.
 */
final class Fall {
  private final Shelves shelves;
  private final long[] most;
  private long mostOfPlaces;

  Fall(Shelves shelves, Charges before, Charges now) {
    this.shelves = shelves;
    this.most = new long[shelves.items()];
    // a unit of what perishes is charged for at several numbers
    long[] unit = new long[shelves.size()];
    for (int number = 0; number < unit.length; number++) {
      unit[shelves.base(number)] += Math.max(0, before.of(number) - now.of(number));
    }
    for (int number = 0; number < unit.length; number++) {
      int item = shelves.itemOf(number);
      if (item < 0) {
        mostOfPlaces = Math.max(mostOfPlaces, unit[number]);
      } else {
        most[item] = Math.max(most[item], unit[number]);
      }
    }
  }

  /**
   * @param consignments as many as there are at most
   */
  long of(OrderDemand demand, int consignments) {
    long sum = mostOfPlaces * consignments;
    for (OrderDemand.Line line : demand.lines()) {
      sum += most[shelves.item(line.item().sku())] * line.quantity();
    }
    return sum;
  }
}
