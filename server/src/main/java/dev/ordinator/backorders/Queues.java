package dev.ordinator.backorders;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.backorders.QueueStore.Row;
import dev.ordinator.core.allocation.SupplyQueue;
import dev.ordinator.core.allocation.SupplyQueue.Need;
import dev.ordinator.core.allocation.SupplyQueue.Outlook;
import dev.ordinator.core.allocation.SupplyQueue.Supplied;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.orders.OrderPromises;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.ArrivalOutlook;
import dev.ordinator.routing.Demands;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.stock.Earmarks;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.OrderEarmarks;
import dev.ordinator.stock.OrderEarmarks.LineItem;
import java.time.Duration;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;

/**
 * Looks at the queue of an item: who can be served now, when the others will be, and how much of
 * what there is must be kept for that.
 */
@Service
public class Queues {
  static final int DAYS = 366;
  private static final Duration LOOK_EVERY = Duration.ofMinutes(10);

  private final QueueStore store;
  private final Backorders backorders;
  private final Items items;
  private final Expected expected;
  private final Earmarks earmarks;
  private final OrderEarmarks runs;
  private final Editions editions;
  private final Orders orders;
  private final OrderPromises promises;
  private final ArrivalOutlook arrivals;
  private final Snags snags;
  private final Transactions transactions;

  Queues(
      QueueStore store,
      Backorders backorders,
      Items items,
      Expected expected,
      Earmarks earmarks,
      OrderEarmarks runs,
      Editions editions,
      Orders orders,
      OrderPromises promises,
      ArrivalOutlook arrivals,
      Snags snags,
      Transactions transactions) {
    this.store = store;
    this.backorders = backorders;
    this.items = items;
    this.expected = expected;
    this.earmarks = earmarks;
    this.runs = runs;
    this.editions = editions;
    this.orders = orders;
    this.promises = promises;
    this.arrivals = arrivals;
    this.snags = snags;
    this.transactions = transactions;
  }

  /**
   * An item's queue that this instance has to itself.
   *
   * @param stuck orders that have been tried in vain, and are not counted with
   */
  public record Turn(QueueStore.Claim claim, Set<Long> stuck) {
    public long itemId() {
      return claim.itemId();
    }
  }

  /** The next queue that something changed for. */
  public Optional<Turn> claim() {
    return transactions.get(() -> store.claim().map(claim -> new Turn(claim, stuckIn(claim))));
  }

  private Set<Long> stuckIn(QueueStore.Claim claim) {
    return claim.again()
        ? new HashSet<>()
        : queue(claim.itemId()).stream()
            .filter(Row::stuck)
            .map(Row::orderId)
            .collect(Collectors.toCollection(HashSet::new));
  }

  /** Keeps the queue from other instances for longer. */
  public void stay(Turn turn) {
    transactions.run(() -> store.keepClaim(turn.claim()));
  }

  /** Orders that can be given something now without delaying anybody in front, in their order. */
  public Set<Long> servedNow(Turn turn) {
    stay(turn);
    Seen seen = look(Set.of(turn.itemId()), turn.stuck(), Map.of());
    Set<Long> lacking = seen.ordersThatLackSomething();
    Set<Long> now = new LinkedHashSet<>();
    for (Need need : seen.needs().getOrDefault(turn.itemId(), List.of())) {
      if (need.whole() ? !lacking.contains(need.order()) : seen.outlook().now(need) > 0) {
        now.add(need.order());
      }
    }
    return now;
  }

  /**
   * Writes down when those who are left will be served, keeps what they need of what there is, and
   * gives the queue back.
   */
  public void settle(Turn turn) {
    List<Row> moved =
        transactions.get(() -> {
          long item = turn.itemId();
          Seen seen = look(Set.of(item), turn.stuck(), Map.of());
          List<Row> changed = new ArrayList<>();
          for (Row row : queue(item)) {
            LocalDate ready = seen.readyOn(row);
            boolean stuck = turn.stuck().contains(row.orderId());
            if (!Objects.equals(row.readyOn(), ready) || row.stuck() != stuck) {
              store.project(row.id(), ready, stuck);
              changed.add(row);
            }
          }
          earmarks.keepForWaiting(item, seen.kept(item));
          snag(item, seen);
          store.looked(turn.claim());
          return changed;
        });
    moved.stream().map(Row::orderId).distinct().forEach(this::expect);
  }

  /** A person must do something about those who have no day in sight. */
  private void snag(long itemId, Seen seen) {
    StockedItem item = items.byId(List.of(itemId)).of(itemId);
    for (Row row : queue(itemId)) {
      if (row.claims() && row.lacking() && seen.readyOn(row) == null) {
        backorders.snag(item, row.orderId());
      } else {
        snags.leave(row.orderId(), SnagCause.NO_STOCK, itemId);
      }
    }
  }

  /** Works out when an order arrives, now that what it waits for comes on another day. */
  private void expect(long orderId) {
    transactions.run(() -> {
      var order = orders.lock(orderId);
      List<Row> rows =
          store.ofOrders(List.of(orderId)).values().stream().flatMap(List::stream).toList();
      if (!order.waiting() || rows.isEmpty()) {
        return;
      }
      boolean open = rows.stream().anyMatch(row -> row.readyOn() == null);
      LocalDate last =
          rows.stream()
              .map(Row::readyOn)
              .filter(Objects::nonNull)
              .max(LocalDate::compareTo)
              .orElse(expected.today());
      Map<Long, Long> missing = new HashMap<>();
      rows.forEach(row -> missing.merge(row.itemId(), row.units(), Long::sum));
      promises.expect(
          orderId,
          open ? null : arrivals.arrival(order, last, missing).orElse(null),
          OrderPromises.Why.WAITS,
          Backorders.QUEUE);
    });
  }

  /**
   * What was seen of some queues at a moment.
   *
   * @param covered rows for which a run has set all aside; it, or a person, says when they go
   */
  record Seen(
      LocalDate today,
      Map<Long, Supplied> supplied,
      Map<Long, List<Need>> needs,
      Map<Long, Need> byRow,
      Set<Long> covered,
      Outlook outlook) {

    @Nullable LocalDate readyOn(Row row) {
      if (covered.contains(row.id())) {
        return today;
      }
      Need need = byRow.get(row.id());
      OptionalInt day = need == null ? OptionalInt.empty() : outlook.of(need);
      return day.isPresent() ? today.plusDays(day.getAsInt()) : null;
    }

    /** Those of which not all that they need is there now. */
    Set<Long> ordersThatLackSomething() {
      return needs.values().stream()
          .flatMap(List::stream)
          .filter(need -> outlook.now(need) < need.units())
          .map(Need::order)
          .collect(Collectors.toSet());
    }

    /** Units of what there is now that are needed on a later day. */
    long kept(long itemId) {
      long free = supplied.getOrDefault(itemId, Supplied.NOTHING).free();
      return Math.max(0, free - outlook.spare(itemId));
    }
  }

  private List<Row> queue(long itemId) {
    return store.queues(List.of(itemId)).getOrDefault(itemId, List.of());
  }

  /**
   * Looks at queues, and at those in which their orders wait as well.
   *
   * @param stuck orders that claim nothing
   * @param otherwise supplies of items, where others are asked about than are expected
   */
  Seen look(Collection<Long> itemIds, Set<Long> stuck, Map<Long, List<Atp.Supply>> otherwise) {
    return look(together(itemIds), itemIds, stuck, otherwise);
  }

  /** The same if the queue of an item were another. */
  Seen lookWith(long itemId, List<Row> queue, Set<Long> stuck) {
    Map<Long, List<Row>> queues = together(List.of(itemId));
    queues.put(itemId, queue);
    return look(queues, List.of(itemId), stuck, Map.of());
  }

  private Map<Long, List<Row>> together(Collection<Long> itemIds) {
    Map<Long, List<Row>> queues = new LinkedHashMap<>(store.queues(itemIds));
    Set<Long> orders =
        queues.values().stream()
            .flatMap(List::stream)
            .map(Row::orderId)
            .collect(Collectors.toCollection(TreeSet::new));
    Set<Long> others = new TreeSet<>(store.ofOrders(orders).keySet());
    others.removeAll(queues.keySet());
    queues.putAll(store.queues(others));
    return queues;
  }

  private Seen look(
      Map<Long, List<Row>> queues,
      Collection<Long> itemIds,
      Set<Long> stuck,
      Map<Long, List<Atp.Supply>> otherwise) {
    var book = editions.live().body();
    Map<Long, Integer> from = outFrom(queues.keySet());
    Map<Long, List<Need>> needs = new LinkedHashMap<>();
    Map<Long, Need> byRow = new HashMap<>();
    Set<Long> covered = new HashSet<>();
    queues.forEach((item, rows) -> {
      List<Need> queue = new ArrayList<>();
      Map<LineItem, Long> given = runs.ofLines(rows.stream().map(Row::lineId).toList());
      for (Row row : rows) {
        boolean isStuck = stuck.contains(row.orderId()) || (row.stuck() && !itemIds.contains(item));
        long rest = row.units() - given.getOrDefault(new LineItem(row.lineId(), item), 0L);
        if (rest <= 0) {
          covered.add(row.id());
        } else if (row.claims() && !isStuck) {
          boolean whole = !Demands.goesInPart(book, row.ladder(), row.maySplit(), row.inPart());
          Need need =
              new Need(row.orderId(), row.lineId(), item, rest, from.getOrDefault(item, 0), whole);
          queue.add(need);
          byRow.put(row.id(), need);
        }
      }
      needs.put(item, queue);
    });
    Map<Long, Supplied> supplied = supplied(queues.keySet(), otherwise);
    return new Seen(
        expected.today(),
        supplied,
        needs,
        byRow,
        covered,
        SupplyQueue.project(supplied, needs, DAYS));
  }

  /** Days until items that are sold ahead are sent. */
  private Map<Long, Integer> outFrom(Set<Long> itemIds) {
    LocalDate today = expected.today();
    Map<Long, Integer> from = new HashMap<>();
    items
        .byId(itemIds)
        .byId()
        .forEach((id, item) -> {
          if (item.outOn() != null) {
            from.put(id, (int) Math.clamp(ChronoUnit.DAYS.between(today, item.outOn()), 0, DAYS));
          }
        });
    return from;
  }

  private Map<Long, Supplied> supplied(Set<Long> itemIds, Map<Long, List<Atp.Supply>> otherwise) {
    Map<Long, Long> free = items.free(itemIds, Set.of());
    Map<Long, Long> kept = earmarks.keptForWaiting(itemIds);
    Map<Long, List<Atp.Supply>> supplies = new HashMap<>(expected.suppliesOf(itemIds));
    supplies.putAll(otherwise);
    Map<Long, Supplied> supplied = new HashMap<>();
    itemIds.forEach(item ->
        supplied.put(
            item,
            new Supplied(
                free.getOrDefault(item, 0L) + kept.getOrDefault(item, 0L),
                supplies.getOrDefault(item, List.of()))));
    return supplied;
  }

  /** Days pass, and nodes, rules and carriers change: every queue is looked at now and then. */
  @Bean
  RecurringTask<Void> lookAtQueues() {
    return Tasks.recurring("look-at-queues", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> transactions.run(store::markAll));
  }
}
