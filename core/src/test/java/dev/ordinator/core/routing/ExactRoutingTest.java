package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.PlainSolver.Answer;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation.Offer;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the router finds, against every way there is. */
class ExactRoutingTest {
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void noWayIsCheaperThanTheRoutersAndNoneComesBeforeItByTheTies(long seed) {
    Random random = new Random(seed);
    int several = 0;
    int part = 0;
    for (int round = 0; round < 400; round++) {
      RandomCase problem = RandomCase.of(random, 2 + random.nextInt(3));
      Optional<Choice> choice = best(problem, "seed %d, round %d".formatted(seed, round));
      several += choice.filter(c -> c.plan().consignments().size() > 1).isPresent() ? 1 : 0;
      part += choice.filter(c -> !c.plan().unfilled().isEmpty()).isPresent() ? 1 : 0;
    }
    // the cases are worth the name
    assertThat(several).isGreaterThan(20);
    assertThat(part).isGreaterThan(20);
  }

  @ParameterizedTest
  @ValueSource(longs = {21, 22, 23})
  void noWayToShareAHeavyOrderOfManyUnitsIsCheaperThanTheRouters(long seed) {
    Random random = new Random(seed);
    int several = 0;
    for (int round = 0; round < 20; round++) {
      RandomCase problem = RandomCase.heavy(random);
      Optional<Choice> choice = best(problem, "seed %d, round %d".formatted(seed, round));
      several += choice.filter(c -> c.plan().consignments().size() > 1).isPresent() ? 1 : 0;
    }
    assertThat(several).isGreaterThan(5);
  }

  /** What the router chooses, which is the best of all ways. */
  private static Optional<Choice> best(RandomCase problem, String which) {
    Optional<Answer> best =
        PlainSolver.best(problem.order(), problem.rung(), problem.policy(), problem.situation());
    Optional<Choice> choice = problem.route();
    assertThat(choice.map(Choice::proven).orElse(true)).as(which + ": " + problem).isTrue();
    assertThat(choice.map(c -> Answer.of(c.plan(), problem.network())))
        .as(which + ": " + problem)
        .isEqualTo(best);
    return choice;
  }

  @ParameterizedTest
  @ValueSource(longs = {5, 6})
  void moreStockOrPlacesOrNodesNeverMakeTheBestPlanDearer(long seed) {
    Random random = new Random(seed);
    for (int round = 0; round < 500; round++) {
      RandomCase problem = RandomCase.of(random, 3);
      Optional<Choice> choice = problem.route();
      if (choice.isEmpty() || problem.rung().cover() == Cover.MOST) {
        // where more can be filled, filling it may well cost more
        continue;
      }
      List<Offer> more =
          problem.offers().stream()
              .map(o ->
                  new Offer(
                      o.node(),
                      o.sku(),
                      o.available() + random.nextInt(3),
                      o.purchasePrice(),
                      o.clearanceCredit()))
              .toList();
      RandomCase richer =
          new RandomCase(
              problem.order(), problem.rung(), problem.policy(), problem.network(), Map.of(), more);
      assertThat(richer.route().orElseThrow().plan().cost())
          .as("seed %d, round %d", seed, round)
          .isLessThanOrEqualTo(choice.get().plan().cost());
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {7, 8})
  void listingTheNodesInAnotherOrderChangesNothingButTies(long seed) {
    Random random = new Random(seed);
    for (int round = 0; round < 500; round++) {
      RandomCase problem = RandomCase.of(random, 4);
      List<Node> shuffled = new ArrayList<>(problem.network().nodes());
      Collections.shuffle(shuffled, random);
      RandomCase relisted =
          new RandomCase(
              problem.order(),
              problem.rung(),
              problem.policy(),
              new Network(shuffled, lanes(problem.network()), RandomCase.ZONES),
              problem.places(),
              problem.offers());
      assertThat(relisted.route().map(c -> c.plan().cost()))
          .as("seed %d, round %d", seed, round)
          .isEqualTo(problem.route().map(c -> c.plan().cost()));
    }
  }

  private static List<Lane> lanes(Network network) {
    return network.nodes().stream()
        .flatMap(node -> network.lanes(node, new Destination("NL", "")).stream())
        .toList();
  }

  /** Sixty nodes of which none has much, and forty lines: more ways than anybody can try. */
  @Test
  void aSearchThatWouldNeverEndIsGivenUpWithAPlanThatIsNotProven() {
    Random random = new Random(11);
    List<Node> nodes = new ArrayList<>();
    List<Lane> lanes = new ArrayList<>();
    List<Offer> offers = new ArrayList<>();
    List<OrderDemand.Line> lines = new ArrayList<>();
    for (int l = 0; l < 40; l++) {
      lines.add(
          new OrderDemand.Line("L" + l, new Item("SKU" + l, 700 + 97 * l, 900, null, Set.of()), 3));
    }
    for (int n = 0; n < 60; n++) {
      RandomCase one = RandomCase.of(random, 1);
      Node node = one.network().nodes().getFirst();
      nodes.add(
          new Node(
              "M" + n,
              node.kind(),
              "NL",
              node.timeZone(),
              node.calendar(),
              node.cutOff(),
              0,
              node.handling(),
              Set.of()));
      lanes.add(RandomCase.lane("M" + n, 1, random));
      lines.forEach(line -> {
        if (random.nextInt(4) == 0) {
          offers.add(new Offer(nodes.getLast().code(), line.item().sku(), 3, 0, 0));
        }
      });
    }
    OrderDemand order =
        new OrderDemand(
            "big",
            new Destination("NL", ""),
            ServiceLevel.STANDARD,
            null,
            null,
            OrderDemand.From.ANYWHERE,
            lines);
    Rung rung = new Rung("any", NodeFilter.ALL, 12, Cover.WHOLE, Late.ALLOW);
    Choice choice =
        new RandomCase(
                order,
                rung,
                new Policy(300, 250, 5_000, 2_000, 5_000),
                new Network(nodes, lanes, RandomCase.ZONES),
                Map.of(),
                offers)
            .route()
            .orElseThrow();
    assertThat(choice.proven()).isFalse();
    assertThat(choice.plan().unfilled()).isEmpty();
    assertThat(
            choice.plan().consignments().stream()
                .flatMap(c -> c.lines().stream())
                .mapToLong(PlannedConsignment.Line::quantity)
                .sum())
        .isEqualTo(120);
  }
}
