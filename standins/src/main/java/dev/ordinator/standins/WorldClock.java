package dev.ordinator.standins;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What time it is for all stand-ins: the real one, unless they are told another. */
public final class WorldClock {
  private volatile @Nullable Instant standing;

  public Instant now() {
    Instant still = standing;
    return still == null ? Instant.now() : still;
  }

  /** Time stands still at a moment: the past that is made up ends there. */
  public void standAt(Instant moment) {
    standing = moment;
  }

  /** Time is the real one again. */
  public void goOn() {
    standing = null;
  }
}
