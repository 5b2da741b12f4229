package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Offered;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** What is listed of a small order, up to what matters, says the same as all its plans would. */
class ListingTest {
  private static final long ANY = Long.MAX_VALUE / 4;

  /** What a unit is charged at most, pass by pass. */
  private static final int[] RISING_AND_FALLING = {1, 10, 100, 1_000, 10_000, 300, 3_000, 30};

  /** An order with all that it could share. */
  private record Asked(RandomCase order, List<Rung> rungs, Shelves shelves) {
    static Asked at(Random random) {
      RandomCase order = RandomCase.of(random, 4);
      return new Asked(
          order, RandomCase.rungs(random), new Shelves(order.situation(), List.of(order.order())));
    }

    OrderOptions options() {
      return new OrderOptions(
          new BatchRouter.Order(order.order(), new Ladder("random", rungs), 1),
          order.policy(),
          order.situation(),
          shelves);
    }

    Router router() {
      return new Router(order.order(), order.policy(), order.situation());
    }

    /** What is charged least of all its plans, and of leaving it out. */
    long least(Charges charges, OrderOptions options) {
      long least = options.unfilled().value();
      for (Offered offered :
          router().every(rungs, Worth.NOTHING, least, 100_000, new Effort(ANY)).offered()) {
        Takes takes = shelves.takes(offered.choice().plan(), order.order());
        Option option = new Option(Optional::empty, offered.charged(), takes);
        least = Math.min(least, charges.charged(option));
      }
      return least;
    }
  }

  @Test
  void withAnyChargesTheBestIsTheBestOfAllPlans() {
    Random random = new Random(29);
    int listed = 0;
    for (int round = 0; round < 500; round++) {
      Asked asked = Asked.at(random);
      OrderOptions options = asked.options();
      listed += options.isListed() ? 1 : 0;
      for (int most : options.isListed() ? RISING_AND_FALLING : new int[0]) {
        Charges charges = charges(asked.shelves(), random, most);
        long least = asked.least(charges, options);
        assertThat(options.near(charges, 0, 1)).as("round %d, %d", round, most).isEqualTo(least);
        assertThat(options.least(charges)).as("it is an option now").isEqualTo(least);
      }
    }
    assertThat(listed).as("orders that are small").isGreaterThan(300);
  }

  @Test
  void ofWhatIsLeftTheBestIsWhatASearchFinds() {
    Random random = new Random(31);
    int listed = 0;
    for (int round = 0; round < 500; round++) {
      Asked asked = Asked.at(random);
      OrderOptions options = asked.options();
      if (!options.isListed()) {
        continue;
      }
      for (int most = random.nextInt(2_000); most > 1; most /= 10) {
        options.near(charges(asked.shelves(), random, most), 100, 10);
      }
      long[] taken = asked.shelves().have();
      for (int number = 0; number < taken.length; number++) {
        taken[number] = random.nextLong(taken[number] + 1);
      }
      Option best = options.cheapest(n -> asked.shelves().have(n) - taken[n], options.unfilled());
      Situation left = asked.shelves().left(asked.order().order(), n -> taken[n]);
      long found =
          asked
              .router()
              .on(left)
              .cheapest(asked.rungs(), Worth.NOTHING, options.unfilled().value())
              .map(Offered::charged)
              .orElse(options.unfilled().value());
      assertThat(best.value()).isEqualTo(found);
      for (long take : best.takes().each()) {
        int number = Takes.what(take);
        assertThat(Takes.units(take))
            .isLessThanOrEqualTo(asked.shelves().have(number) - taken[number]);
      }
      listed++;
    }
    assertThat(listed).as("orders that are small").isGreaterThan(300);
  }

  @Test
  void thePlanOfARowIsAsDearAndTakesAsMuchAsTheRowSays() {
    Random random = new Random(37);
    for (int round = 0; round < 200; round++) {
      Asked asked = Asked.at(random);
      OrderOptions options = asked.options();
      if (options.isListed()) {
        options.near(charges(asked.shelves(), random, 100), 100_000, 200);
      }
      for (Option option : options.all()) {
        option
            .choice()
            .ifPresent(choice -> {
              Takes takes = asked.shelves().takes(choice.plan(), asked.order().order());
              assertThat(option.takes().same(takes)).isTrue();
              assertThat(option.value())
                  .isEqualTo(
                      choice.plan().cost() + asked.order().policy().rungStep() * choice.rung());
            });
      }
    }
  }

  private static Charges charges(Shelves shelves, Random random, int most) {
    return new Charges(
        shelves,
        LongStream.generate(() -> random.nextBoolean() ? 0 : random.nextInt(most))
            .limit(shelves.size())
            .toArray());
  }
}
