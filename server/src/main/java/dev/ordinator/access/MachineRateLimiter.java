package dev.ordinator.access;

import static java.util.Objects.requireNonNull;

import dev.ordinator.platform.OrdinatorSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * How often a machine may ask, by its token: a bucket that holds a minute's requests and is filled
 * steadily (token bucket). Each instance of the application counts by itself.
 */
@Component
class MachineRateLimiter {
  private static final int MINUTE = 60_000;

  private final int perMinute;
  private final Clock clock;
  private final Map<Long, Bucket> buckets = new ConcurrentHashMap<>();

  @Autowired
  MachineRateLimiter(OrdinatorSettings settings, Clock clock) {
    this(settings.machineRequestsPerMinute(), clock);
  }

  MachineRateLimiter(int perMinute, Clock clock) {
    this.perMinute = perMinute;
    this.clock = clock;
  }

  /**
   * @param left requests that may be made at once
   * @param given whether the one that was asked for last may be made
   */
  private record Bucket(double left, Instant at, boolean given) {
    Bucket take(double filled, Instant now) {
      return filled >= 1 ? new Bucket(filled - 1, now, true) : new Bucket(filled, now, false);
    }
  }

  /**
   * Takes one request out of a token's bucket; of one that is empty nothing is taken.
   *
   * @return how long until there is one; zero: it may be made
   */
  Duration take(long tokenId) {
    Instant now = clock.instant();
    Bucket after =
        requireNonNull(
            buckets.compute(
                tokenId,
                (id, before) -> {
                  Bucket known = before == null ? new Bucket(perMinute, now, true) : before;
                  return known.take(filled(known, now), now);
                }));
    return after.given()
        ? Duration.ZERO
        : Duration.ofMillis((long) Math.ceil((1 - after.left()) * MINUTE / perMinute));
  }

  private double filled(Bucket before, Instant now) {
    double more = (double) Duration.between(before.at(), now).toMillis() * perMinute / MINUTE;
    return Math.min(perMinute, before.left() + Math.max(0, more));
  }
}
