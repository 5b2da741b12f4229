package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Router.Listed;
import dev.ordinator.core.routing.Router.Offered;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** All plans of an order, or the cheapest of them. */
class EveryPlanTest {
  private static final long ANY = Long.MAX_VALUE / 4;

  @Test
  void theFirstIsWhatIsCheapestOverAllRungs() {
    Random random = new Random(17);
    for (int round = 0; round < 400; round++) {
      RandomCase some = RandomCase.of(random, 4);
      List<Rung> rungs = RandomCase.rungs(random);
      Router router = new Router(some.order(), some.policy(), some.situation());
      Worth worth = worth(random.nextInt(1_000));
      Optional<Offered> cheapest = router.cheapest(rungs, worth, ANY);
      Listed all = router.every(rungs, worth, ANY, Integer.MAX_VALUE, new Effort(ANY));
      assertThat(all.offered().stream().map(Offered::charged).findFirst())
          .as("round %d", round)
          .isEqualTo(cheapest.map(Offered::charged));
      assertThat(all.offered())
          .as("round %d: on the first rung that allows it", round)
          .allSatisfy(offered ->
              assertThat(rungs.subList(0, offered.choice().rung()))
                  .noneMatch(rung -> allows(rung, some.order(), offered.choice().plan())));
    }
  }

  @Test
  void ofMoreThanAreWantedTheCheapestAreKept() {
    Random random = new Random(19);
    for (int round = 0; round < 400; round++) {
      RandomCase some = RandomCase.of(random, 4);
      List<Rung> rungs = RandomCase.rungs(random);
      Router router = new Router(some.order(), some.policy(), some.situation());
      Worth worth = worth(random.nextInt(1_000));
      Listed all = router.every(rungs, worth, ANY, Integer.MAX_VALUE, new Effort(ANY));
      Listed few = router.every(rungs, worth, ANY, 3, new Effort(ANY));
      assertThat(charged(few, few.upTo()))
          .as("round %d: all that comes to less than it says", round)
          .isEqualTo(charged(all, few.upTo()));
      assertThat(few.offered()).hasSizeGreaterThanOrEqualTo(Math.min(3, all.offered().size()));
    }
  }

  @Test
  void aSearchThatGivesUpClaimsNothing() {
    RandomCase some = RandomCase.of(new Random(3), 4);
    Router router = new Router(some.order(), some.policy(), some.situation());
    Listed listed =
        router.every(List.of(some.rung()), Worth.NOTHING, ANY, Integer.MAX_VALUE, new Effort(1));
    assertThat(listed.isComplete()).isFalse();
    assertThat(listed.offered()).isEmpty();
  }

  private static List<Long> charged(Listed listed, long below) {
    return listed.offered().stream().map(Offered::charged).filter(c -> c < below).toList();
  }

  private static boolean allows(Rung rung, OrderDemand order, Plan plan) {
    Integer own = order.maxConsignments();
    int most = own == null ? rung.maxConsignments() : Math.min(own, rung.maxConsignments());
    boolean inTime = order.arriveBy() == null || rung.late() == Ladder.Late.ALLOW;
    return inTime
        && plan.consignments().size() <= most
        && (plan.unfilled().isEmpty() || rung.cover() == Ladder.Cover.MOST);
  }

  /** Something for each item at each node, up to so much. */
  static Worth worth(int most) {
    return new Worth() {
      @Override
      public long unit(String node, String sku) {
        return Math.floorMod(Objects.hash(node, sku) * 31, most + 1);
      }

      @Override
      public long place(String node) {
        return Math.floorMod(node.hashCode() * 17, most + 1);
      }
    };
  }
}
