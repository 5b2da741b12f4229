package dev.ordinator.platform;

import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.BooleanSupplier;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/** The work loops of this instance: started when everything else stands, stopped first. */
@Component
public class WorkLoops implements SmartLifecycle {
  private final OrdinatorSettings settings;
  private final List<WorkLoop> loops = new CopyOnWriteArrayList<>();
  private volatile boolean running;

  WorkLoops(OrdinatorSettings settings) {
    this.settings = settings;
  }

  /**
   * @param piece does one piece of work; false if there was none
   */
  public WorkLoop add(String name, BooleanSupplier piece) {
    WorkLoop loop = new WorkLoop(name, settings.workPause(), piece);
    loops.add(loop);
    return loop;
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
