package dev.ordinator.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * How the work goes that this instance does by itself: its loops, its jobs, and the talks with
 * outside systems within them. What fails again and again is shown on Today and in health, so that
 * nothing fails unseen.
 */
@Component
public class WorkHealth {
  /** A single failure may be chance: so many in a row are trouble. */
  private static final int TROUBLE_AFTER = 3;

  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(1);
  private static final int MOST_ERROR_LETTERS = 300;

  private final Clock clock;
  private final Map<String, Work> works = new ConcurrentHashMap<>();

  WorkHealth(Clock clock) {
    this.clock = clock;
  }

  /**
   * How one kind of work goes.
   *
   * @param failures in a row, since the last success
   * @param failingSince the first of them
   * @param error what the last of them said; empty after a success
   */
  public record Work(
      String name,
      @Nullable Instant lastSuccess,
      @Nullable Instant failingSince,
      int failures,
      String error) {

    public boolean isInTrouble() {
      return failures >= TROUBLE_AFTER;
    }

    private static Work begun(String name) {
      return new Work(name, null, null, 0, "");
    }

    private Work succeeded(Instant now) {
      return new Work(name, now, null, 0, "");
    }

    private Work failed(Instant now, String words) {
      return new Work(
          name, lastSuccess, failingSince == null ? now : failingSince, failures + 1, words);
    }
  }

  /** Notes that a piece of work was done, or that there was none to do. */
  public void succeeded(String name) {
    Instant now = clock.instant();
    works.compute(name, (n, work) -> (work == null ? Work.begun(n) : work).succeeded(now));
  }

  /**
   * Notes that a piece of work failed.
   *
   * @return how often it failed in a row
   */
  public int failed(String name, Throwable why) {
    Instant now = clock.instant();
    String words = Texts.cut(Texts.of(why), MOST_ERROR_LETTERS);
    return works
        .compute(name, (n, work) -> (work == null ? Work.begun(n) : work).failed(now, words))
        .failures();
  }

  /** All work of this instance, by name. */
  public List<Work> all() {
    return works.values().stream().sorted(Comparator.comparing(Work::name)).toList();
  }

  /** What fails again and again, the longest first. */
  public List<Work> troubles() {
    return works.values().stream()
        .filter(Work::isInTrouble)
        .sorted(
            Comparator.comparing(w -> w.failingSince() == null ? Instant.MAX : w.failingSince()))
        .toList();
  }

  /**
   * How long to wait after failures in a row: doubled each time, for at most a minute.
   *
   * @param pause what is waited after the first
   */
  static Duration pauseAfter(int failures, Duration pause) {
    Duration grown = pause.multipliedBy(1L << Math.min(failures - 1, 10));
    return grown.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : grown;
  }
}
