package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.coalesce;

import dev.ordinator.backorders.QueueStore.Row;
import dev.ordinator.channels.Channels;
import dev.ordinator.customers.Customers;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Routing.Shortage;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Substitutes;
import dev.ordinator.stock.Substitutes.Substitute;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Another item in place of one that is short: the first of its substitutes that fits the price and
 * is there. Only whole lines of plain items are replaced, and only where order or channel allow it
 * and the customer does not refuse.
 */
@Component
public class Substitution {
  private final DSLContext db;
  private final QueueStore store;
  private final Orders orders;
  private final Channels channels;
  private final Items items;
  private final Substitutes substitutes;
  private final Customers customers;
  private final Events events;

  Substitution(
      DSLContext db,
      QueueStore store,
      Orders orders,
      Channels channels,
      Items items,
      Substitutes substitutes,
      Customers customers,
      Events events) {
    this.db = db;
    this.store = store;
    this.orders = orders;
    this.channels = channels;
    this.items = items;
    this.substitutes = substitutes;
    this.customers = customers;
    this.events = events;
  }

  /** A line that lacks something, with what would be sent instead. */
  private record Choice(OrderLine line, String ordered, Substitute instead) {}

  /** What would be sent instead of what an order lacks; empty if nothing can be. */
  public List<String> offered(long orderId) {
    return choices(orders.head(orderId), lacking(orderId)).stream()
        .map(c ->
            "%d × %s instead of %s".formatted(c.line().quantity(), c.instead().name(), c.ordered()))
        .toList();
  }

  /**
   * Sends something else instead of what an order waits for; the order is routed again.
   *
   * @throws Problem if nothing can be
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void replace(OrderHead order, String actor) {
    if (!replace(order, lacking(order.id()), actor)) {
      throw Problem.conflict("nothing can be sent instead in " + order.number());
    }
    orders.wake(List.of(order.id()));
  }

  /**
   * The same for an order that was found short just now.
   *
   * @return false if some of what it lacks can't be replaced; nothing is changed then
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean replaceAll(OrderHead order, List<Shortage> missing, String actor) {
    Map<Long, Long> lacking = lacking(missing);
    return choices(order, lacking).size() == lacking.size() && replace(order, lacking, actor);
  }

  private boolean replace(OrderHead order, Map<Long, Long> lacking, String actor) {
    List<Choice> choices = choices(order, lacking);
    for (Choice choice : choices) {
      orders.replace(choice.line().id(), choice.instead().itemId());
      events.record(
          EventKind.WAITING,
          order.id(),
          null,
          actor,
          "%s is sent instead of %s".formatted(choice.instead().name(), choice.ordered()),
          "%d units; the buyer pays what was ordered".formatted(choice.line().quantity()));
    }
    if (!choices.isEmpty()) {
      orders.setWaiting(order.id(), false);
    }
    return !choices.isEmpty();
  }

  private Map<Long, Long> lacking(long orderId) {
    return store.ofOrders(List.of(orderId)).values().stream()
        .flatMap(List::stream)
        .filter(Row::lacking)
        .collect(Collectors.toMap(Row::lineId, Row::units, Long::sum));
  }

  private static Map<Long, Long> lacking(List<Shortage> missing) {
    return missing.stream()
        .filter(Shortage::lacking)
        .collect(Collectors.toMap(Shortage::lineId, Shortage::units, Long::sum));
  }

  /**
   * @param lacking units by line
   */
  private List<Choice> choices(OrderHead order, Map<Long, Long> lacking) {
    if (!mayReplace(order)) {
      return List.of();
    }
    List<OrderLine> lines =
        orders.lines(order.id()).stream()
            .filter(l -> Objects.equals(lacking.get(l.id()), l.quantity()))
            .toList();
    List<Long> ordered =
        lines.stream().map(l -> Objects.requireNonNull(l.itemId())).distinct().toList();
    Goods goods = items.byId(ordered);
    Map<Long, List<Substitute>> ranked = substitutes.of(ordered);
    Set<Long> all =
        ranked.values().stream()
            .flatMap(List::stream)
            .map(Substitute::itemId)
            .collect(Collectors.toSet());
    Map<Long, Long> free =
        new HashMap<>(items.free(all, channels.byId(order.channelId()).terms().nodes()));
    List<Choice> choices = new ArrayList<>();
    for (OrderLine line : lines) {
      var item = goods.of(line.itemId());
      Optional<Substitute> instead =
          item.isKit()
              ? Optional.empty()
              : ranked.getOrDefault(item.id(), List.of()).stream()
                  .filter(s -> s.fits(item.listPrice()))
                  .filter(s -> free.getOrDefault(s.itemId(), 0L) >= line.quantity())
                  .findFirst();
      instead.ifPresent(s -> {
        free.merge(s.itemId(), -line.quantity(), Long::sum);
        choices.add(new Choice(line, item.name(), s));
      });
    }
    return choices;
  }

  /** The order says, or else its channel; but never against its customer. */
  private boolean mayReplace(OrderHead order) {
    boolean agreed =
        Boolean.TRUE.equals(
            db.select(coalesce(SALES_ORDER.MAY_REPLACE, CHANNEL.MAY_REPLACE))
                .from(SALES_ORDER)
                .join(CHANNEL)
                .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
                .where(SALES_ORDER.ID.eq(order.id()))
                .fetchSingle()
                .value1());
    return agreed && !customers.wantsAsOrdered(order.email());
  }
}
