package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.allocation.RunStore.Entry;
import dev.ordinator.allocation.RunStore.From;
import dev.ordinator.allocation.RunStore.Run;
import dev.ordinator.desk.RouteNow;
import dev.ordinator.platform.Transactions;
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
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/**
 * Carries out runs that are committed: so many lines a transaction, each with how far it has come,
 * so that it goes on where it stood if its instance dies. What has changed since it was seen is
 * given as far as it can be, and the log says so.
 */
@Service
class RunWork {
  private static final int LINES = 2_000;

  private final DSLContext db;
  private final RunStore store;
  private final OrderEarmarks earmarks;
  private final RouteNow routing;
  private final Transactions transactions;

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
    loops.add("allocation-runs", this::workOnOne);
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
    if (run.settings().thenRoute()) {
      route(id);
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
    Map<Long, Long> open = open(giving);
    Locked locked =
        earmarks.lock(
            giving.stream()
                .flatMap(e -> e.parts().stream().map(p -> new Place(e.itemId(), p.node())))
                .distinct()
                .toList(),
            giving.stream()
                .flatMap(e -> e.parts().stream().map(From::earmark))
                .filter(earmark -> earmark != 0)
                .distinct()
                .toList());
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
   */
  private Map<Long, Long> open(List<Entry> entries) {
    Set<Long> orders = entries.stream().map(Entry::orderId).collect(Collectors.toSet());
    List<Long> may =
        db.select(SALES_ORDER.ID)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.in(orders))
            .and(OpenLines.MAY_GO)
            .orderBy(SALES_ORDER.ID)
            .forUpdate()
            .fetch(SALES_ORDER.ID);
    Map<Long, Long> open = new HashMap<>();
    db.select(
            ORDER_LINE.ID,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH))
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.in(may))
        .forEach(r -> open.put(r.value1(), r.value2()));
    db.select(CONSIGNMENT_LINE.ORDER_LINE_ID, sum(CONSIGNMENT_LINE.QUANTITY))
        .from(CONSIGNMENT_LINE)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .where(CONSIGNMENT.ORDER_ID.in(may))
        .and(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
        .groupBy(CONSIGNMENT_LINE.ORDER_LINE_ID)
        .forEach(r -> open.merge(r.value1(), -r.value2().longValueExact(), Long::sum));
    earmarks.ofLines(open.keySet()).forEach((line, units) -> open.merge(line, -units, Long::sum));
    return open;
  }

  private static Map<Entry, List<Gift>> give(
      List<Entry> order, Map<Long, Long> open, Locked locked) {
    Map<Entry, List<Gift>> got = new LinkedHashMap<>();
    for (Entry entry : order) {
      long wanted = open.getOrDefault(entry.lineId(), 0L);
      for (From part : entry.parts()) {
        Gift gift = gift(entry, part, Math.min(wanted, part.units()), locked);
        if (gift.units() > 0) {
          wanted -= gift.units();
          got.computeIfAbsent(entry, e -> new ArrayList<>()).add(gift);
        }
      }
    }
    return got;
  }

  private static Gift gift(Entry entry, From part, long wanted, Locked locked) {
    Place place = new Place(entry.itemId(), part.node());
    long there =
        part.earmark() == 0
            ? locked.free().getOrDefault(place, 0L)
            : locked.earmarks().getOrDefault(part.earmark(), 0L);
    long units = Math.clamp(wanted, 0, there);
    Gift gift =
        new Gift(
            entry.orderId(), entry.lineId(), entry.itemId(), part.node(), part.earmark(), units);
    take(gift, -units, locked);
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
  }

  private static long units(Map<Entry, List<Gift>> got, Entry entry) {
    return got.getOrDefault(entry, List.of()).stream().mapToLong(Gift::units).sum();
  }

  /** Orders that got something are routed, in the order in which they were served. */
  private void route(long id) {
    int from = store.run(id).routedTo();
    while (true) {
      List<Entry> entries = wholeOrders(store.entries(id, from, LINES));
      if (entries.isEmpty()) {
        return;
      }
      byOrder(entries).stream()
          .filter(order -> order.stream().anyMatch(e -> e.given() > 0))
          .forEach(order -> routing.route(order.getFirst().orderId()));
      from = entries.getLast().no() + 1;
      int routed = from;
      transactions.run(() -> store.routed(id, routed));
    }
  }
}
