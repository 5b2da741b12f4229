package dev.ordinator.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;

/** A clock that stands still until it is set. */
final class SetClock extends Clock {
  private volatile Instant now = Instant.now();

  void set(Instant to) {
    now = to;
  }

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public ZoneId getZone() {
    return ZoneId.of("UTC");
  }

  @Override
  public Clock withZone(ZoneId zone) {
    throw new UnsupportedOperationException("the application keeps UTC");
  }
}
