package dev.ordinator.planning;

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
import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/**
 * A made-up planning case, to try the command with and to see the format: orders of which there is
 * a little too much for the stock. The same number of orders always makes the same case.
 */
final class ExampleCase {
  private static final int NODES = 25;
  private static final Instant NOW = Instant.parse("2026-11-24T08:00:00Z");
  private static final Ladder LADDER =
      new Ladder(
          "example",
          List.of(
              new Rung("one consignment", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
              new Rung("two consignments", NodeFilter.ALL, 2, Cover.WHOLE, Late.ALLOW),
              new Rung("what there is", NodeFilter.ALL, 2, Cover.MOST, Late.ALLOW)));

  private final Random random = new Random(11);
  private final List<Node> nodes = new ArrayList<>();
  private final List<Lane> lanes = new ArrayList<>();
  private final List<Item> items = new ArrayList<>();

  private ExampleCase() {}

  static String of(int orders) {
    return new ExampleCase().written(orders);
  }

  private String written(int count) {
    for (int n = 0; n < NODES; n++) {
      addNode("NODE-" + n, n < 3 ? NodeKind.WAREHOUSE : NodeKind.STORE);
    }
    for (int i = 0; i < Math.max(10, count / 2); i++) {
      items.add(
          new Item("SKU-" + i, 100 + random.nextInt(4_000), random.nextInt(9_000), null, Set.of()));
    }
    List<BatchRouter.Order> orders = new ArrayList<>();
    for (int o = 0; o < count; o++) {
      orders.add(new BatchRouter.Order(order("ORDER-" + o), LADDER, 1));
    }
    Zone zone = new Zone("NL", List.of(new Zone.Match("NL", List.of())));
    Network network = new Network(nodes, lanes, List.of(zone));
    Situation situation = new Situation(NOW, network, Map.of(), offers(orders));
    return CaseWriter.write(orders, new Policy(300, 250, 5_000, 2_000, 5_000), situation, "EUR");
  }

  private void addNode(String code, NodeKind kind) {
    WorkCalendar days = WorkCalendar.parse("MON-SAT", Set.of());
    nodes.add(
        new Node(
            code,
            kind,
            "NL",
            ZoneId.of("Europe/Amsterdam"),
            days,
            LocalTime.of(15, 0),
            random.nextInt(2),
            new Handling(100 + random.nextInt(100), 10 + random.nextInt(20), random.nextInt(10)),
            Set.of()));
    long price = 300 + random.nextInt(300);
    for (ServiceLevel level : ServiceLevel.values()) {
      boolean express = level == ServiceLevel.EXPRESS;
      long more = price + (express ? 400 : 0);
      lanes.add(
          new Lane(
              code,
              "NL",
              "HERON",
              level.name(),
              level,
              days,
              express ? 1 : 2 + random.nextInt(2),
              new RateTable(
                  List.of(
                      new RateTable.Step(2_000, more),
                      new RateTable.Step(10_000, more + 250),
                      new RateTable.Step(30_000, more + 700))),
              Set.of()));
    }
  }

  /** Mostly one to three lines; one in thirty orders has more. */
  private OrderDemand order(String id) {
    int lines = random.nextInt(30) == 0 ? 4 + random.nextInt(5) : 1 + random.nextInt(3);
    Map<Item, Integer> wanted = new LinkedHashMap<>();
    while (wanted.size() < lines) {
      double popular = random.nextDouble();
      wanted.put(items.get((int) (items.size() * popular * popular)), 1 + random.nextInt(2));
    }
    List<OrderDemand.Line> demanded = new ArrayList<>();
    wanted.forEach(
        (item, units) -> demanded.add(new OrderDemand.Line("" + demanded.size(), item, units)));
    return new OrderDemand(
        id,
        new Destination("NL", "1012AB"),
        ServiceLevel.STANDARD,
        random.nextInt(4) == 0 ? LocalDate.of(2026, 11, 26 + random.nextInt(4)) : null,
        null,
        OrderDemand.From.ANYWHERE,
        demanded);
  }

  /** Of each item some more than is wanted, or less. */
  private List<Offer> offers(List<BatchRouter.Order> orders) {
    Map<String, Long> wanted = new LinkedHashMap<>();
    for (BatchRouter.Order order : orders) {
      order.demand().lines().forEach(l -> wanted.merge(l.item().sku(), l.quantity(), Long::sum));
    }
    List<Offer> offers = new ArrayList<>();
    wanted.forEach((sku, units) -> {
      Map<String, Long> byNode = new LinkedHashMap<>();
      int first = random.nextInt(NODES);
      long there = Math.round(units * (0.8 + 0.7 * random.nextDouble()));
      for (long unit = 0; unit < there; unit++) {
        byNode.merge("NODE-" + (first + random.nextInt(10)) % NODES, 1L, Long::sum);
      }
      byNode.forEach((node, some) -> offers.add(new Offer(node, sku, some, 0, 0)));
    });
    return offers;
  }
}
