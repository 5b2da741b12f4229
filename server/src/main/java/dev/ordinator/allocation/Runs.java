package dev.ordinator.allocation;

import dev.ordinator.allocation.OpenLines.ToGive;
import dev.ordinator.allocation.RunStore.Run;
import dev.ordinator.allocation.RunStore.State;
import dev.ordinator.core.allocation.AllocationRun;
import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.OrderEarmarks;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;

/** Runs from preview to commit, and back. */
@Service
class Runs {
  private static final int LONGEST_NAME = 80;

  private final OpenLines lines;
  private final RunStore store;
  private final RunWork work;
  private final OrderEarmarks earmarks;
  private final Events events;
  private final Transactions transactions;

  Runs(
      OpenLines lines,
      RunStore store,
      RunWork work,
      OrderEarmarks earmarks,
      Events events,
      Transactions transactions) {
    this.lines = lines;
    this.store = store;
    this.work = work;
    this.earmarks = earmarks;
    this.events = events;
    this.transactions = transactions;
  }

  /**
   * Works out who would get what, and keeps it; nothing is given.
   *
   * @throws Problem if the settings make no sense
   */
  Run preview(String name, RunSettings settings, String actor) {
    if (name.isBlank() || name.length() > LONGEST_NAME) {
      throw Problem.invalid("name", "1 to 80 characters");
    }
    ToGive open = lines.read(settings.checked());
    List<Given> given = AllocationRun.run(settings.forCore(), open.lines(), open.stock());
    long id =
        transactions.get(() -> store.keep(name.strip(), settings, ordersTogether(given), actor));
    return store.run(id);
  }

  /**
   * Orders are carried out whole: their lines stand together, where the first of them was served.
   */
  private static List<Given> ordersTogether(List<Given> given) {
    Map<Long, List<Given>> orders = new LinkedHashMap<>();
    given.forEach(g -> orders.computeIfAbsent(g.line().order(), o -> new ArrayList<>()).add(g));
    return orders.values().stream().flatMap(List::stream).toList();
  }

  /** Has a run carried out; it goes on by itself, whoever looks. */
  Run commit(long id, String actor) {
    transactions.run(() -> {
      store.begin(id, actor);
      noted(actor, "Allocation run %d is committed", id);
    });
    work.nudge();
    return store.run(id);
  }

  /**
   * Takes back all that a run gave.
   *
   * @throws Problem if it was not committed, or something of it has gone to nodes
   */
  Run undo(long id, String actor) {
    transactions.run(() -> {
      store.lock(id);
      if (store.run(id).state() != State.COMMITTED) {
        throw Problem.conflict("only what was committed can be undone");
      }
      if (!earmarks.isUntouched(id)) {
        throw Problem.conflict("some of it is with nodes already, or its orders have changed");
      }
      earmarks.takeBack(id, actor);
      store.undone(id, actor);
      noted(actor, "Allocation run %d is undone", id);
    });
    return store.run(id);
  }

  private void noted(String actor, String what, long id) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, what.formatted(id), "");
  }
}
