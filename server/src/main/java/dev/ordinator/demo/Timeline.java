package dev.ordinator.demo;

import java.time.Instant;
import java.util.Comparator;
import java.util.PriorityQueue;

/** What happens, in the order of its moments; what would happen after the end does not. */
final class Timeline {
  private final SetClock clock;
  private final Instant end;
  private final PriorityQueue<Happening> ahead =
      new PriorityQueue<>(Comparator.comparing(Happening::at).thenComparingLong(Happening::number));
  private long happenings;

  Timeline(SetClock clock, Instant end) {
    this.clock = clock;
    this.end = end;
  }

  /**
   * @param number tells things of the same moment apart: the first that was planned happens first
   */
  private record Happening(Instant at, long number, Runnable what) {}

  Instant now() {
    return clock.instant();
  }

  Instant end() {
    return end;
  }

  void happen(Instant at, Runnable what) {
    ahead.add(new Happening(at, happenings++, what));
  }

  /**
   * @param each called after everything that happened
   */
  void play(Runnable each) {
    while (!ahead.isEmpty() && !ahead.peek().at().isAfter(end)) {
      Happening next = ahead.remove();
      clock.set(next.at());
      next.what().run();
      each.run();
    }
    clock.set(end);
  }
}
