package dev.ordinator.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.health.contributor.AbstractHealthIndicator;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.Status;
import org.springframework.stereotype.Component;

/**
 * Tells health of the work that this instance does by itself: which loops are alive, when each last
 * succeeded, and how far behind it is. Work in trouble makes the instance degraded, not down: it
 * answers requests all the same.
 */
@Component
class WorkHealthIndicator extends AbstractHealthIndicator {
  private static final Status DEGRADED =
      new Status("DEGRADED", "some of its work fails again and again");

  private final WorkHealth health;
  private final WorkLoops loops;
  private final OrdinatorSettings settings;
  private final Clock clock;

  WorkHealthIndicator(WorkHealth health, WorkLoops loops, OrdinatorSettings settings, Clock clock) {
    this.health = health;
    this.loops = loops;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * @param alive of a loop: whether its thread is; null for other work
   * @param behind of a loop with due work: how long the oldest piece has waited
   */
  private record Detail(
      @Nullable Boolean alive,
      @Nullable Instant lastSuccess,
      @Nullable Duration behind,
      @Nullable Instant failingSince,
      int failures,
      @Nullable String error) {
    static final Detail NOTHING_YET = new Detail(null, null, null, null, 0, null);

    static Detail of(WorkHealth.Work work) {
      String error = work.error().isEmpty() ? null : work.error();
      return new Detail(
          null, work.lastSuccess(), null, work.failingSince(), work.failures(), error);
    }

    Detail ofLoop(boolean isAlive, @Nullable Duration isBehind) {
      return new Detail(isAlive, lastSuccess, isBehind, failingSince, failures, error);
    }
  }

  @Override
  protected void doHealthCheck(Health.Builder answer) {
    Map<String, Detail> details = new LinkedHashMap<>();
    health.all().forEach(work -> details.put(work.name(), Detail.of(work)));
    boolean allAlive = true;
    if (settings.working()) {
      for (WorkLoop loop : loops.all()) {
        allAlive &= loop.isAlive();
        details.compute(
            loop.name(),
            (name, known) ->
                (known == null ? Detail.NOTHING_YET : known).ofLoop(loop.isAlive(), behind(loop)));
      }
    }
    boolean well = allAlive && health.troubles().isEmpty();
    (well ? answer.up() : answer.status(DEGRADED)).withDetails(details);
  }

  private @Nullable Duration behind(WorkLoop loop) {
    Instant due = loop.oldestDue();
    return due == null ? null : Duration.between(due, clock.instant());
  }
}
