package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

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
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.PlannedConsignment.Cost;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.core.routing.Situation.Perishable;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class RouterTest {
  private static final Instant TUESDAY_MORNING = Instant.parse("2026-11-24T08:00:00Z");
  private static final Policy POLICY = new Policy(300, 250, 5000, 2000, 5000);
  private static final Item BOX = new Item("BOX-10", 4200, 21000, null, Set.of());
  private static final Item ACID = new Item("ACID", 500, 500, "HX", Set.of("FR"));
  private static final Ladder LADDER =
      new Ladder(
          "Everyday",
          List.of(
              new Rung(
                  "Same country, in time",
                  new NodeFilter(null, null, true),
                  1,
                  Cover.WHOLE,
                  Late.FORBID),
              new Rung("Anywhere", NodeFilter.ALL, 1, Cover.WHOLE, Late.ALLOW)));

  private static Node node(String code, String country, String... hazards) {
    return new Node(
        code,
        NodeKind.WAREHOUSE,
        country,
        ZoneId.of("Europe/Amsterdam"),
        WorkCalendar.parse("MON-FRI", Set.of()),
        LocalTime.of(15, 0),
        0,
        new Handling(150, 20, 5),
        Set.of(hazards));
  }

  private static Lane lane(String node, String service, ServiceLevel level, int days, long price) {
    return new Lane(
        node,
        "EU",
        "HERON",
        service,
        level,
        WorkCalendar.parse("MON-SAT", Set.of()),
        days,
        new RateTable(
            List.of(new RateTable.Step(2000, price), new RateTable.Step(30000, 2 * price))),
        Set.of());
  }

  private static final Network NETWORK =
      new Network(
          List.of(node("STW", "NL", "HX"), node("CAN", "NL"), node("BER", "DE")),
          List.of(
              lane("STW", "STD", ServiceLevel.STANDARD, 2, 400),
              lane("STW", "EXP", ServiceLevel.EXPRESS, 1, 900),
              lane("CAN", "STD", ServiceLevel.STANDARD, 2, 380),
              lane("BER", "STD", ServiceLevel.STANDARD, 3, 100)),
          List.of(
              new Zone(
                  "EU",
                  List.of(
                      new Zone.Match("NL", List.of()),
                      new Zone.Match("DE", List.of()),
                      new Zone.Match("FR", List.of())))));

  private static Situation stock(Offer... offers) {
    return new Situation(TUESDAY_MORNING, NETWORK, Map.of(), List.of(offers));
  }

  private static Offer offer(String node, String sku, long available) {
    return new Offer(node, sku, available, 0, 0);
  }

  private static OrderDemand order(
      String country, @Nullable String arriveBy, OrderDemand.Line... lines) {
    return new OrderDemand(
        "W-1001",
        new Destination(country, "1012AB"),
        ServiceLevel.STANDARD,
        arriveBy == null ? null : LocalDate.parse(arriveBy),
        null,
        OrderDemand.From.ANYWHERE,
        List.of(lines));
  }

  /** One box to Amsterdam, from fewer nodes than there are. */
  private static OrderDemand limited(
      Set<String> serving, @Nullable String pickUp, Set<String> excluded, String... refusedBy) {
    return new OrderDemand(
        "W-2",
        new Destination("NL", ""),
        ServiceLevel.STANDARD,
        null,
        null,
        new OrderDemand.From(serving, pickUp, excluded, Set.of(), Set.of(refusedBy)),
        List.of(line(BOX, 1)));
  }

  private static OrderDemand.Line line(Item item, long quantity) {
    return new OrderDemand.Line(item.sku() + quantity, item, quantity);
  }

  private static List<RuledOut> ruledOut(RoutingDecision decision, String node) {
    return decision.grounds().considered().stream()
        .filter(c -> c.node().equals(node))
        .map(Candidate::finding)
        .flatMap(f -> f instanceof Finding.Out out ? java.util.stream.Stream.of(out.why()) : null)
        .toList();
  }

  @Test
  void theCheapestNodeOfTheFirstRungThatCanWinsAndTheRunnerUpIsKept() {
    RoutingDecision decision =
        Router.route(
            order("NL", "2026-11-27", line(BOX, 2)),
            LADDER,
            POLICY,
            stock(offer("STW", "BOX-10", 5), offer("CAN", "BOX-10", 5), offer("BER", "BOX-10", 5)));
    RoutingDecision.Choice choice = decision.choice().orElseThrow();
    assertThat(choice.rung()).isZero();
    PlannedConsignment best = choice.plan().consignments().getFirst();
    assertThat(best.node()).isEqualTo("CAN");
    // 2 × 21 l ÷ 5000 = 8.4 kg, the weight as well: second step, 2 × 380; handling 150 + 20 + 2 × 5
    assertThat(best.billable()).isEqualTo(8400);
    assertThat(best.cost()).isEqualTo(new Cost(760, 180, 0, 0, 0));
    assertThat(choice.plan().cost()).isEqualTo(940);
    assertThat(best.handOver()).isEqualTo("2026-11-24");
    assertThat(best.arrival()).isEqualTo("2026-11-26");
    assertThat(best.shipBy()).as("arrives Friday at the latest").isEqualTo("2026-11-25");
    assertThat(decision.grounds().runnerUp())
        .map(second -> second.consignments().getFirst().node())
        .contains("STW");
    assertThat(ruledOut(decision, "BER")).containsExactly(RuledOut.NOT_ON_RUNG);
  }

  @Test
  void theNextRungIsTriedWhenNoNodeOfTheFirstCan() {
    RoutingDecision decision =
        Router.route(
            order("NL", null, line(BOX, 2)), LADDER, POLICY, stock(offer("BER", "BOX-10", 2)));
    assertThat(decision.choice().orElseThrow().rung()).isEqualTo(1);
    assertThat(ruledOut(decision, "STW")).containsExactly(RuledOut.NO_STOCK, RuledOut.NO_STOCK);
  }

  @Test
  void twoLinesOfOneItemMustFitTogether() {
    RoutingDecision decision =
        Router.route(
            order("NL", null, line(BOX, 2), line(BOX, 3)),
            LADDER,
            POLICY,
            stock(offer("STW", "BOX-10", 4), offer("CAN", "BOX-10", 5)));
    assertThat(ruledOut(decision, "STW")).containsExactly(RuledOut.NO_STOCK);
    assertThat(decision.choice().orElseThrow().plan().consignments().getFirst().node())
        .isEqualTo("CAN");
  }

  @Test
  void aTightDateBuysTheFasterServiceAndAnImpossibleOneCostsLateness() {
    Situation stock = stock(offer("STW", "BOX-10", 9));
    PlannedConsignment tight =
        Router.route(order("NL", "2026-11-25", line(BOX, 1)), LADDER, POLICY, stock)
            .choice()
            .orElseThrow()
            .plan()
            .consignments()
            .getFirst();
    assertThat(tight.service()).isEqualTo("EXP");
    RoutingDecision late =
        Router.route(order("NL", "2026-11-24", line(BOX, 1)), LADDER, POLICY, stock);
    assertThat(ruledOut(late, "STW")).containsExactly(RuledOut.TOO_LATE);
    PlannedConsignment chosen = late.choice().orElseThrow().plan().consignments().getFirst();
    assertThat(chosen.service()).as("2 days late by STD: 800 + 500 < 1800 + 250").isEqualTo("STD");
    assertThat(chosen.cost().lateness()).isEqualTo(500);
  }

  @Test
  void whatWouldNotLastGoesByAFasterServiceOrFromElsewhere() {
    LocalDate tomorrow = LocalDate.parse("2026-11-25");
    Offer fresh = perishable("STW", 3, tomorrow, 3);
    RoutingDecision faster =
        Router.route(order("NL", null, line(BOX, 3)), LADDER, POLICY, stock(fresh));
    assertThat(faster.choice().orElseThrow().plan().consignments().getFirst().service())
        .isEqualTo("EXP");
    RoutingDecision mixed =
        Router.route(
            order("NL", null, line(BOX, 3)),
            LADDER,
            POLICY,
            stock(
                new Offer(
                    "STW",
                    "BOX-10",
                    3,
                    0,
                    0,
                    List.of(new Perishable(null, 2), new Perishable(tomorrow.minusDays(1), 4)))));
    assertThat(ruledOut(mixed, "STW")).containsOnly(RuledOut.EXPIRES_TOO_SOON);
  }

  @Test
  void whereOthersTakeWhatLastsAnOrderGoesByAFasterService() {
    LocalDate tomorrow = LocalDate.parse("2026-11-25");
    Offer mixed =
        new Offer(
            "STW",
            "BOX-10",
            2,
            0,
            0,
            List.of(new Perishable(null, 1), new Perishable(tomorrow, 1)));
    BatchRouter.Order one = new BatchRouter.Order(order("NL", null, line(BOX, 1)), LADDER, 1);
    BatchRouter.Result both = BatchRouter.route(List.of(one, one), POLICY, stock(mixed));
    assertThat(both.choices())
        .map(choice -> choice.orElseThrow().plan().consignments().getFirst().service())
        .containsExactlyInAnyOrder("STD", "EXP");
    assertThat(both.gap()).as("it is proven that it can't be had for less").isZero();
  }

  private static Offer perishable(String node, long available, LocalDate last, long units) {
    return new Offer(node, "BOX-10", available, 0, 0, List.of(new Perishable(last, units)));
  }

  @Test
  void whatTheBuyerCollectsNeedsNoLaneAndCostsNoCarriage() {
    OrderDemand abroad =
        new OrderDemand(
            "W-3",
            new Destination("JP", ""),
            ServiceLevel.EXPRESS,
            null,
            null,
            new OrderDemand.From(Set.of(), "STW", Set.of(), Set.of(), Set.of()),
            List.of(line(BOX, 1)));
    Situation boxes = stock(offer("STW", "BOX-10", 1), offer("CAN", "BOX-10", 1));
    PlannedConsignment ready =
        Router.route(abroad, LADDER, POLICY, boxes)
            .choice()
            .orElseThrow()
            .plan()
            .consignments()
            .getFirst();
    assertThat(ready.node()).isEqualTo("STW");
    assertThat(ready.carrier()).isEqualTo(Lane.NO_CARRIER);
    assertThat(ready.cost().carriage()).isZero();
    assertThat(ready.arrival()).as("the day on which it is packed").isEqualTo(ready.handOver());
  }

  @Test
  void hazardsBansRulesAndCapacityRuleOut() {
    assertThat(
            ruledOut(
                Router.route(
                    order("NL", null, line(ACID, 1)),
                    LADDER,
                    POLICY,
                    stock(offer("CAN", "ACID", 1), offer("STW", "ACID", 1))),
                "CAN"))
        .contains(RuledOut.MAY_NOT_TRAVEL);
    assertThat(
            ruledOut(
                Router.route(
                    order("NL", null, line(ACID, 1)),
                    LADDER,
                    POLICY,
                    stock(offer("STW", "ACID", 1))),
                "STW"))
        .as("the node may, but no lane carries it")
        .containsOnly(RuledOut.NO_LANE);
    assertThat(
            ruledOut(
                Router.route(
                    order("FR", null, line(ACID, 1)),
                    LADDER,
                    POLICY,
                    stock(offer("STW", "ACID", 1))),
                "STW"))
        .contains(RuledOut.MAY_NOT_TRAVEL);
    Situation boxes = stock(offer("STW", "BOX-10", 1));
    assertThat(
            ruledOut(
                Router.route(limited(Set.of(), null, Set.of("STW")), LADDER, POLICY, boxes), "STW"))
        .containsOnly(RuledOut.EXCLUDED_BY_RULE);
    assertThat(
            ruledOut(
                Router.route(limited(Set.of(), null, Set.of(), "STW"), LADDER, POLICY, boxes),
                "STW"))
        .containsOnly(RuledOut.REFUSED);
    assertThat(
            ruledOut(
                Router.route(limited(Set.of("CAN"), null, Set.of()), LADDER, POLICY, boxes), "STW"))
        .containsOnly(RuledOut.NOT_SERVING);
    assertThat(
            ruledOut(
                Router.route(limited(Set.of(), "CAN", Set.of()), LADDER, POLICY, boxes), "STW"))
        .containsOnly(RuledOut.COLLECTED_ELSEWHERE);
    Situation full =
        new Situation(
            TUESDAY_MORNING, NETWORK, Map.of("STW", 0), List.of(offer("STW", "BOX-10", 1)));
    assertThat(ruledOut(Router.route(order("NL", null, line(BOX, 1)), LADDER, POLICY, full), "STW"))
        .containsOnly(RuledOut.AT_CAPACITY);
    assertThat(ruledOut(Router.route(order("JP", null, line(BOX, 1)), LADDER, POLICY, full), "STW"))
        .containsOnly(RuledOut.NOT_ON_RUNG, RuledOut.NO_LANE);
  }

  @Test
  void preferredNodesAreTakenWhereTheyCanSendAllOfItAndOnlyThere() {
    OrderDemand preferring =
        new OrderDemand(
            "W-3",
            new Destination("NL", ""),
            ServiceLevel.STANDARD,
            null,
            null,
            new OrderDemand.From(Set.of(), null, Set.of(), Set.of("STW"), Set.of()),
            List.of(line(BOX, 2)));
    assertThat(chosen(preferring, stock(offer("STW", "BOX-10", 2), offer("CAN", "BOX-10", 2))))
        .as("it is dearer")
        .isEqualTo("STW");
    assertThat(chosen(preferring, stock(offer("STW", "BOX-10", 1), offer("CAN", "BOX-10", 2))))
        .isEqualTo("CAN");
  }

  private static String chosen(OrderDemand order, Situation situation) {
    return Router.route(order, LADDER, POLICY, situation)
        .choice()
        .orElseThrow()
        .plan()
        .consignments()
        .getFirst()
        .node();
  }

  @Test
  void purchasePriceCountsAndClearanceCreditDraws() {
    RoutingDecision decision =
        Router.route(
            order("NL", null, line(BOX, 2)),
            LADDER,
            POLICY,
            stock(new Offer("CAN", "BOX-10", 2, 100, 0), new Offer("STW", "BOX-10", 2, 0, 60)));
    PlannedConsignment best = decision.choice().orElseThrow().plan().consignments().getFirst();
    assertThat(best.node()).isEqualTo("STW");
    assertThat(best.cost().clearance()).isEqualTo(120);
  }
}
