package dev.ordinator.core.routing;

import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;

/**
 * A way to fill an order.
 *
 * @param consignments in the listed order of their nodes
 * @param unfilled what of each line is not filled
 * @param cost Σ consignments + split penalty × (consignments − 1) + penalty × units not filled;
 *     minor units of the base currency
 */
public record Plan(
    List<PlannedConsignment> consignments, List<PlannedConsignment.Line> unfilled, long cost) {
  public Plan {
    consignments = List.copyOf(consignments);
    unfilled = List.copyOf(unfilled);
  }

  /** The cost without what counts for units that are not filled. */
  public long paid(Policy policy) {
    long missing = unfilled.stream().mapToLong(PlannedConsignment.Line::quantity).sum();
    return cost - policy.unfilledPenaltyPerUnit() * missing;
  }

  /**
   * How good a plan is, the better the less: units not filled, then cost; ties go to fewer
   * consignments, then to the earlier arrival, then to the nodes listed first.
   *
   * @param arrival of its last consignment
   * @param places of its nodes in the listed order, ascending
   */
  record Rank(long missing, long cost, int consignments, LocalDate arrival, List<Integer> places)
      implements Comparable<Rank> {

    private static final Comparator<Rank> ORDER =
        Comparator.comparingLong(Rank::missing)
            .thenComparingLong(Rank::cost)
            .thenComparingInt(Rank::consignments)
            .thenComparing(Rank::arrival)
            .thenComparing(Rank::places, Rank::inListedOrder);

    @Override
    public int compareTo(Rank other) {
      return ORDER.compare(this, other);
    }

    static int inListedOrder(List<Integer> some, List<Integer> others) {
      for (int i = 0; i < Math.min(some.size(), others.size()); i++) {
        int order = some.get(i).compareTo(others.get(i));
        if (order != 0) {
          return order;
        }
      }
      return Integer.compare(some.size(), others.size());
    }
  }
}
