package dev.ordinator.core.feed;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.feed.FeedGuard.Line;
import dev.ordinator.core.feed.FeedRule.Basis;
import dev.ordinator.core.feed.FeedRule.SoldOut;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class FeedTest {
  private static final FeedGuard GUARD = new FeedGuard(20, 50);

  @Test
  void aListingOffersItsShareOfWhatIsLeftAfterTheBuffer() {
    FeedRule rule = new FeedRule(Basis.AVAILABLE, 0, 10, 50, null, SoldOut.STOP, 0, true);
    assertThat(rule.quantity(31, 99, 0, 0, 1)).isEqualTo(10);
    assertThat(rule.quantity(9, 99, 0, 0, 1)).isZero();
    assertThat(FeedRule.PLAIN.quantity(25, 99, 0, 0, 12)).as("cases of twelve").isEqualTo(2);
    assertThat(
            new FeedRule(Basis.ON_HAND, 0, 0, 100, 5L, SoldOut.STOP, 0, true)
                .quantity(0, 99, 0, 0, 1))
        .as("capped")
        .isEqualTo(5);
  }

  @Test
  void whatIsExpectedInTimeMayBeOfferedToo() {
    FeedRule rule = new FeedRule(Basis.ATP, 14, 5, 100, null, SoldOut.STOP, 0, true);
    assertThat(rule.quantity(10, 10, 40, 3, 1)).isEqualTo(35);
    FeedRule beyond = new FeedRule(Basis.ATP, 14, 0, 100, null, SoldOut.OVERSELL, 5, true);
    assertThat(beyond.quantity(10, 10, 40, 3, 1))
        .as("what is waited for is taken off once")
        .isEqualTo(45);
  }

  @Test
  void oversellingGoesDownToItsFloorAndNoFurther() {
    FeedRule rule = new FeedRule(Basis.AVAILABLE, 0, 0, 100, null, SoldOut.OVERSELL, 5, true);
    assertThat(rule.quantity(3, 3, 0, 0, 1)).isEqualTo(8);
    assertThat(rule.quantity(0, 0, 0, 2, 1)).as("two wait already").isEqualTo(3);
    assertThat(rule.quantity(0, 0, 0, 7, 1)).isZero();
  }

  @Test
  void whatIsNotOfferedStaysAtNothingWhateverIsThere() {
    FeedRule rule = new FeedRule(Basis.ON_HAND, 0, 0, 100, null, SoldOut.OVERSELL, 9, false);
    assertThat(rule.quantity(50, 50, 50, 0, 1)).isZero();
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void noRuleOffersMoreThanThereIsUnlessItMayOversell(long seed) {
    Random random = new Random(seed);
    FeedRule rule =
        new FeedRule(
            Basis.AVAILABLE,
            0,
            random.nextInt(20),
            random.nextInt(101),
            random.nextBoolean() ? (long) random.nextInt(50) : null,
            random.nextBoolean() ? SoldOut.STOP : SoldOut.WAITING_LIST,
            random.nextInt(10),
            random.nextInt(8) > 0);
    long available = random.nextInt(100);
    long each = 1 + random.nextInt(12);
    long quantity = rule.quantity(available, 1_000, 0, random.nextInt(10), each);
    assertThat(quantity * each).as("seed %d, %s", seed, rule).isBetween(0L, available);
    assertThat(rule.quantity(available + 1, 1_000, 0, 0, each))
        .as("more stock never offers less; seed %d, %s", seed, rule)
        .isGreaterThanOrEqualTo(quantity);
  }

  @Test
  void theFirstPushEverIsHeld() {
    assertThat(GUARD.reasonsToHold(List.of(line(null, 5), line(null, 0))))
        .containsExactly("it is the first push to this channel");
    assertThat(GUARD.reasonsToHold(List.of())).isEmpty();
  }

  @Test
  void aPushThatZeroesTooManyLiveListingsIsHeld() {
    List<Line> lines = new ArrayList<>(IntStream.range(0, 10).mapToObj(i -> line(9L, 9)).toList());
    lines.set(0, line(9L, 0));
    lines.set(1, line(9L, 0));
    assertThat(GUARD.reasonsToHold(lines)).as("two of ten are 20 %%").isEmpty();
    lines.set(2, line(9L, 0));
    assertThat(GUARD.reasonsToHold(lines))
        .containsExactly("it would bring 3 of 10 live listings to zero; at most 20 % may be");
  }

  @Test
  void aPushThatDropsTheSumTooFarIsHeldAndNewListingsDontHideIt() {
    assertThat(GUARD.reasonsToHold(List.of(line(100L, 50), line(null, 500)))).isEmpty();
    assertThat(GUARD.reasonsToHold(List.of(line(100L, 49), line(null, 500))))
        .containsExactly(
            "the sum of all quantities would fall from 100 to 49; at most 50 % may be lost");
  }

  @Test
  void listingsThatWereSoldOutBeforeAreNoReason() {
    assertThat(GUARD.reasonsToHold(List.of(line(0L, 0), line(0L, 0), line(9L, 9)))).isEmpty();
  }

  private static IntStream seeds() {
    return IntStream.range(0, 300);
  }

  private static Line line(@Nullable Long before, long after) {
    return new Line("L", before, after);
  }
}
