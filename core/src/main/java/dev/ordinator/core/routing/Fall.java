package dev.ordinator.core.routing;

import java.util.HashMap;
import java.util.Map;

/**
 * By how much less what an order takes may be charged than it was with other charges: for each unit
 * by what its item fell most at any node. What is not known then comes to no less than it did
 * before, less the fall; so an order need not be routed anew for each change.
 */
final class Fall {
  /** By SKU; empty: places. */
  private final Map<String, Long> most = new HashMap<>();

  Fall(Shelves shelves, Charges before, Charges now) {
    // a unit of what perishes is charged for at several numbers
    long[] unit = new long[shelves.size()];
    for (int number = 0; number < unit.length; number++) {
      unit[shelves.base(number)] += Math.max(0, before.of(number) - now.of(number));
    }
    for (int number = 0; number < unit.length; number++) {
      if (unit[number] > 0) {
        most.merge(shelves.sku(number), unit[number], Math::max);
      }
    }
  }

  /**
   * @param consignments as many as there are at most
   */
  long of(OrderDemand demand, int consignments) {
    long sum = most.getOrDefault("", 0L) * consignments;
    for (OrderDemand.Line line : demand.lines()) {
      sum += most.getOrDefault(line.item().sku(), 0L) * line.quantity();
    }
    return sum;
  }
}
