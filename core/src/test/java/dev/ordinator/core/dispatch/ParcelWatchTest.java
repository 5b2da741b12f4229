package dev.ordinator.core.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class ParcelWatchTest {
  private static final Instant LEFT = Instant.parse("2026-12-04T16:00:00Z");
  private static final Duration SHORTEST = Duration.ofSeconds(10);

  @Test
  void theLongerThereIsNoNewsTheSeldomerTheCarrierIsAsked() {
    assertThat(pauseAfter(Duration.ofSeconds(30))).isEqualTo(SHORTEST);
    assertThat(pauseAfter(Duration.ofHours(1))).isEqualTo(Duration.ofMinutes(3));
    assertThat(pauseAfter(Duration.ofDays(1))).isEqualTo(Duration.ofMinutes(72));
    assertThat(pauseAfter(Duration.ofDays(20))).as("but four times a day").hasHours(6);
    assertThat(ParcelWatch.pause(SHORTEST, LEFT, LEFT.minusSeconds(5)))
        .as("news from a clock that is ahead")
        .isEqualTo(SHORTEST);
  }

  @Test
  void aWeekendWithoutNewsIsNoSilenceAndFourDaysAre() {
    assertThat(ParcelWatch.isSilent(LEFT, Instant.parse("2026-12-07T09:00:00Z"))).isFalse();
    assertThat(ParcelWatch.isSilent(LEFT, Instant.parse("2026-12-08T16:00:00Z"))).isTrue();
  }

  @Test
  void afterThirtyDaysItIsNotAskedAboutAnyMore() {
    assertThat(ParcelWatch.isGivenUp(LEFT, LEFT.plus(Duration.ofDays(29)))).isFalse();
    assertThat(ParcelWatch.isGivenUp(LEFT, LEFT.plus(Duration.ofDays(30)))).isTrue();
  }

  private static Duration pauseAfter(Duration quiet) {
    return ParcelWatch.pause(SHORTEST, LEFT, LEFT.plus(quiet));
  }
}
