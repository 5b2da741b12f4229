package dev.ordinator.rehearsal;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.rulebook.Draft;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.RulebookJson;
import org.springframework.stereotype.Service;

/**
 * Routes the orders of the last days again under the draft. Each order is asked for at the moment
 * at which it was first routed, at the stock of that moment: what its day began with, what came and
 * went since, less what the orders before it would have taken that day. The live edition is asked
 * the same, so that it shows what of a difference is the draft's doing.
 */
@Service
public class Rehearsals {
  private static final int MOST_DAYS = 90;

  private final RehearsalStore store;
  private final Draft draft;
  private final Editions editions;
  private final RulebookJson json;
  private final Transactions transactions;
  private final RehearsalWork work;

  Rehearsals(
      RehearsalStore store,
      Draft draft,
      Editions editions,
      RulebookJson json,
      Transactions transactions,
      RehearsalWork work) {
    this.store = store;
    this.draft = draft;
    this.editions = editions;
    this.json = json;
    this.transactions = transactions;
    this.work = work;
  }

  /**
   * @param days of how many days' orders
   * @return its id; it goes on by itself
   * @throws Problem if there is no draft, or one is under way
   */
  public long begin(int days, String who) {
    if (days < 1 || days > MOST_DAYS) {
      throw Problem.invalid("days", "1 to 90 days");
    }
    long id =
        transactions.get(() -> {
          Draft.State state =
              draft.now().orElseThrow(() -> Problem.conflict("there is no draft to rehearse"));
          if (store.isUnderWay(state.id())) {
            throw Problem.conflict("a rehearsal of the draft is under way; cancel it first");
          }
          return store.begin(
              state.id(),
              state.changes(),
              json.write(state.body()),
              editions.live().id(),
              days,
              who);
        });
    work.nudge();
    return id;
  }

  /** Cancels one that is under way; throws the result of one that has ended away. */
  void end(long id) {
    transactions.run(() -> {
      if (!store.cancel(id)) {
        store.remove(id);
      }
    });
  }
}
