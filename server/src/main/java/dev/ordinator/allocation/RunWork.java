package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.ALLOCATION_RUN_LINE;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.allocation.RunStore.Entry;
import dev.ordinator.allocation.RunStore.From;
import dev.ordinator.allocation.RunStore.Run;
import dev.ordinator.desk.RouteNow;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoop;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.stock.OrderEarmarks;
import dev.ordinator.stock.OrderEarmarks.Gift;
import dev.ordinator.stock.OrderEarmarks.Locked;
import dev.ordinator.stock.OrderEarmarks.Place;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.ToLongFunction;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/**
 * Carries out runs that are committed: so many lines a transaction, each with how far it has come,
 * so that it goes on where it stood if its instance dies. What has changed since it was seen is
 * given as far as it can be, and the log says so.
 */
@Service
class RunWork {
  private static final int LINES = 5_000;

  private final DSLContext db;
  private final RunStore store;
  private final OrderEarmarks earmarks;
  private final RouteNow routing;
  private final Transactions transactions;
  private final WorkLoop loop;

  RunWork(
      DSLContext db,
      RunStore store,
      OrderEarmarks earmarks,
      RouteNow routing,
      Transactions transactions,
      WorkLoops loops) {
    this.db = db;
    this.store = store;
    this.earmarks = earmarks;
    this.routing = routing;
    this.transactions = transactions;
    this.loop = loops.add("allocation-runs", this::workOnOne);
  }

  /** There is a run to carry out. */
  void nudge() {
    loop.nudge();
  }

  boolean workOnOne() {
    Optional<Long> run = transactions.get(store::claim);
    run.ifPresent(this::carryOut);
    return run.isPresent();
  }

  void carryOut(long id) {
    Run run = store.run(id);
    while (transactions.get(() -> isMoreGiven(run))) {
      // lines after lines
    }
    transactions.run(() -> earmarks.moved(id));
    if (run.settings().thenRoute() || run.settings().recordShort()) {
      route(run);
    }
    transactions.run(() -> store.finish(id));
  }

  private boolean isMoreGiven(Run run) {
    int from = store.lock(run.id());
    List<Entry> entries = wholeOrders(store.entries(run.id(), from, LINES));
    if (entries.isEmpty()) {
      return false;
    }
    List<Entry> giving = entries.stream().filter(e -> e.given() > 0).toList();
    Map<Long, Long> open = open(run.id(), from, entries.getLast().no());
    Locked locked =
        earmarks.lock(
            giving.stream()
                .flatMap(e -> e.parts().stream().map(p -> new Place(p.item(), p.node())))
                .distinct()
                .toList(),
            ids(giving, From::earmark),
            ids(giving, From::lotAt));
    List<Gift> gifts = new ArrayList<>();
    int changed = 0;
    long lost = 0;
    for (List<Entry> order : byOrder(giving)) {
      Map<Entry, List<Gift>> got = give(order, open, locked);
      boolean less = order.stream().anyMatch(e -> units(got, e) < e.given());
      if (less && order.stream().anyMatch(Entry::whole)) {
        got.values().forEach(its -> its.forEach(gift -> putBack(gift, locked)));
        got.clear();
      }
      for (Entry entry : order) {
        long units = units(got, entry);
        if (units < entry.given()) {
          store.changed(run.id(), entry.no(), units);
          changed++;
          lost += entry.given() - units;
        }
        gifts.addAll(got.getOrDefault(entry, List.of()));
      }
    }
    if (!gifts.isEmpty()) {
      earmarks.give(run.id(), gifts, run.madeBy());
    }
    store.done(run.id(), entries.getLast().no() + 1, changed, lost);
    return true;
  }

  private static List<Long> ids(List<Entry> entries, ToLongFunction<From> which) {
    return entries.stream()
        .flatMap(e -> e.parts().stream())
        .mapToLong(which)
        .filter(id -> id != 0)
        .distinct()
        .boxed()
        .toList();
  }

  /** Without the lines of an order whose others may not be among them. */
  private static List<Entry> wholeOrders(List<Entry> entries) {
    if (entries.size() < LINES) {
      return entries;
    }
    long last = entries.getLast().orderId();
    List<Entry> whole = entries.stream().filter(e -> e.orderId() != last).toList();
    return whole.isEmpty() ? entries : whole;
  }

  private static Collection<List<Entry>> byOrder(List<Entry> entries) {
    return entries.stream()
        .collect(Collectors.groupingBy(Entry::orderId, LinkedHashMap::new, Collectors.toList()))
        .values();
  }

  /**
   * Units that lines still want, of orders that may still go: these are locked, as whoever routes
   * one locks it before its stock.
   *
   * @param from the first of so many lines of the run, up to {@code to}
   */
  private Map<Long, Long> open(long run, int from, int to) {
    Condition among =
        ALLOCATION_RUN_LINE
            .RUN_ID
            .eq(run)
            .and(ALLOCATION_RUN_LINE.NO.between(from, to))
            .and(ALLOCATION_RUN_LINE.GIVEN.gt(0L));
    Set<Long> may =
        db.select(SALES_ORDER.ID)
            .from(SALES_ORDER)
            .where(
                SALES_ORDER.ID.in(
                    select(ALLOCATION_RUN_LINE.ORDER_ID).from(ALLOCATION_RUN_LINE).where(among)))
            .and(FoundLines.MAY_GO)
            .orderBy(SALES_ORDER.ID)
            .forUpdate()
            .fetchSet(SALES_ORDER.ID);
    var lines = select(ALLOCATION_RUN_LINE.ORDER_LINE_ID).from(ALLOCATION_RUN_LINE).where(among);
    var underWay =
        db.select(CONSIGNMENT_LINE.ORDER_LINE_ID, sum(CONSIGNMENT_LINE.ORDERED))
            .from(CONSIGNMENT_LINE)
            .join(CONSIGNMENT)
            .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
            .where(CONSIGNMENT_LINE.ORDER_LINE_ID.in(lines))
            .and(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
            .groupBy(CONSIGNMENT_LINE.ORDER_LINE_ID)
            .fetchMap(CONSIGNMENT_LINE.ORDER_LINE_ID, r -> r.value2().longValueExact());
    Map<Long, Long> open = new HashMap<>();
    db
        .select(
            ORDER_LINE.ID,
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED),
            ORDER_LINE.UNITS_EACH)
        .from(ORDER_LINE)
        .where(ORDER_LINE.ID.in(lines))
        .fetch()
        .stream()
        .filter(r -> may.contains(r.value2()))
        .forEach(r ->
            open.put(
                r.value1(), (r.value3() - underWay.getOrDefault(r.value1(), 0L)) * r.value4()));
    // a kit's line that was given anything was given all
    earmarks
        .ofLines(EARMARK.ORDER_LINE_ID.in(lines))
        .forEach((of, units) -> open.computeIfPresent(of.lineId(), (line, left) -> left - units));
    return open;
  }

  private static Map<Entry, List<Gift>> give(
      List<Entry> order, Map<Long, Long> open, Locked locked) {
    Map<Entry, List<Gift>> got = new LinkedHashMap<>();
    for (Entry entry : order) {
      List<Gift> gifts = gifts(entry, open.getOrDefault(entry.lineId(), 0L), locked);
      if (!gifts.isEmpty()) {
        got.put(entry, gifts);
      }
    }
    return got;
  }

  private static List<Gift> gifts(Entry entry, long open, Locked locked) {
    List<Gift> gifts = new ArrayList<>();
    long wanted = open;
    boolean all = !entry.ofKit() || open >= entry.given();
    for (From part : entry.parts()) {
      long units = entry.ofKit() ? part.units() : Math.min(wanted, part.units());
      Gift gift = gift(entry, part, units, locked);
      all &= !entry.ofKit() || gift.units() == part.units();
      if (gift.units() > 0) {
        wanted -= gift.units();
        gifts.add(gift);
      }
    }
    if (!all) {
      gifts.forEach(gift -> putBack(gift, locked));
    }
    return all ? gifts : List.of();
  }

  private static Gift gift(Entry entry, From part, long wanted, Locked locked) {
    long there =
        part.earmark() == 0
            ? locked.free().getOrDefault(new Place(part.item(), part.node()), 0L)
            : locked.earmarks().getOrDefault(part.earmark(), 0L);
    if (part.lotAt() != 0) {
      there = Math.min(there, locked.lots().getOrDefault(part.lotAt(), 0L));
    }
    Gift gift =
        new Gift(
            entry.orderId(),
            entry.lineId(),
            part.item(),
            part.node(),
            part.earmark(),
            part.lotAt(),
            Math.clamp(wanted, 0, there));
    take(gift, -gift.units(), locked);
    return gift;
  }

  private static void putBack(Gift gift, Locked locked) {
    take(gift, gift.units(), locked);
  }

  private static void take(Gift gift, long change, Locked locked) {
    if (gift.fromEarmark() == 0) {
      locked.free().merge(new Place(gift.itemId(), gift.nodeId()), change, Long::sum);
    } else {
      locked.earmarks().merge(gift.fromEarmark(), change, Long::sum);
    }
    if (gift.lotAt() != 0) {
      locked.lots().merge(gift.lotAt(), change, Long::sum);
    }
  }

  private static long units(Map<Entry, List<Gift>> got, Entry entry) {
    List<Gift> gifts = got.getOrDefault(entry, List.of());
    return entry.ofKit()
        ? (gifts.isEmpty() ? 0 : entry.given())
        : gifts.stream().mapToLong(Gift::units).sum();
  }

  /**
   * Orders are routed in the order in which they were served: those that got something, and, as the
   * settings say, those that got nothing, which then wait or are dealt with otherwise.
   */
  private void route(Run run) {
    RunSettings settings = run.settings();
    int from = store.run(run.id()).routedTo();
    while (true) {
      List<Entry> entries = wholeOrders(store.entries(run.id(), from, LINES));
      if (entries.isEmpty()) {
        return;
      }
      byOrder(entries).stream()
          .filter(order ->
              order.stream().anyMatch(e -> e.given() > 0)
                  ? settings.thenRoute()
                  : settings.recordShort())
          .forEach(order -> routing.route(order.getFirst().orderId()));
      from = entries.getLast().no() + 1;
      int routed = from;
      transactions.run(() -> store.routed(run.id(), routed));
    }
  }
}
