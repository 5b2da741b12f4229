package dev.ordinator.rehearsal;

import dev.ordinator.network.NetworkHistory;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoop;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.rehearsal.RehearsalStore.Work;
import dev.ordinator.rehearsal.SideBySide.Different;
import dev.ordinator.routing.GroundsJson;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.rulebook.RulebookJson;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.LevelDays;
import dev.ordinator.stock.LevelDays.Snapshot;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Does the rehearsals that wait, one at a time; one whose worker died is begun anew. */
@Component
class RehearsalWork {
  private static final int MOST_ORDERS = 20_000;
  private static final int AT_ONCE = 100;
  private static final Logger LOG = LoggerFactory.getLogger(RehearsalWork.class);

  private final RehearsalStore store;
  private final PastOrders pastOrders;
  private final LevelDays days;
  private final Items items;
  private final NetworkHistory networkHistory;
  private final Editions editions;
  private final RulebookJson json;
  private final GroundsJson grounds;
  private final Transactions transactions;
  private final WorkLoop loop;

  RehearsalWork(
      RehearsalStore store,
      PastOrders pastOrders,
      LevelDays days,
      Items items,
      NetworkHistory networkHistory,
      Editions editions,
      RulebookJson json,
      GroundsJson grounds,
      Transactions transactions,
      WorkLoops loops) {
    this.store = store;
    this.pastOrders = pastOrders;
    this.days = days;
    this.items = items;
    this.networkHistory = networkHistory;
    this.editions = editions;
    this.json = json;
    this.grounds = grounds;
    this.transactions = transactions;
    this.loop = loops.add("rehearsals", this::workOnOne);
  }

  void nudge() {
    loop.nudge();
  }

  private boolean workOnOne() {
    Optional<Work> work = transactions.get(store::claim);
    work.ifPresent(w -> {
      try {
        run(w);
      } catch (RuntimeException e) {
        LOG.error("rehearsal {} failed", w.id(), e);
        store.failed(w.id(), Texts.cut(Texts.of(e), 400));
      }
    });
    return work.isPresent();
  }

  private void run(Work work) {
    Instant wanted = work.begunAt().minus(Duration.ofDays(work.days()));
    Snapshot first =
        days.before(wanted)
            .or(days::first)
            .orElseThrow(() -> new IllegalStateException("stock was not kept of any day yet"));
    Instant from = first.at().isAfter(wanted) ? first.at() : wanted;
    int all = pastOrders.firstDecisions(wanted, MOST_ORDERS).size();
    List<Long> decisions = pastOrders.firstDecisions(from, MOST_ORDERS);
    SideBySide sides = sides(work, first);
    for (int done = 0; done < decisions.size(); done += AT_ONCE) {
      if (!store.cameTo(work.id(), done, decisions.size())) {
        return;
      }
      List<Different> different =
          pastOrders
              .read(decisions.subList(done, Math.min(decisions.size(), done + AT_ONCE)))
              .stream()
              .flatMap(order -> sides.add(order).stream())
              .toList();
      transactions.run(() -> different.forEach(d -> store.keep(work.id(), d)));
    }
    store.cameTo(work.id(), decisions.size(), decisions.size());
    store.done(work.id(), json.write(sides.result(all)));
  }

  private SideBySide sides(Work work, Snapshot first) {
    PastNetworks networks = new PastNetworks(networkHistory.since(first.at()));
    Rulebook draft = json.read(work.body(), Rulebook.class);
    PastStock stock = new PastStock();
    PastStock.Taken byLive = stock.new Taken();
    PastStock.Taken byDraft = stock.new Taken();
    return new SideBySide(
        new PastDays(days, first, work.begunAt(), stock, List.of(byLive, byDraft)),
        new Rerun(editions.body(work.againstId()), networks, byLive, items),
        new Rerun(draft, networks, byDraft, items),
        grounds);
  }
}
