package dev.ordinator.bench;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Handling;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.network.WorkCalendar;
import dev.ordinator.core.network.Zone;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/** How long one order takes to route, by the size of the network and of the order. */
public final class RouteBench {
  static final Instant NOW = Instant.parse("2026-11-24T08:00:00Z");
  static final Policy POLICY = new Policy(300, 250, 5_000, 2_000, 5_000);
  private static final int ITEMS = 5_000;

  private RouteBench() {}

  /**
   * @param fewest lines of an order
   * @param lines of an order at most
   * @param stocked the part of all items that a node has, in per cent
   */
  private record Size(
      String what, int nodes, int fewest, int lines, int stocked, int consignments, int orders) {}

  public static void main(String[] args) {
    List<Size> sizes =
        List.of(
            new Size("25 nodes, 1 to 3 lines, one consignment", 25, 1, 3, 60, 1, 4_000),
            new Size("25 nodes, 1 to 3 lines, two consignments", 25, 1, 3, 40, 2, 4_000),
            new Size("25 nodes, 4 to 6 lines, three consignments", 25, 4, 6, 40, 3, 500),
            new Size("60 nodes, 10 lines, three consignments", 60, 10, 10, 40, 3, 300),
            new Size("60 nodes, 40 lines, three consignments", 60, 40, 40, 60, 3, 1_000),
            new Size("60 nodes, 40 lines, scarce, twelve", 60, 40, 40, 25, 12, 100));
    System.out.println(
        "| orders | median (ms) | p99 (ms) | worst (ms) | median ÷ first | filled | proven |");
    System.out.println("| --- | --- | --- | --- | --- | --- | --- |");
    double first = 0;
    for (Size size : sizes) {
      measure(size, 7);
      first = report(size, measure(size, 8), first);
    }
  }

  private record Figures(double[] millis, int filled, int proven) {}

  private static double report(Size size, Figures f, double first) {
    double[] millis = f.millis();
    double median = millis[millis.length / 2];
    double base = first == 0 ? median : first;
    System.out.printf(
        "| %s | %.3f | %.3f | %.3f | %.1f | %d of %d | %d |%n",
        size.what(),
        median,
        millis[millis.length * 99 / 100],
        millis[millis.length - 1],
        median / base,
        f.filled(),
        millis.length,
        f.proven());
    return base;
  }

  private static Figures measure(Size size, long seed) {
    Random random = new Random(seed);
    Network network = network(size.nodes(), random);
    List<Item> items = items(ITEMS, random);
    List<Offer> offers = new ArrayList<>();
    for (Node node : network.nodes()) {
      for (Item item : items) {
        if (random.nextInt(100) < size.stocked()) {
          offers.add(new Offer(node.code(), item.sku(), 1 + random.nextInt(6), 0, 0));
        }
      }
    }
    Situation situation = new Situation(NOW, network, Map.of(), offers);
    Ladder ladder =
        new Ladder(
            "bench",
            List.of(
                new Rung("one", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
                new Rung("several", NodeFilter.ALL, size.consignments(), Cover.WHOLE, Late.ALLOW)));
    double[] millis = new double[size.orders()];
    int filled = 0;
    int proven = 0;
    for (int o = 0; o < millis.length; o++) {
      int count = size.fewest() + random.nextInt(size.lines() - size.fewest() + 1);
      OrderDemand order = order("B", count, items, random);
      long start = System.nanoTime();
      RoutingDecision decision = Router.route(order, ladder, POLICY, situation);
      millis[o] = (System.nanoTime() - start) / 1e6;
      filled += decision.choice().isPresent() ? 1 : 0;
      proven += decision.choice().filter(RoutingDecision.Choice::proven).isPresent() ? 1 : 0;
    }
    Arrays.sort(millis);
    return new Figures(millis, filled, proven);
  }

  static List<Item> items(int count, Random random) {
    List<Item> items = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      items.add(
          new Item("SKU" + i, 100 + random.nextInt(4_000), random.nextInt(9_000), null, Set.of()));
    }
    return items;
  }

  /** Some units of so many different items. */
  static OrderDemand order(String id, int count, List<Item> items, Random random) {
    Set<Item> chosen = new HashSet<>();
    List<OrderDemand.Line> lines = new ArrayList<>();
    while (lines.size() < count) {
      Item item = items.get(random.nextInt(items.size()));
      if (chosen.add(item)) {
        lines.add(new OrderDemand.Line("L" + lines.size(), item, 1 + random.nextInt(3)));
      }
    }
    return order(id, lines);
  }

  static OrderDemand order(String id, List<OrderDemand.Line> lines) {
    return new OrderDemand(
        id,
        new Destination("NL", "1012AB"),
        ServiceLevel.STANDARD,
        null,
        null,
        OrderDemand.From.ANYWHERE,
        lines);
  }

  static Network network(int count, Random random) {
    List<Node> nodes = new ArrayList<>();
    List<Lane> lanes = new ArrayList<>();
    for (int n = 0; n < count; n++) {
      String code = "N" + n;
      nodes.add(
          new Node(
              code,
              NodeKind.STORE,
              "NL",
              ZoneId.of("Europe/Amsterdam"),
              WorkCalendar.parse("MON-SAT", Set.of()),
              LocalTime.of(15, 0),
              random.nextInt(2),
              new Handling(100 + random.nextInt(100), 10 + random.nextInt(20), random.nextInt(10)),
              Set.of()));
      long price = 300 + random.nextInt(300);
      for (ServiceLevel level : ServiceLevel.values()) {
        long more = level == ServiceLevel.EXPRESS ? 400 : 0;
        lanes.add(
            new Lane(
                code,
                "ALL",
                "HERON",
                level.name(),
                level,
                WorkCalendar.parse("MON-SAT", Set.of()),
                level == ServiceLevel.EXPRESS ? 1 : 2 + random.nextInt(2),
                new RateTable(
                    List.of(
                        new RateTable.Step(2_000, price + more),
                        new RateTable.Step(10_000, price + more + 250),
                        new RateTable.Step(30_000, price + more + 700))),
                Set.of()));
      }
    }
    Zone zone = new Zone("ALL", List.of(new Zone.Match("NL", List.of())));
    return new Network(nodes, lanes, List.of(zone));
  }
}
