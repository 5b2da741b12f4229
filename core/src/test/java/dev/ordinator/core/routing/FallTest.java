package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Router.Offered;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** What a change of charges can make cheaper at most. */
class FallTest {
  @Test
  void noPlanIsChargedLessThanBeforeByMore() {
    Random random = new Random(23);
    int fell = 0;
    for (int round = 0; round < 300; round++) {
      RandomCase some = RandomCase.of(random, 4);
      List<Rung> rungs = RandomCase.rungs(random);
      Shelves shelves = new Shelves(some.situation(), List.of(some.order()));
      OrderOptions order =
          new OrderOptions(
              new BatchRouter.Order(some.order(), new Ladder("random", rungs), 1),
              some.policy(),
              some.situation(),
              shelves);
      Charges before = charges(shelves, random);
      Charges now = charges(shelves, random);
      long fall = new Fall(shelves, before, now).of(some.order(), 3);
      for (Offered offered :
          order
              .router()
              .every(rungs, Worth.NOTHING, 1_000_000, 500, new Effort(100_000))
              .offered()) {
        OrderOptions.Option option = order.all().get(order.add(offered.choice()));
        assertThat(now.charged(option))
            .as("round %d: %s", round, offered)
            .isGreaterThanOrEqualTo(before.charged(option) - fall);
        fell += now.charged(option) < before.charged(option) ? 1 : 0;
      }
    }
    assertThat(fell).as("plans that became cheaper").isGreaterThan(1_000);
  }

  private static Charges charges(Shelves shelves, Random random) {
    return new Charges(
        shelves,
        LongStream.generate(() -> random.nextBoolean() ? 0 : random.nextInt(500))
            .limit(shelves.size())
            .toArray());
  }
}
