package dev.ordinator.platform;

import java.time.Instant;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/** The work loops of this instance: started when everything else stands, stopped first. */
@Component
public class WorkLoops implements SmartLifecycle {
  private final OrdinatorSettings settings;
  private final WorkHealth health;
  private final List<WorkLoop> loops = new CopyOnWriteArrayList<>();
  private volatile boolean running;

  WorkLoops(OrdinatorSettings settings, WorkHealth health) {
    this.settings = settings;
    this.health = health;
  }

  /**
   * @param piece does one piece of work; false if there was none
   */
  public WorkLoop add(String name, BooleanSupplier piece) {
    return add(name, piece, () -> null);
  }

  /**
   * @param piece does one piece of work; false if there was none
   * @param oldest says since when the piece that has waited longest is due; null if none is
   */
  public WorkLoop add(String name, BooleanSupplier piece, Supplier<@Nullable Instant> oldest) {
    WorkLoop loop = new WorkLoop(name, settings.workPause(), piece, oldest, health);
    loops.add(loop);
    return loop;
  }

  List<WorkLoop> all() {
    return loops;
  }

  @Override
  public void start() {
    running = true;
    if (settings.working()) {
      loops.forEach(WorkLoop::start);
    }
  }

  @Override
  public void stop() {
    running = false;
    for (WorkLoop loop : loops) {
      try {
        loop.stop();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  @Override
  public boolean isRunning() {
    return running;
  }
}
