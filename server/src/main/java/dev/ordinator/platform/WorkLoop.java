package dev.ordinator.platform;

import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Does queued work, one piece after the other, until none is left; then waits for a nudge or a
 * short pause. The queue is in the database and pieces are claimed there with row locks, so that
 * every instance can run its own loop. Whatever a piece throws, the loop goes on, after a pause
 * that grows with each failure.
 */
public final class WorkLoop {
  private static final Logger LOG = LoggerFactory.getLogger(WorkLoop.class);

  private final String name;
  private final Duration pause;
  private final BooleanSupplier piece;
  private final Supplier<@Nullable Instant> oldest;
  private final WorkHealth health;
  private final Semaphore nudges = new Semaphore(0);
  private volatile boolean running;
  private @Nullable Thread thread;

  WorkLoop(
      String name,
      Duration pause,
      BooleanSupplier piece,
      Supplier<@Nullable Instant> oldest,
      WorkHealth health) {
    this.name = name;
    this.pause = pause;
    this.piece = piece;
    this.oldest = oldest;
    this.health = health;
  }

  public String name() {
    return name;
  }

  /** Says that there may be work. Call it after the commit that made it. */
  public void nudge() {
    nudges.release();
  }

  /** Since when the piece that has waited longest is due; null if none is, or it can't be said. */
  @Nullable Instant oldestDue() {
    return oldest.get();
  }

  boolean isAlive() {
    Thread worker = thread;
    return worker != null && worker.isAlive();
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
      boolean more = false;
      try {
        more = piece.getAsBoolean();
        health.succeeded(name);
      } catch (Throwable e) { // an Error, too: a loop that ended would be missed by nobody
        restAfter(e);
      }
      if (!more) {
        rest(pause);
      }
    }
  }

  private void restAfter(Throwable e) {
    int failures = health.failed(name, e);
    Duration longer = WorkHealth.pauseAfter(failures, pause);
    if (failures == 1) {
      LOG.error("{} failed; tried again in {}", name, longer, e);
    } else {
      LOG.error("{} failed {} times in a row: {}", name, failures, Texts.of(e));
    }
    // a nudge would only make it fail more often
    Instant until = Instant.now().plus(longer);
    while (running && Instant.now().isBefore(until)) {
      rest(Duration.between(Instant.now(), until));
    }
  }

  private void rest(Duration howLong) {
    try {
      if (nudges.tryAcquire(howLong.toMillis(), TimeUnit.MILLISECONDS)) {
        nudges.drainPermits();
      }
    } catch (InterruptedException e) {
      running = false;
      Thread.currentThread().interrupt();
    }
  }
}
