package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_HOLD;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.backorders.Backorders;
import dev.ordinator.desk.RouteNow.Turn;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.OrderEarmarks;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;

/**
 * Moves stock from one order to another: what nobody has begun to pack is taken back from the one,
 * the other is routed at once, and the one waits in its stead. A person does it, having seen what
 * it does; only what an order on hold holds is freed by itself, as its channel's terms say.
 */
@Service
public class StockMoves {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(15);
  private static final int MOST = 100;
  private static final Logger LOG = LoggerFactory.getLogger(StockMoves.class);

  private final DSLContext db;
  private final Orders orders;
  private final Consignments consignments;
  private final OrderEarmarks earmarks;
  private final Backorders backorders;
  private final RouteStep routing;
  private final Events events;
  private final Transactions transactions;
  private final Clock clock;

  StockMoves(
      DSLContext db,
      Orders orders,
      Consignments consignments,
      OrderEarmarks earmarks,
      Backorders backorders,
      RouteStep routing,
      Events events,
      Transactions transactions,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.consignments = consignments;
    this.earmarks = earmarks;
    this.backorders = backorders;
    this.routing = routing;
    this.events = events;
    this.transactions = transactions;
    this.clock = clock;
  }

  /**
   * An order that holds some of what another waits for, and could give it.
   *
   * @param lower whether it is of a lower class than the one that waits
   * @param shipBy when it is to leave
   */
  record Holder(
      long orderId,
      String orderNumber,
      String buyer,
      int priority,
      boolean lower,
      String node,
      long units,
      LocalDate shipBy) {}

  /** Those of a lower class first, of one class those that leave last. */
  List<Holder> holders(long orderId, long itemId) {
    OrderHead waiting = orders.head(orderId);
    var units = sum(ALLOCATION.QUANTITY);
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.PRIORITY,
            NODE.NAME,
            units,
            CONSIGNMENT.SHIP_BY)
        .from(ALLOCATION)
        .join(CONSIGNMENT_LINE)
        .on(CONSIGNMENT_LINE.ID.eq(ALLOCATION.CONSIGNMENT_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .join(NODE)
        .on(NODE.ID.eq(ALLOCATION.NODE_ID))
        .where(ALLOCATION.ITEM_ID.eq(itemId))
        .and(ALLOCATION.ENDED_AT.isNull())
        .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED"))
        .andNotExists(
            selectOne()
                .from(CONSIGNMENT_LINE.as("begun"))
                .where(CONSIGNMENT_LINE.as("begun").CONSIGNMENT_ID.eq(CONSIGNMENT.ID))
                .and(CONSIGNMENT_LINE.as("begun").PACKED.gt(0L)))
        .groupBy(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.PRIORITY,
            NODE.NAME,
            CONSIGNMENT.SHIP_BY)
        .orderBy(SALES_ORDER.PRIORITY.desc(), CONSIGNMENT.SHIP_BY.desc(), SALES_ORDER.ID.desc())
        .limit(MOST)
        .fetch(r ->
            new Holder(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value4() > waiting.priority(),
                r.value5(),
                r.value6().longValueExact(),
                r.value7()));
  }

  /** What moving does: what becomes of the one, and of the other. */
  record Moved(String orderNumber, String becomes, String fromNumber, String fromBecomes) {}

  Moved preview(long orderId, long fromId, String actor) {
    return transactions.preview(() -> move(orderId, fromId, actor));
  }

  Moved take(long orderId, long fromId, String actor) {
    return transactions.get(() -> move(orderId, fromId, actor));
  }

  private Moved move(long orderId, long fromId, String actor) {
    if (orderId == fromId) {
      throw Problem.invalid("from", "that is the same order");
    }
    // in one order, as whoever else moves something between them
    orders.lock(Math.min(orderId, fromId));
    orders.lock(Math.max(orderId, fromId));
    OrderHead order = orders.head(orderId);
    OrderHead from = orders.head(fromId);
    if (!order.waiting() || order.held()) {
      throw Problem.conflict(order.number() + " does not wait, or is held");
    }
    Optional<Long> place = backorders.placeOf(orderId);
    if (consignments.withdrawUnpacked(fromId, actor, "given to " + order.number()).isEmpty()) {
      throw Problem.conflict("somebody packs " + from.number() + " already");
    }
    if (routing.fromQueue(order) != Turn.SENT) {
      throw Problem.conflict(
          "what %s holds is not enough for %s".formatted(from.number(), order.number()));
    }
    events.record(EventKind.WAITING, orderId, actor, "Takes what " + from.number() + " held");
    consignments.refresh(fromId);
    boolean sent = routing.fromQueue(orders.head(fromId)) == Turn.SENT;
    if (!sent) {
      place.ifPresent(p -> backorders.moveTo(fromId, p));
    }
    return new Moved(
        order.number(),
        "is sent now " + way(orderId),
        from.number(),
        sent ? "is sent otherwise, " + way(fromId) : "waits in its place");
  }

  /** From where an order is sent, and when it arrives. */
  private String way(long orderId) {
    return db
        .select(NODE.NAME, CONSIGNMENT.ARRIVAL_ON)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED"))
        .orderBy(CONSIGNMENT.ID)
        .fetch(r -> "from %s, there %s".formatted(r.value1(), Texts.day(r.value2())))
        .stream()
        .collect(Collectors.joining("; "));
  }

  @Bean
  RecurringTask<Void> freeWhatIsHeld() {
    return Tasks.recurring("free-what-is-held", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> freeHeld());
  }

  /** Frees what orders hold that have been on hold for too long; gives how many. */
  public int freeHeld() {
    int freed = 0;
    for (var r :
        db.select(SALES_ORDER.ID, CHANNEL.FREE_HELD, min(ORDER_HOLD.PLACED_AT))
            .from(SALES_ORDER)
            .join(CHANNEL)
            .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
            .join(ORDER_HOLD)
            .on(ORDER_HOLD.ORDER_ID.eq(SALES_ORDER.ID))
            .and(ORDER_HOLD.RELEASED_AT.isNull())
            .where(SALES_ORDER.HELD)
            .and(CHANNEL.FREE_HELD.isNotNull())
            .and(
                exists(
                        selectOne()
                            .from(CONSIGNMENT)
                            .where(CONSIGNMENT.ORDER_ID.eq(SALES_ORDER.ID))
                            .and(CONSIGNMENT.STATE.eq("PLANNED")))
                    .or(
                        exists(
                            selectOne()
                                .from(EARMARK)
                                .join(ORDER_LINE)
                                .on(ORDER_LINE.ID.eq(EARMARK.ORDER_LINE_ID))
                                .where(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
                                .and(EARMARK.CLOSED_AT.isNull()))))
            .groupBy(SALES_ORDER.ID, CHANNEL.FREE_HELD)
            .fetch()) {
      boolean over = r.value3().plus(r.value2(), ChronoUnit.HOURS).isBefore(clock.instant());
      if (over && isFreed(r.value1(), r.value2())) {
        freed++;
      }
    }
    return freed;
  }

  private boolean isFreed(long orderId, int hours) {
    try {
      return transactions.get(() -> {
        OrderHead order = orders.lock(orderId);
        if (!order.held()) {
          return false;
        }
        consignments.withdrawUnpacked(orderId, OrderDesk.DESK, "it is on hold");
        earmarks.endOf(orderId, OrderDesk.DESK);
        consignments.refresh(orderId);
        events.record(
            EventKind.WAITING,
            orderId,
            OrderDesk.DESK,
            "What it held is free: it has been on hold for more than %d hours".formatted(hours));
        return true;
      });
    } catch (RuntimeException e) {
      LOG.error("what order {} holds could not be freed; tried again later", orderId, e);
      return false;
    }
  }
}
