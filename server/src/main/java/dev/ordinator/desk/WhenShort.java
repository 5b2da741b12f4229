package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.backorders.Backorders;
import dev.ordinator.backorders.Lacking;
import dev.ordinator.backorders.Substitution;
import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.channels.ShortTerms;
import dev.ordinator.channels.ShortTerms.Agreed;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.orders.Step;
import dev.ordinator.routing.Routing.Shortage;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * What becomes of an order for which there is not enough: it waits, if the order says so, or its
 * channel and the items do; else it is dealt with as the channel's terms say.
 */
@Component
class WhenShort {
  private final DSLContext db;
  private final Backorders backorders;
  private final Substitution substitution;
  private final ShortTerms terms;
  private final Lacking lacking;
  private final Cancellations cancellations;
  private final Orders orders;
  private final Snags snags;
  private final RuleDesk rules;

  WhenShort(
      DSLContext db,
      Backorders backorders,
      Substitution substitution,
      ShortTerms terms,
      Lacking lacking,
      Cancellations cancellations,
      Orders orders,
      Snags snags,
      RuleDesk rules) {
    this.db = db;
    this.backorders = backorders;
    this.substitution = substitution;
    this.terms = terms;
    this.lacking = lacking;
    this.cancellations = cancellations;
    this.orders = orders;
    this.snags = snags;
    this.rules = rules;
  }

  /** Rules look when an order is found short, not at every look that follows. */
  void decide(OrderHead order, List<Shortage> missing) {
    Agreed agreed = terms.of(order.channelId());
    Set<Long> mayNot = mayNotWaitFor(order, agreed, missing);
    if (mayNot.isEmpty()) {
      if (backorders.await(order, missing)) {
        rules.apply(order.id(), RuleEvent.SHORT);
      }
      return;
    }
    List<Shortage> refused = missing.stream().filter(s -> mayNot.contains(s.itemId())).toList();
    switch (agreed.ifNot()) {
      case CANCEL -> cancel(order, refused);
      case REPLACE -> {
        if (substitution.replaceAll(order, refused, OrderDesk.DESK)) {
          orders.setNext(order.id(), Step.ROUTE);
        } else {
          snag(order, refused);
        }
      }
      case SNAG -> snag(order, refused);
    }
  }

  private Set<Long> mayNotWaitFor(OrderHead order, Agreed agreed, List<Shortage> missing) {
    Set<Long> items =
        missing.stream()
            .filter(Shortage::lacking)
            .map(Shortage::itemId)
            .collect(Collectors.toSet());
    Boolean said =
        db.select(SALES_ORDER.MAY_WAIT)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(order.id()))
            .fetchSingle()
            .value1();
    if (said != null) {
      return said ? Set.of() : items;
    }
    if (!agreed.mayWait()) {
      return items;
    }
    Set<Long> mayNot =
        new HashSet<>(
            db.select(ITEM.ID)
                .from(ITEM)
                .where(ITEM.ID.in(items))
                .and(ITEM.MAY_WAIT.isFalse())
                .fetch(ITEM.ID));
    mayNot.addAll(backorders.soldOutAhead(order.id(), missing));
    return mayNot;
  }

  private void cancel(OrderHead order, List<Shortage> refused) {
    Map<Long, Long> units = lacking.units(order.id(), refused);
    cancellations.part(order, units, "it is short, and may not wait", OrderDesk.DESK);
  }

  private void snag(OrderHead order, List<Shortage> refused) {
    snags.open(
        Snags.About.of(
                SnagCause.NOT_TO_WAIT,
                order.id(),
                order.number() + ", " + order.buyerName(),
                "%d units are short, and may not wait"
                    .formatted(refused.stream().mapToLong(Shortage::units).sum()))
            .order(order.id()),
        order.id(),
        OrderDesk.DESK);
  }
}
