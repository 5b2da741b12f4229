package dev.ordinator.core.allocation;

import java.util.Comparator;
import java.util.List;

/** In which order lines are served. */
public final class Service {
  private Service() {}

  /** One thing by which it is decided who comes first. */
  public enum By {
    /** The priority class; 1 comes first. */
    PRIORITY,
    /** Those that were found short already come first. */
    SHORT_FIRST,
    /** The day on which work must begin at the latest; those with no day come last. */
    LATEST_START,
    /** When it was placed; the oldest comes first. */
    AGE,
    /** What the order is worth; the dearest comes first. */
    VALUE
  }

  /** The first that tells two apart decides; at last the order's and the line's number. */
  public static Comparator<AllocationRun.Line> order(List<By> by) {
    Comparator<AllocationRun.Line> comparator = Comparator.comparingInt(line -> 0);
    for (By one : by) {
      comparator = comparator.thenComparing(comparing(one));
    }
    return comparator
        .thenComparingLong(AllocationRun.Line::order)
        .thenComparingLong(AllocationRun.Line::line);
  }

  private static Comparator<AllocationRun.Line> comparing(By by) {
    return switch (by) {
      case PRIORITY -> Comparator.comparingInt(AllocationRun.Line::priority);
      case SHORT_FIRST -> Comparator.comparing(line -> !line.shortAlready());
      case LATEST_START -> Comparator.comparingLong(AllocationRun.Line::latestStart);
      case AGE -> Comparator.comparingLong(AllocationRun.Line::placedAt);
      case VALUE -> Comparator.comparingLong((AllocationRun.Line line) -> -line.value());
    };
  }
}
