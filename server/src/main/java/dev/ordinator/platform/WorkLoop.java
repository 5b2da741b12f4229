package dev.ordinator.platform;

import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Does queued work, one piece after the other, until none is left; then waits for a nudge or a
 * short pause. The queue is in the database and pieces are claimed there with row locks, so that
 * every instance can run its own loop.
 */
public final class WorkLoop {
  private static final Logger LOG = LoggerFactory.getLogger(WorkLoop.class);

  private final String name;
  private final Duration pause;
  private final BooleanSupplier piece;
  private final Semaphore nudges = new Semaphore(0);
  private volatile boolean running;
  private @Nullable Thread thread;

  WorkLoop(String name, Duration pause, BooleanSupplier piece) {
    this.name = name;
    this.pause = pause;
    this.piece = piece;
  }

  /** Says that there may be work. Call it after the commit that made it. */
  public void nudge() {
    nudges.release();
  }

  void start() {
    running = true;
    thread = Thread.ofPlatform().name(name).daemon(true).start(this::run);
  }

  void stop() throws InterruptedException {
    running = false;
    nudge();
    if (thread != null) {
      thread.join(TimeUnit.SECONDS.toMillis(10));
    }
  }

  private void run() {
    while (running) {
      boolean more;
      try {
        more = piece.getAsBoolean();
      } catch (RuntimeException e) {
        LOG.warn("{}: {}; trying again", name, Texts.of(e));
        LOG.debug("{} failed", name, e);
        more = false;
      }
      if (!more) {
        rest();
      }
    }
  }

  private void rest() {
    try {
      if (nudges.tryAcquire(pause.toMillis(), TimeUnit.MILLISECONDS)) {
        nudges.drainPermits();
      }
    } catch (InterruptedException e) {
      running = false;
      Thread.currentThread().interrupt();
    }
  }
}
