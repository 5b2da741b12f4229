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
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Orders that share scarce stock. */
record Batch(List<Order> orders, Situation situation) {
  private static final int NODES = 25;
  private static final Ladder LADDER =
      new Ladder(
          "bench",
          List.of(
              new Rung("one", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
              new Rung("two", NodeFilter.ALL, 2, Cover.WHOLE, Late.ALLOW),
              new Rung("any", NodeFilter.ALL, 2, Cover.MOST, Late.ALLOW)));

  /** 10,000 orders of 5,000 items. */
  static Batch tenThousand(int seed) {
    return of(10_000, 5_000, seed);
  }

  /**
   * Orders of one to three lines, most of one unit; some items sell far more than others. Each item
   * lies at ten nodes, a fifth more of it than is likely to be asked for: of many there is too
   * little, and of most too little where it would be cheapest.
   */
  static Batch of(int count, int itemCount, int seed) {
    Random random = new Random(seed);
    Network network = RouteBench.network(NODES, random);
    List<Item> items = RouteBench.items(itemCount, random);
    List<Order> orders = new ArrayList<>();
    for (int o = 0; o < count; o++) {
      orders.add(new Order(order("B" + o, items, random), LADDER, 1));
    }
    return new Batch(
        orders,
        new Situation(RouteBench.NOW, network, Map.of(), offers(count, network, items, random)));
  }

  BatchRouter.Result route() {
    return BatchRouter.route(orders, RouteBench.POLICY, situation);
  }

  private static OrderDemand order(String id, List<Item> items, Random random) {
    Map<Item, Long> wanted = new LinkedHashMap<>();
    for (int lines = 1 + random.nextInt(3); wanted.size() < lines; ) {
      double popular = random.nextDouble();
      int draw = random.nextInt(20);
      wanted.put(
          items.get((int) (items.size() * popular * popular)), draw == 0 ? 3L : draw < 5 ? 2L : 1L);
    }
    List<OrderDemand.Line> lines = new ArrayList<>();
    wanted.forEach(
        (item, units) -> lines.add(new OrderDemand.Line("L" + lines.size(), item, units)));
    return RouteBench.order(id, lines);
  }

  private static List<Offer> offers(int count, Network network, List<Item> items, Random random) {
    List<Offer> offers = new ArrayList<>();
    List<String> nodes = new ArrayList<>(network.nodes().stream().map(Node::code).toList());
    for (int i = 0; i < items.size(); i++) {
      // the share of item i, as popular² is spread
      double share = Math.sqrt((i + 1.0) / items.size()) - Math.sqrt((double) i / items.size());
      double expected = count * 2 * 1.3 * share;
      Collections.shuffle(nodes, random);
      long units = Math.round(1.2 * expected + random.nextGaussian() * Math.sqrt(expected));
      Map<String, Long> byNode = new HashMap<>();
      for (long unit = 0; unit < units; unit++) {
        byNode.merge(nodes.get(random.nextInt(10)), 1L, Long::sum);
      }
      String sku = items.get(i).sku();
      byNode.forEach((node, some) -> offers.add(new Offer(node, sku, some, 0, 0)));
    }
    return offers;
  }
}
