package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.Router.Offered;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.ToLongFunction;
import org.junit.jupiter.api.Test;

/** Orders that share stock and places. */
class BatchRouterTest {
  @Test
  void noStockIsGivenTwiceAndTheBoundHolds() {
    Random random = new Random(9);
    for (int round = 0; round < 60; round++) {
      RandomCase shared = RandomCase.of(random, 4);
      List<BatchRouter.Order> orders = new ArrayList<>();
      for (int o = 0; o < 6; o++) {
        orders.add(
            new BatchRouter.Order(
                RandomCase.of(random, 4).order(),
                random.nextBoolean() ? shared.ladder() : ladder(random),
                1 + random.nextInt(2)));
      }
      BatchRouter.Result result = BatchRouter.route(orders, shared.policy(), shared.situation());
      assertThat(result.bound()).isLessThanOrEqualTo(result.total());
      assertThat(result.gap()).isGreaterThanOrEqualTo(0);
      assertThatNothingIsGivenTwice(round, shared.situation(), given(orders, result.choices()));
      assertThat(BatchRouter.route(orders, shared.policy(), shared.situation()))
          .as("the same again")
          .isEqualTo(result);
    }
  }

  @Test
  void whatIsFoundWhenTimeIsUpIsGivenToAllAndTheBoundHolds() {
    Random random = new Random(17);
    for (int round = 0; round < 40; round++) {
      RandomCase shared = RandomCase.of(random, 4);
      Ladder ladder = ladder(random);
      List<BatchRouter.Order> orders = new ArrayList<>();
      while (orders.size() < 12) {
        orders.add(new BatchRouter.Order(RandomCase.of(random, 4).order(), ladder, 1));
      }
      Situation situation = stocked(shared, Map.of("N0", 4), o -> 1 + random.nextInt(6));
      AtomicInteger asks = new AtomicInteger(round % 8);
      BatchRouter.Result early =
          BatchRouter.route(orders, shared.policy(), situation, () -> asks.getAndDecrement() <= 0);
      long least = BatchRouter.route(orders, shared.policy(), situation).bound();
      assertThat(early.bound()).isLessThanOrEqualTo(early.total());
      assertThat(early.total()).as("round %d", round).isGreaterThanOrEqualTo(least);
      assertThatNothingIsGivenTwice(round, situation, given(orders, early.choices()));
    }
  }

  @Test
  void sixSmallOrdersComeToTheLeastThereIs() {
    Random random = new Random(11);
    int exact = 0;
    int rounds = 300;
    for (int round = 0; round < rounds; round++) {
      RandomCase shared = RandomCase.of(random, 3);
      Ladder ladder = ladder(random);
      List<OrderDemand> demands = new ArrayList<>();
      for (int o = 1 + random.nextInt(6); o > 0; o--) {
        demands.add(RandomCase.of(random, 3).order());
      }
      Situation situation = lasting(shared, random);
      BatchRouter.Result result =
          BatchRouter.route(
              demands.stream().map(d -> new BatchRouter.Order(d, ladder, 1)).toList(),
              shared.policy(),
              situation);
      long least = PlainBatch.least(demands, ladder, shared.policy(), situation);
      assertThat(result.bound()).as("bound of round %d", round).isLessThanOrEqualTo(least);
      assertThat(result.total()).as("total of round %d", round).isGreaterThanOrEqualTo(least);
      assertThat(result.total() - least)
          .as("round %d is at most 2 %% above the least", round)
          .isLessThanOrEqualTo(Math.abs(least) / 50);
      exact += result.total() == least ? 1 : 0;
    }
    assertThat(exact).as("of %d that are exact", rounds).isGreaterThanOrEqualTo(rounds * 95 / 100);
  }

  @Test
  void threeHundredOrdersComeWithinTwoPerCentOfAnIntegerProgramme() {
    Random random = new Random(13);
    for (int round = 0; round < 3; round++) {
      RandomCase shared = RandomCase.of(random, 4);
      Ladder ladder = ladder(random);
      List<OrderDemand> demands = new ArrayList<>();
      while (demands.size() < 300) {
        OrderDemand order = RandomCase.of(random, 4).order();
        if (order.lines().size() < 3) {
          demands.add(order);
        }
      }
      Situation situation = forMany(shared, random);
      BatchRouter.Result result =
          BatchRouter.route(
              demands.stream().map(d -> new BatchRouter.Order(d, ladder, 1)).toList(),
              shared.policy(),
              situation);
      var answer =
          ConstraintSolver.solve(
              demands.stream()
                  .map(d -> PlainBatch.ways(d, ladder, shared.policy(), situation))
                  .toList(),
              PlainBatch.there(demands, situation));
      assertThat((double) result.bound())
          .as("bound of round %d", round)
          .isLessThanOrEqualTo(answer.least() + 0.5);
      assertThat((double) result.total())
          .as("total of round %d, least found %.0f", round, answer.least())
          .isBetween(answer.bound() - 0.5, answer.least() + Math.abs(answer.least()) / 50);
    }
  }

  @Test
  void togetherTheyComeToNoMoreThanOneByOne() {
    Random random = new Random(29);
    int better = 0;
    for (int round = 0; round < 40; round++) {
      RandomCase shared = RandomCase.of(random, 4);
      Ladder ladder = ladder(random);
      List<OrderDemand> demands = new ArrayList<>();
      while (demands.size() < 40) {
        demands.add(RandomCase.of(random, 4).order());
      }
      Situation situation = stocked(shared, Map.of("N0", 12), o -> 1 + random.nextInt(20));
      long oneByOne = 0;
      Situation left = situation.copy();
      for (OrderDemand demand : demands) {
        oneByOne += serve(demand, ladder, shared.policy(), left);
      }
      BatchRouter.Result result =
          BatchRouter.route(
              demands.stream().map(d -> new BatchRouter.Order(d, ladder, 1)).toList(),
              shared.policy(),
              situation);
      assertThat(result.total()).as("round %d", round).isLessThanOrEqualTo(oneByOne);
      better += result.total() < oneByOne ? 1 : 0;
    }
    assertThat(better).as("rounds in which it helps").isGreaterThan(20);
  }

  /** What it comes to; what it takes is gone then. */
  private static long serve(OrderDemand demand, Ladder ladder, Policy policy, Situation left) {
    Map<String, String> skus = new HashMap<>();
    demand.lines().forEach(line -> skus.put(line.id(), line.item().sku()));
    long units = demand.lines().stream().mapToLong(OrderDemand.Line::quantity).sum();
    long unfilled =
        units * policy.unfilledPenaltyPerUnit() + policy.rungStep() * ladder.rungs().size();
    Optional<Offered> best =
        new Router(demand, policy, left).cheapest(ladder.rungs(), Worth.NOTHING, unfilled);
    best.ifPresent(
        found -> found.choice().plan().consignments().forEach(sent -> left.take(sent, skus)));
    return best.map(Offered::charged).orElse(unfilled);
  }

  /** Enough for about half of 300 orders. */
  private static Situation forMany(RandomCase shared, Random random) {
    Map<String, Integer> places = new HashMap<>();
    shared.network().nodes().forEach(node -> places.put(node.code(), 40 + random.nextInt(60)));
    return stocked(shared, places, o -> 10 + random.nextInt(60));
  }

  private static Situation stocked(
      RandomCase shared, Map<String, Integer> places, ToLongFunction<Situation.Offer> units) {
    return new Situation(
        shared.situation().now(),
        shared.network(),
        places,
        shared.offers().stream().map(o -> o.with(units.applyAsLong(o), List.of())).toList());
  }

  private static Ladder ladder(Random random) {
    return new Ladder("random", RandomCase.rungs(random));
  }

  /** Nothing perishes, and some nodes have few places. */
  private static Situation lasting(RandomCase shared, Random random) {
    Map<String, Integer> places = new HashMap<>();
    shared
        .network()
        .nodes()
        .forEach(node -> {
          if (random.nextInt(3) == 0) {
            places.put(node.code(), random.nextInt(3));
          }
        });
    return stocked(shared, places, o -> o.available() + random.nextInt(3));
  }

  /** Units of an item from a node, and the day on which they would arrive. */
  private record Given(String node, String sku, LocalDate arrival, long units) {}

  /** What arrives on a day or later needs some that lasts as long; so it is day by day. */
  private static void assertThatNothingIsGivenTwice(
      int round, Situation situation, List<Given> all) {
    for (Given given : all) {
      long units =
          all.stream()
              .filter(g -> g.node().equals(given.node()) && g.sku().equals(given.sku()))
              .filter(g -> !g.arrival().isBefore(given.arrival()))
              .mapToLong(Given::units)
              .sum();
      assertThat(units)
          .as("round %d: %s", round, given)
          .isLessThanOrEqualTo(
              situation.offer(given.node(), given.sku()).arrivingOn(given.arrival()));
    }
  }

  private static List<Given> given(List<BatchRouter.Order> orders, List<Optional<Choice>> choices) {
    List<Given> given = new ArrayList<>();
    for (int o = 0; o < orders.size(); o++) {
      List<OrderDemand.Line> lines = orders.get(o).demand().lines();
      choices
          .get(o)
          .ifPresent(choice ->
              choice
                  .plan()
                  .consignments()
                  .forEach(sent ->
                      sent.lines()
                          .forEach(line ->
                              given.add(
                                  new Given(
                                      sent.node(),
                                      sku(lines, line.id()),
                                      sent.arrival(),
                                      line.quantity())))));
    }
    return given;
  }

  private static String sku(List<OrderDemand.Line> lines, String id) {
    return lines.stream().filter(l -> l.id().equals(id)).findFirst().orElseThrow().item().sku();
  }
}
