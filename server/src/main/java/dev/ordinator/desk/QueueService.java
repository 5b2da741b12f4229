package dev.ordinator.desk;

import dev.ordinator.backorders.Queues;
import dev.ordinator.backorders.Queues.Turn;
import dev.ordinator.platform.WorkLoops;
import java.util.Optional;
import org.springframework.stereotype.Service;

/**
 * Serves those who wait for an item, in their order, one transaction each. One instance has a queue
 * to itself while it does; if it dies, another takes it up after a while where it stands.
 */
@Service
public class QueueService {
  private static final int STAY_EVERY = 50;

  private final Queues queues;
  private final RouteNow routing;

  QueueService(Queues queues, RouteNow routing, WorkLoops loops) {
    this.queues = queues;
    this.routing = routing;
    loops.add("backorders", this::workOnOne);
  }

  /** Looks at one queue that something changed for; false if there is none. */
  public boolean workOnOne() {
    Optional<Turn> turn = queues.claim();
    turn.ifPresent(this::serve);
    return turn.isPresent();
  }

  /** Whoever can't be served after all frees what was meant for them for those behind. */
  private void serve(Turn turn) {
    boolean stuck;
    do {
      stuck = false;
      int served = 0;
      for (long order : queues.servedNow(turn)) {
        if (++served % STAY_EVERY == 0) {
          queues.stay(turn);
        }
        if (routing.route(order) == RouteNow.Turn.STUCK) {
          turn.stuck().add(order);
          stuck = true;
        }
      }
    } while (stuck);
    queues.settle(turn);
  }
}
