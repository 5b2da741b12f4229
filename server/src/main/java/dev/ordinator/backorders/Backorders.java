package dev.ordinator.backorders;

import dev.ordinator.backorders.QueueStore.End;
import dev.ordinator.backorders.QueueStore.Row;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.routing.AllUnderWay;
import dev.ordinator.routing.Routing.Shortage;
import dev.ordinator.stock.Earmarks;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.StockGrew;
import dev.ordinator.stock.SupplyMoved;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Orders join the queues of what they lack, and leave them. */
@Service
public class Backorders {
  static final String QUEUE = "queue";

  private final QueueStore store;
  private final Orders orders;
  private final Consignments consignments;
  private final Snags snags;
  private final Items items;
  private final Earmarks earmarks;

  Backorders(
      QueueStore store,
      Orders orders,
      Consignments consignments,
      Snags snags,
      Items items,
      Earmarks earmarks) {
    this.store = store;
    this.orders = orders;
    this.consignments = consignments;
    this.snags = snags;
    this.items = items;
    this.earmarks = earmarks;
  }

  private record LineItem(long lineId, long itemId) {}

  /**
   * An order waits for what it lacks: at the places that it has already, or behind all of its
   * class. Queues that change for it are looked at as soon as this transaction ends.
   *
   * @return whether it had not waited before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean await(OrderHead order, List<Shortage> shortages) {
    Map<LineItem, Row> waiting = new HashMap<>();
    of(order.id()).forEach(row -> waiting.put(new LineItem(row.lineId(), row.itemId()), row));
    boolean first = waiting.isEmpty();
    TreeSet<Long> changed = new TreeSet<>();
    shortages.stream()
        .sorted(Comparator.comparingLong(Shortage::itemId).thenComparingLong(Shortage::lineId))
        .forEach(shortage -> {
          Row row = waiting.remove(new LineItem(shortage.lineId(), shortage.itemId()));
          if (row == null) {
            store.join(order.id(), shortage, store.placeFor(shortage.itemId(), order.priority()));
            changed.add(shortage.itemId());
          } else if (row.units() != shortage.units() || row.lacking() != shortage.lacking()) {
            store.change(row.id(), shortage.units(), shortage.lacking());
            changed.add(shortage.itemId());
          }
        });
    changed.addAll(leave(waiting.values(), End.LEFT));
    changed.forEach(item -> store.mark(item, false));
    if (!order.waiting()) {
      orders.setWaiting(order.id(), true);
      // they were left out while it did not wait
      shortages.stream()
          .map(Shortage::itemId)
          .filter(item -> !changed.contains(item))
          .distinct()
          .sorted()
          .forEach(item -> store.mark(item, false));
    }
    snagWhatIsNotExpected(order, shortages);
    return first;
  }

  /**
   * Items that are sold before they are sent, of which an order would have more than there may be
   * sold so; what it waits for already stays its own.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Set<Long> soldOutAhead(long orderId, List<Shortage> shortages) {
    Map<Long, Long> wanted =
        shortages.stream()
            .filter(Shortage::lacking)
            .collect(
                Collectors.groupingBy(Shortage::itemId, Collectors.summingLong(Shortage::units)));
    Set<Long> over = new HashSet<>();
    store
        .mostAhead(wanted.keySet())
        .forEach((item, most) -> {
          store.lock(item);
          if (store.neededByOthers(item, orderId) + wanted.getOrDefault(item, 0L) > most) {
            over.add(item);
          }
        });
    return over;
  }

  /** What nobody expects is a person's business at once; the rest is seen when dates are known. */
  private void snagWhatIsNotExpected(OrderHead order, List<Shortage> shortages) {
    List<Long> lacking =
        shortages.stream().filter(Shortage::lacking).map(Shortage::itemId).distinct().toList();
    for (StockedItem item : items.byId(lacking).byId().values()) {
      if (!store.isExpected(item.id())) {
        snag(item, order.id());
      }
    }
  }

  void snag(StockedItem item, long orderId) {
    snags.open(
        Snags.About.of(
                SnagCause.NO_STOCK,
                item.id(),
                item.name(),
                item.item().sku() + ": no node has enough for these orders, and none is expected")
            .item(item.id()),
        orderId,
        QUEUE);
  }

  /** All of an order is on its way. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void served(long orderId) {
    end(orderId, End.SERVED);
  }

  @EventListener
  void allUnderWay(AllUnderWay order) {
    served(order.orderId());
  }

  @EventListener
  void cancelled(Orders.Cancelled order) {
    end(order.orderId(), End.CANCELLED);
  }

  /** What is still wanted of it may be under way: then it waits for nothing any more. */
  @EventListener
  void unitsCancelled(Orders.UnitsCancelled order) {
    Map<Long, Long> underWay = consignments.underWay(order.orderId());
    Set<Long> open =
        orders.lines(order.orderId()).stream()
            .filter(line -> line.quantity() > underWay.getOrDefault(line.id(), 0L))
            .map(OrderLine::id)
            .collect(Collectors.toSet());
    List<Row> gone =
        of(order.orderId()).stream().filter(row -> !open.contains(row.lineId())).toList();
    leave(gone, End.CANCELLED).forEach(item -> store.mark(item, false));
    if (open.isEmpty()) {
      snags.leave(
          order.orderId(),
          List.of(SnagCause.NO_ROUTE, SnagCause.NODES_FULL, SnagCause.NOT_TO_WAIT));
    }
  }

  /** What it would have been given may go to those behind it. */
  @EventListener
  void held(Orders.Held order) {
    lookAgain(order.orderId(), false);
  }

  private void end(long orderId, End how) {
    orders.setWaiting(orderId, false);
    leave(of(orderId), how).forEach(item -> store.mark(item, false));
  }

  /** Gives the items whose queues are shorter now. */
  private TreeSet<Long> leave(Collection<Row> rows, End how) {
    if (!rows.isEmpty()) {
      store.close(rows.stream().map(Row::id).toList(), how);
    }
    rows.forEach(row -> snags.leave(row.orderId(), SnagCause.NO_STOCK, row.itemId()));
    return rows.stream().map(Row::itemId).collect(Collectors.toCollection(TreeSet::new));
  }

  /** The foremost place that an order has in a queue; empty: it is in none. */
  public Optional<Long> placeOf(long orderId) {
    return of(orderId).stream().filter(Row::lacking).map(Row::place).min(Long::compare);
  }

  /** An order takes a place that another has left. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void moveTo(long orderId, long place) {
    of(orderId).forEach(row -> store.place(row.id(), place));
  }

  /** Whoever is stuck with an order wants it tried again, in its turn. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void tryAgain(long orderId) {
    lookAgain(orderId, true);
  }

  private void lookAgain(long orderId, boolean stuckOnesToo) {
    of(orderId).stream()
        .map(Row::itemId)
        .distinct()
        .sorted()
        .forEach(item -> store.mark(item, stuckOnesToo));
  }

  private List<Row> of(long orderId) {
    return store.ofOrders(List.of(orderId)).values().stream().flatMap(List::stream).toList();
  }

  /**
   * There is more of an item: until its queue has been looked at, nobody but those in it may have
   * what they need of it.
   */
  @EventListener
  void stockGrew(StockGrew grew) {
    long needed = store.needed(grew.itemId());
    if (needed > 0) {
      earmarks.keepForWaiting(grew.itemId(), needed);
      store.mark(grew.itemId(), true);
    }
  }

  @EventListener
  void supplyMoved(SupplyMoved moved) {
    if (store.needed(moved.itemId()) > 0) {
      store.mark(moved.itemId(), false);
    }
  }
}
