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

  /** An order whose plans are asked for, with what they take from others. */
  private record Asked(RandomCase order, List<Rung> rungs, Worth worth) {
    static Asked at(Random random) {
      return new Asked(
          RandomCase.of(random, 4), RandomCase.rungs(random), upTo(random.nextInt(1_000)));
    }

    Router router() {
      return new Router(order.order(), order.policy(), order.situation());
    }

    Listed listed(int most) {
      return router().every(rungs, worth, ANY, most, new Effort(ANY));
    }
  }

  @Test
  void theFirstIsWhatIsCheapestOverAllRungs() {
    Random random = new Random(17);
    for (int round = 0; round < 400; round++) {
      Asked asked = Asked.at(random);
      Optional<Offered> cheapest = asked.router().cheapest(asked.rungs(), asked.worth(), ANY);
      List<Offered> all = asked.listed(Integer.MAX_VALUE).offered();
      assertThat(all.stream().map(Offered::charged).findFirst())
          .as("round %d", round)
          .isEqualTo(cheapest.map(Offered::charged));
      assertThat(all)
          .as("round %d: on the first rung that allows it", round)
          .allSatisfy(offered ->
              assertThat(asked.rungs().subList(0, offered.choice().rung()))
                  .noneMatch(rung -> allows(rung, asked.order().order(), offered.choice().plan())));
    }
  }

  @Test
  void ofMoreThanAreWantedTheCheapestAreKept() {
    Random random = new Random(19);
    for (int round = 0; round < 400; round++) {
      Asked asked = Asked.at(random);
      Listed all = asked.listed(Integer.MAX_VALUE);
      Listed few = asked.listed(3);
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
  private static Worth upTo(int most) {
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
