package dev.ordinator.channels;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Tells whether a signed message was sent just now; older ones may be replayed by somebody. */
@Component
class Freshness {
  private static final Duration TOLERANCE = Duration.ofMinutes(5);

  private final Clock clock;

  Freshness(Clock clock) {
    this.clock = clock;
  }

  /**
   * @param timestamp seconds since 1970, in digits
   */
  boolean isFresh(String timestamp) {
    if (!timestamp.matches("\\d{1,12}")) {
      return false;
    }
    Instant sent = Instant.ofEpochSecond(Long.parseLong(timestamp));
    return Duration.between(sent, clock.instant()).abs().compareTo(TOLERANCE) <= 0;
  }
}
