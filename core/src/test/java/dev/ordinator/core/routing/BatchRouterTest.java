package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
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
        orders.add(new BatchRouter.Order(RandomCase.of(random, 4).order(), 1 + random.nextInt(2)));
      }
      BatchRouter.Result result =
          BatchRouter.route(orders, shared.ladder(), shared.policy(), shared.situation());
      assertThat(result.bound()).isLessThanOrEqualTo(result.total());
      assertThat(result.gap()).isGreaterThanOrEqualTo(0);
      for (Map.Entry<String, Long> given : given(orders, result.choices()).entrySet()) {
        String[] place = given.getKey().split(" ", -1);
        assertThat(given.getValue())
            .as("round %d: %s", round, given.getKey())
            .isLessThanOrEqualTo(shared.situation().offer(place[0], place[1]).available());
      }
      assertThat(BatchRouter.route(orders, shared.ladder(), shared.policy(), shared.situation()))
          .as("the same again")
          .isEqualTo(result);
    }
  }

  /** Units by node and SKU. */
  private static Map<String, Long> given(
      List<BatchRouter.Order> orders, List<Optional<Choice>> choices) {
    Map<String, Long> given = new HashMap<>();
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
                              given.merge(
                                  sent.node() + " " + sku(lines, line.id()),
                                  line.quantity(),
                                  Long::sum))));
    }
    return given;
  }

  private static String sku(List<OrderDemand.Line> lines, String id) {
    return lines.stream().filter(l -> l.id().equals(id)).findFirst().orElseThrow().item().sku();
  }
}
