package dev.ordinator.core.routing;

import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Ladder.Rung;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The least that orders of one class come to together, found by trying every plan of each with
 * every plan of the others, by the words of the planning case. Shares nothing with the router but
 * the records and {@link PlainSolver}'s way to price a division of an order.
 */
final class PlainBatch {
  /** What a plan takes, by node and SKU; a node alone stands for a place on its day. */
  record Way(long value, Map<String, Long> takes) {}

  private final List<List<Way>> ways = new ArrayList<>();
  private final long[] leastLeft;
  private final Map<String, Long> left = new HashMap<>();
  private long best = Long.MAX_VALUE;

  private PlainBatch(List<OrderDemand> orders, Ladder ladder, Policy policy, Situation situation) {
    for (OrderDemand order : orders) {
      ways.add(ways(order, ladder, policy, situation));
    }
    leastLeft = new long[orders.size() + 1];
    for (int o = orders.size() - 1; o >= 0; o--) {
      leastLeft[o] = leastLeft[o + 1] + ways.get(o).getFirst().value();
    }
    left.putAll(there(orders, situation));
  }

  /** What there is, by what ways take; places of nodes without a limit are not in it. */
  static Map<String, Long> there(List<OrderDemand> orders, Situation situation) {
    Map<String, Long> there = new HashMap<>();
    for (Node node : situation.network().nodes()) {
      situation.capacityLeft(node.code()).ifPresent(c -> there.put(node.code(), (long) c));
      for (OrderDemand order : orders) {
        for (OrderDemand.Line line : order.lines()) {
          there.put(
              node.code() + " " + line.item().sku(),
              situation.offer(node.code(), line.item().sku()).available());
        }
      }
    }
    return there;
  }

  static long least(List<OrderDemand> orders, Ladder ladder, Policy policy, Situation situation) {
    PlainBatch batch = new PlainBatch(orders, ladder, policy, situation);
    batch.order(0, 0);
    return batch.best;
  }

  /** All ways for an order, the cheapest first; of those that take the same, one. */
  static List<Way> ways(OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    Map<Map<String, Long>, Long> least = new HashMap<>();
    long units = order.lines().stream().mapToLong(OrderDemand.Line::quantity).sum();
    least.put(
        Map.of(),
        units * policy.unfilledPenaltyPerUnit() + policy.rungStep() * ladder.rungs().size());
    for (int r = 0; r < ladder.rungs().size(); r++) {
      Rung rung = ladder.rungs().get(r);
      long step = policy.rungStep() * r;
      PlainSolver.everyWay(
          order,
          rung,
          policy,
          situation,
          (cost, takes) -> least.merge(takes, cost + step, Math::min));
    }
    return least.entrySet().stream()
        .map(e -> new Way(e.getValue(), e.getKey()))
        .sorted(Comparator.comparingLong(Way::value))
        .toList();
  }

  private void order(int o, long value) {
    if (value + leastLeft[o] >= best) {
      return;
    }
    if (o == ways.size()) {
      best = value;
      return;
    }
    for (Way way : ways.get(o)) {
      if (way.takes().entrySet().stream()
          .allMatch(t -> left.getOrDefault(t.getKey(), Long.MAX_VALUE) >= t.getValue())) {
        way.takes().forEach((what, some) -> left.computeIfPresent(what, (w, l) -> l - some));
        order(o + 1, value + way.value());
        way.takes().forEach((what, some) -> left.computeIfPresent(what, (w, l) -> l + some));
      }
    }
  }
}
