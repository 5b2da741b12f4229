package dev.ordinator.core.dispatch;

import java.time.Duration;
import java.time.Instant;

/** How closely a parcel that is under way is watched. */
public final class ParcelWatch {
  /** Over a weekend there is no news of most parcels. */
  static final Duration SILENT_AFTER = Duration.ofDays(4);

  static final Duration GIVEN_UP_AFTER = Duration.ofDays(30);

  private static final Duration LONGEST_PAUSE = Duration.ofHours(6);

  /**
   * The pause grows with the silence: a question in vain is never late by more than a twentieth.
   */
  private static final int PARTS = 20;

  private ParcelWatch() {}

  /** Whether a person should ask the carrier what became of it. */
  public static boolean isSilent(Instant lastNews, Instant now) {
    return !lastNews.plus(SILENT_AFTER).isAfter(now);
  }

  /** Whether asking by ourselves is no use any more. */
  public static boolean isGivenUp(Instant left, Instant now) {
    return !left.plus(GIVEN_UP_AFTER).isAfter(now);
  }

  /**
   * How long to wait before asking again.
   *
   * @param shortest between two questions
   * @param lastNews when the carrier said something new, or when it got the parcel
   */
  public static Duration pause(Duration shortest, Instant lastNews, Instant now) {
    Duration grown = Duration.between(lastNews, now).dividedBy(PARTS);
    Duration pause = grown.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : grown;
    return pause.compareTo(shortest) < 0 ? shortest : pause;
  }
}
