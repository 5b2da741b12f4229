package dev.ordinator.core.routing;

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
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation.Offer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;

/**
 * A whole problem, small enough that every way to solve it can be tried.
 *
 * @param places consignments that nodes can still take; one that is not in it takes any number
 */
record RandomCase(
    OrderDemand order,
    Rung rung,
    Policy policy,
    Network network,
    Map<String, Integer> places,
    List<Offer> offers) {
  static final List<Zone> ZONES =
      List.of(new Zone("ALL", List.of(new Zone.Match("NL", List.of()))));

  private static final Instant NOW = Instant.parse("2026-11-24T08:00:00Z");
  private static final LocalDate TODAY = LocalDate.parse("2026-11-24");
  private static final List<Item> ITEMS =
      List.of(
          new Item("LIGHT", 300, 100, null, Set.of()),
          new Item("BULKY", 900, 14_000, null, Set.of()),
          new Item("ACID", 700, 800, "HX", Set.of()),
          new Item("BANNED", 100, 100, null, Set.of("NL")));

  Situation situation() {
    return new Situation(NOW, network, places, offers);
  }

  Ladder ladder() {
    return new Ladder("one", List.of(rung));
  }

  Optional<Choice> route() {
    return Router.route(order, ladder(), policy, situation()).choice();
  }

  /** One to three rungs: in time from one node, then what costs more. */
  static List<Rung> rungs(Random random) {
    List<Rung> rungs = new ArrayList<>();
    rungs.add(new Rung("one", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID));
    if (random.nextBoolean()) {
      rungs.add(new Rung("two", NodeFilter.ALL, 2, Cover.WHOLE, Late.ALLOW));
    }
    if (random.nextBoolean()) {
      rungs.add(new Rung("any", NodeFilter.ALL, 2, Cover.MOST, Late.ALLOW));
    }
    return rungs;
  }

  /** A case with so many nodes, called N0, N1, … */
  static RandomCase of(Random random, int nodeCount) {
    List<Node> nodes = new ArrayList<>();
    List<Lane> lanes = new ArrayList<>();
    List<Offer> offers = new ArrayList<>();
    Map<String, Integer> places = new HashMap<>();
    for (int n = 0; n < nodeCount; n++) {
      String code = "N" + n;
      nodes.add(node(code, random));
      if (random.nextInt(12) == 0) {
        places.put(code, 0);
      }
      for (int l = random.nextInt(12) == 0 ? 0 : 1 + random.nextInt(2); l > 0; l--) {
        lanes.add(lane(code, l, random));
      }
      for (Item item : ITEMS) {
        if (random.nextInt(4) > 0) {
          offers.add(offer(code, item, random));
        }
      }
    }
    Policy policy = new Policy(random.nextInt(3) * 150L, 250, 1 + random.nextInt(5000), 2000, 5000);
    Rung rung =
        new Rung(
            "rung",
            NodeFilter.ALL,
            random.nextInt(6) == 0 ? 1 : 2 + random.nextInt(2),
            random.nextInt(4) == 0 ? Cover.MOST : Cover.WHOLE,
            random.nextInt(3) > 0 ? Late.ALLOW : Late.FORBID);
    return new RandomCase(
        order(random), rung, policy, new Network(nodes, lanes, ZONES), places, offers);
  }

  /** An order of several parcels, which no node is likely to have; three nodes. */
  static RandomCase heavy(Random random) {
    RandomCase usual = of(random, 3);
    List<Offer> offers = new ArrayList<>();
    List<OrderDemand.Line> lines = new ArrayList<>();
    boolean bundled = random.nextInt(4) == 0;
    for (int l = 0; l < 4; l++) {
      Item item =
          new Item("H" + l, 400 + random.nextInt(2_500), random.nextInt(9_000), null, Set.of());
      lines.add(
          new OrderDemand.Line(
              "L" + l,
              item,
              2 + random.nextInt(3),
              random.nextInt(8) > 0,
              bundled && l < 2 ? "kit" : null));
      for (Node node : usual.network().nodes()) {
        offers.add(
            new Offer(node.code(), item.sku(), random.nextInt(5), 40L * random.nextInt(3), 0));
      }
    }
    OrderDemand order =
        new OrderDemand(
            "H",
            usual.order().to(),
            ServiceLevel.STANDARD,
            usual.order().arriveBy(),
            null,
            OrderDemand.From.ANYWHERE,
            lines);
    return new RandomCase(
        order,
        new Rung("rung", NodeFilter.ALL, 3, usual.rung().cover(), Late.ALLOW),
        usual.policy(),
        usual.network(),
        usual.places(),
        offers);
  }

  private static Node node(String code, Random random) {
    return new Node(
        code,
        NodeKind.WAREHOUSE,
        "NL",
        ZoneId.of("Europe/Amsterdam"),
        WorkCalendar.parse("MON-FRI", Set.of()),
        LocalTime.of(15, 0),
        random.nextInt(2),
        new Handling(50L * random.nextInt(4), 10L * random.nextInt(3), 5L * random.nextInt(3)),
        random.nextInt(3) > 0 ? Set.of("HX") : Set.of());
  }

  static Lane lane(String node, int number, Random random) {
    long first = 100 + 50L * random.nextInt(6);
    long second = first + 50L * random.nextInt(5);
    // now and then a heavier step is the cheaper
    long third = random.nextInt(6) == 0 ? first : second + 50L * random.nextInt(5);
    return new Lane(
        node,
        "ALL",
        "HERON",
        "S" + number,
        ServiceLevel.STANDARD,
        WorkCalendar.parse("MON-SAT", Set.of()),
        random.nextInt(4),
        new RateTable(
            List.of(
                new RateTable.Step(600, first),
                new RateTable.Step(3_000, second),
                new RateTable.Step(7_000, third))),
        random.nextInt(3) > 0 ? Set.of("HX") : Set.of());
  }

  private static Offer offer(String node, Item item, Random random) {
    long available = 1 + random.nextInt(3);
    List<Situation.Perishable> perishable =
        random.nextInt(5) == 0
            ? List.of(
                new Situation.Perishable(TODAY.plusDays(random.nextInt(4)), random.nextInt(3)),
                new Situation.Perishable(null, random.nextInt(3)))
            : List.of();
    return new Offer(
        node, item.sku(), available, 40L * random.nextInt(3), 30L * random.nextInt(3), perishable);
  }

  private static OrderDemand order(Random random) {
    List<OrderDemand.Line> lines = new ArrayList<>();
    int count = 1 + random.nextInt(3);
    boolean bundled = random.nextInt(4) == 0;
    for (int l = 0; l < count; l++) {
      Item item = ITEMS.get(random.nextInt(random.nextInt(20) == 0 ? 4 : 3));
      lines.add(
          new OrderDemand.Line(
              "L" + l,
              item,
              1 + random.nextInt(4),
              random.nextInt(4) > 0,
              bundled && l < 2 ? "kit" : null));
    }
    return new OrderDemand(
        "R",
        new Destination("NL", "1012AB"),
        ServiceLevel.STANDARD,
        random.nextBoolean() ? null : TODAY.plusDays(random.nextInt(5)),
        random.nextInt(8) == 0 ? 1 + random.nextInt(2) : null,
        OrderDemand.From.ANYWHERE,
        lines);
  }
}
