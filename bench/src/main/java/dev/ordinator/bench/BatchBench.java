package dev.ordinator.bench;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.BatchRouter.Order;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * How fast orders that share scarce stock are routed together, on one thread, and how far the
 * answer is from the bound at most.
 */
public final class BatchBench {
  private static final int NODES = 25;
  private static final int ITEMS = 5_000;
  private static final Ladder LADDER =
      new Ladder(
          "bench",
          List.of(
              new Rung("one", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
              new Rung("two", NodeFilter.ALL, 2, Cover.WHOLE, Late.ALLOW),
              new Rung("any", NodeFilter.ALL, 2, Cover.MOST, Late.ALLOW)));

  private BatchBench() {}

  public static void main(String[] args) {
    route(2_500, 7);
    System.out.println(
        "| orders | seconds | orders a second | ÷ n·log n of the first | filled | gap |");
    System.out.println("| --- | --- | --- | --- | --- | --- |");
    double first = 0;
    for (int count : List.of(2_500, 5_000, 10_000)) {
      long start = System.nanoTime();
      BatchRouter.Result result = route(count, 8);
      double seconds = (System.nanoTime() - start) / 1e9;
      double perWork = seconds / (count * Math.log(count));
      first = first == 0 ? perWork : first;
      System.out.printf(
          "| %,d | %.2f | %,.0f | %.2f | %,d | %.2f %% |%n",
          count,
          seconds,
          count / seconds,
          perWork / first,
          result.choices().stream().filter(c -> c.isPresent()).count(),
          100 * result.gap());
    }
  }

  /** Half as much stock again as is asked for: where it lies, much of it is short. */
  private static BatchRouter.Result route(int count, int seed) {
    Random random = new Random(seed);
    Network network = RouteBench.network(NODES, random);
    List<Item> items = RouteBench.items(ITEMS, random);
    double each = 6.0 * count / (ITEMS * NODES * 0.3);
    List<Offer> offers = new ArrayList<>();
    for (Node node : network.nodes()) {
      for (Item item : items) {
        if (random.nextInt(100) < 30) {
          long some = (long) (each * 2 * random.nextDouble() + random.nextDouble());
          offers.add(new Offer(node.code(), item.sku(), some, 0, 0));
        }
      }
    }
    List<Order> orders = new ArrayList<>();
    for (int o = 0; o < count; o++) {
      orders.add(new Order(RouteBench.order("B" + o, 1 + random.nextInt(3), items, random), 1));
    }
    Situation situation = new Situation(RouteBench.NOW, network, Map.of(), offers);
    return BatchRouter.route(orders, LADDER, RouteBench.POLICY, situation);
  }
}
