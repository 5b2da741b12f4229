package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.condition;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Duration;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Orders of the same buyer for the same goods within hours, of one channel or of several: most
 * likely somebody pressed a button twice. Both are marked until a person keeps both or cancels one;
 * rules may hold the later one until then.
 */
@Component
class OrderedTwice {
  /** The hours, for the database. */
  private static final int WITHIN = 12;

  private final DSLContext db;
  private final Orders orders;
  private final Snags snags;
  private final Clock clock;

  OrderedTwice(DSLContext db, Orders orders, Snags snags, Clock clock) {
    this.db = db;
    this.orders = orders;
    this.snags = snags;
    this.clock = clock;
  }

  /** Of some mail addresses, those from which an order came within these hours; in lower case. */
  Set<String> recentBuyers(Collection<String> emails) {
    return new HashSet<>(
        db.selectDistinct(lower(SALES_ORDER.EMAIL))
            .from(SALES_ORDER)
            .where(SALES_ORDER.EMAIL.in(emails.stream().filter(e -> !e.isBlank()).toList()))
            .and(SALES_ORDER.RECEIVED_AT.ge(clock.instant().minus(Duration.ofHours(WITHIN))))
            .fetch(r -> r.value1()));
  }

  /** Of some orders, those that were ordered before, and by which order. */
  Map<Long, Long> earlier(Collection<Long> orderIds) {
    var before = SALES_ORDER.as("earlier_order");
    Map<Long, List<Long>> candidates =
        db.select(SALES_ORDER.ID, before.ID)
            .from(SALES_ORDER)
            .join(before)
            .on(before.EMAIL.eq(SALES_ORDER.EMAIL))
            .and(before.ID.lt(SALES_ORDER.ID))
            .and(
                condition(
                    "{0} >= {1} - interval {2} hour",
                    before.RECEIVED_AT, SALES_ORDER.RECEIVED_AT, inline(WITHIN)))
            .where(SALES_ORDER.ID.in(orderIds))
            .and(SALES_ORDER.EMAIL.ne(""))
            .and(before.STAGE.ne(Stage.CANCELLED.name()))
            .orderBy(before.ID.desc())
            .fetchGroups(SALES_ORDER.ID, before.ID);
    if (candidates.isEmpty()) {
      return Map.of();
    }
    Set<Long> all = new HashSet<>(candidates.keySet());
    candidates.values().forEach(all::addAll);
    Map<Long, Map<String, Long>> goods = goods(all);
    Map<Long, Long> twins = new HashMap<>();
    candidates.forEach((order, others) -> {
      Map<String, Long> its = goods.getOrDefault(order, Map.of());
      others.stream()
          .filter(other -> !its.isEmpty() && its.equals(goods.get(other)))
          .findFirst()
          .ifPresent(other -> twins.put(order, other));
    });
    return twins;
  }

  /** What each wants: units by item, or by listing where nobody knows the item yet. */
  private Map<Long, Map<String, Long>> goods(Collection<Long> orderIds) {
    Map<Long, Map<String, Long>> goods = new HashMap<>();
    db.select(
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.ITEM_ID,
            ORDER_LINE.LISTING_ID,
            sum(ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH)))
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.in(orderIds))
        .groupBy(ORDER_LINE.ORDER_ID, ORDER_LINE.ITEM_ID, ORDER_LINE.LISTING_ID)
        .forEach(r ->
            goods
                .computeIfAbsent(r.value1(), id -> new TreeMap<>())
                .merge(
                    r.value2() == null ? "listing " + r.value3() : "item " + r.value2(),
                    r.value4().longValueExact(),
                    Long::sum));
    return goods;
  }

  /** Marks an order and the one before it, if a person has not seen these two yet. */
  void markIfTwice(OrderHead order) {
    Long other = earlier(List.of(order.id())).get(order.id());
    if (other == null) {
      return;
    }
    OrderHead first = orders.head(other);
    String subject = first.id() + ":" + order.id();
    boolean seen =
        db.fetchExists(
            SNAG, SNAG.CAUSE.eq(SnagCause.ORDERED_TWICE.name()).and(SNAG.SUBJECT.eq(subject)));
    if (!seen) {
      Snags.About about =
          Snags.About.of(
                  SnagCause.ORDERED_TWICE,
                  subject,
                  "%s and %s, %s".formatted(first.number(), order.number(), order.buyerName()),
                  "the same buyer, the same goods, within hours")
              .order(order.id());
      snags.open(about, first.id(), OrderDesk.DESK);
      snags.open(about, order.id(), OrderDesk.DESK);
    }
  }

  /** The two orders that an open snag of one of them is about, the earlier first. */
  List<Long> pair(long orderId) {
    return db.select(SNAG.SUBJECT)
        .from(SNAG)
        .join(SNAG_ORDER)
        .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
        .where(SNAG_ORDER.ORDER_ID.eq(orderId))
        .and(SNAG.CAUSE.eq(SnagCause.ORDERED_TWICE.name()))
        .and(SNAG.CLOSED_AT.isNull())
        .limit(1)
        .fetchOptional(SNAG.SUBJECT)
        .map(subject -> List.of(subject.split(":")).stream().map(Long::valueOf).toList())
        .orElseThrow(() -> Problem.conflict("nobody asks whether it was ordered twice any more"));
  }

  /** They were meant: both go on. */
  @Transactional
  void keepBoth(long orderId, String actor) {
    List<Long> pair = pair(orderId);
    snags.close(SnagCause.ORDERED_TWICE, pair.getFirst() + ":" + pair.getLast(), actor);
  }

  /** One of them is gone: the other is the only one. */
  @EventListener
  void cancelled(Orders.Cancelled order) {
    db.select(SNAG.SUBJECT)
        .from(SNAG)
        .join(SNAG_ORDER)
        .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
        .where(SNAG_ORDER.ORDER_ID.eq(order.orderId()))
        .and(SNAG.CAUSE.eq(SnagCause.ORDERED_TWICE.name()))
        .and(SNAG.CLOSED_AT.isNull())
        .fetch(SNAG.SUBJECT)
        .forEach(subject -> snags.close(SnagCause.ORDERED_TWICE, subject, OrderDesk.DESK));
  }
}
