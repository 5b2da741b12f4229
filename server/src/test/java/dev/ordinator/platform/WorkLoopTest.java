package dev.ordinator.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicInteger;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;

/** The loops that do the work: nothing that a piece throws ends one. */
class WorkLoopTest {
  private final WorkHealth health = new WorkHealth(Clock.systemUTC());

  @Test
  void aLoopWhosePieceThrowsAnErrorGoesOnAndIsSeenToFailUntilItSucceeds() throws Exception {
    AtomicInteger tries = new AtomicInteger();
    AtomicInteger limit = new AtomicInteger(Integer.MAX_VALUE);
    WorkLoop loop =
        new WorkLoop(
            "sweeping",
            Duration.ofMillis(5),
            () -> {
              if (tries.incrementAndGet() <= limit.get()) {
                throw new StackOverflowError("too deep");
              }
              return false;
            },
            () -> null,
            health);
    loop.start();
    try {
      Awaitility.await("it is in trouble").until(() -> !health.troubles().isEmpty());
      WorkHealth.Work work = health.troubles().getFirst();
      assertThat(work.name()).isEqualTo("sweeping");
      assertThat(work.error()).isEqualTo("too deep");
      assertThat(loop.isAlive()).isTrue();

      limit.set(0);

      Awaitility.await("it has recovered").until(() -> health.troubles().isEmpty());
      assertThat(health.all().getFirst().failures()).isZero();
    } finally {
      loop.stop();
    }
    assertThat(loop.isAlive()).isFalse();
  }

  @Test
  void pausesAfterFailuresDoubleUpToAMinute() {
    Duration pause = Duration.ofMillis(500);
    assertThat(WorkHealth.pauseAfter(1, pause)).isEqualTo(pause);
    assertThat(WorkHealth.pauseAfter(2, pause)).isEqualTo(Duration.ofSeconds(1));
    assertThat(WorkHealth.pauseAfter(5, pause)).isEqualTo(Duration.ofSeconds(8));
    assertThat(WorkHealth.pauseAfter(1_000, pause)).isEqualTo(Duration.ofMinutes(1));
  }
}
