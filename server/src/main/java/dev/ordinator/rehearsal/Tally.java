package dev.ordinator.rehearsal;

import dev.ordinator.routing.GroundsJson.StoredPart;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;

/** Adds up how orders were or would be sent. */
final class Tally {
  private int orders;
  private int unfilled;
  private int split;
  private int consignments;
  private int named;
  private int inTime;
  private long days;
  private long cost;
  private long margin;
  private final Map<String, Map<LocalDate, Integer>> perNode = new TreeMap<>();

  /**
   * What a node would have had to do.
   *
   * @param busiest consignments of its busiest day
   */
  record Load(int consignments, int busiest) {}

  /**
   * What came of orders. Of orders that nothing could be sent of, only their number is in it.
   *
   * @param split orders that left in more than one consignment
   * @param named orders that could be sent and named a day to arrive by; {@code inTime}: and did
   * @param days from routing to arrival, all orders together
   * @param cost minor units of the base currency, as is {@code margin}
   * @param perNode by nodes' codes
   */
  record Sum(
      int orders,
      int unfilled,
      int split,
      int consignments,
      int named,
      int inTime,
      long days,
      long cost,
      long margin,
      Map<String, Load> perNode) {}

  void add(PastOrder order, Outcome outcome) {
    orders++;
    if (!outcome.filled()) {
      unfilled++;
      return;
    }
    split += outcome.parts().size() > 1 ? 1 : 0;
    consignments += outcome.parts().size();
    LocalDate by = order.head().arriveBy();
    if (by != null) {
      named++;
      inTime += outcome.arrival().isAfter(by) ? 0 : 1;
    }
    days += ChronoUnit.DAYS.between(order.today(), outcome.arrival());
    cost += outcome.cost();
    margin += order.worth() - outcome.sending();
    for (StoredPart part : outcome.parts()) {
      perNode
          .computeIfAbsent(part.node(), n -> new HashMap<>())
          .merge(part.handOver(), 1, Integer::sum);
    }
  }

  Sum sum() {
    Map<String, Load> loads = new TreeMap<>();
    perNode.forEach((node, byDay) ->
        loads.put(
            node,
            new Load(
                byDay.values().stream().mapToInt(n -> n).sum(),
                byDay.values().stream().mapToInt(n -> n).max().orElse(0))));
    return new Sum(orders, unfilled, split, consignments, named, inTime, days, cost, margin, loads);
  }
}
