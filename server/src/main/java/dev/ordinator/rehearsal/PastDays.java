package dev.ordinator.rehearsal;

import dev.ordinator.stock.LevelDays;
import dev.ordinator.stock.LevelDays.Change;
import dev.ordinator.stock.LevelDays.Snapshot;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;

/** Goes through past days, so that stock is what it was at the moment that is asked for. */
final class PastDays {
  private final LevelDays days;
  private final PastStock stock;
  private final List<PastStock.Taken> takers;
  private final Deque<Snapshot> ahead;
  private final Deque<Change> changes = new ArrayDeque<>();
  private final Instant end;

  /**
   * @param first where to begin
   * @param takers what these have taken is forgotten when a day begins: it begins with what there
   *     really was
   */
  PastDays(
      LevelDays days, Snapshot first, Instant end, PastStock stock, List<PastStock.Taken> takers) {
    this.days = days;
    this.stock = stock;
    this.takers = takers;
    this.end = end;
    this.ahead = new ArrayDeque<>(days.after(first.day()));
    days.levels(first.day(), stock::begins);
    read(first);
  }

  /** Goes on to a moment that is not before the last one. */
  void goTo(Instant moment) {
    while (!ahead.isEmpty() && !ahead.getFirst().at().isAfter(moment)) {
      Snapshot day = ahead.removeFirst();
      stock.nextDay();
      takers.forEach(PastStock.Taken::forget);
      days.changed(day.day(), stock::begins);
      read(day);
    }
    while (!changes.isEmpty() && changes.getFirst().at().isBefore(moment)) {
      stock.changes(changes.removeFirst());
    }
  }

  private void read(Snapshot day) {
    Instant until = ahead.isEmpty() ? end : ahead.getFirst().at();
    changes.clear();
    changes.addAll(days.changes(day.at(), until));
  }
}
