package dev.ordinator.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

class MachineRateLimiterTest {
  private Instant now = Instant.parse("2026-12-02T12:00:00Z");
  private final MachineRateLimiter rate =
      new MachineRateLimiter(
          60,
          new Clock() {
            @Override
            public ZoneId getZone() {
              return ZoneOffset.UTC;
            }

            @Override
            public Clock withZone(ZoneId zone) {
              return this;
            }

            @Override
            public Instant instant() {
              return now;
            }
          });

  @Test
  void aMinutesRequestsMayComeAtOnceAndThenOneASecond() {
    for (int i = 0; i < 60; i++) {
      assertThat(rate.take(1)).isEqualTo(Duration.ZERO);
    }
    assertThat(rate.take(1)).isEqualTo(Duration.ofSeconds(1));
    assertThat(rate.take(1)).as("a refused one takes nothing").isEqualTo(Duration.ofSeconds(1));
    assertThat(rate.take(2)).as("another token").isEqualTo(Duration.ZERO);
    now = now.plusMillis(400);
    assertThat(rate.take(1)).isEqualTo(Duration.ofMillis(600));
    now = now.plusMillis(600);
    assertThat(rate.take(1)).isEqualTo(Duration.ZERO);
    assertThat(rate.take(1)).isPositive();
  }

  @Test
  void whoWasSilentForLongMayAskAMinutesRequestsAndNoMore() {
    rate.take(1);
    now = now.plus(Duration.ofDays(1));
    for (int i = 0; i < 60; i++) {
      assertThat(rate.take(1)).isEqualTo(Duration.ZERO);
    }
    assertThat(rate.take(1)).isPositive();
  }
}
