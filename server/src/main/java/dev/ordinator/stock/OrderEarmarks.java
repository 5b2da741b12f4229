package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.orders.Orders;
import dev.ordinator.platform.RowBatch;
import java.time.Clock;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Units that runs give to lines: set aside for the order, taken first when it is routed, and free
 * again when it needs them no more.
 */
@Service
public class OrderEarmarks {
  private static final String ORDER = Earmarks.Kind.ORDER.name();

  private final DSLContext db;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  OrderEarmarks(DSLContext db, ApplicationEventPublisher publisher, Clock clock) {
    this.db = db;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** An item at a node. */
  public record Place(long itemId, long nodeId) {}

  /**
   * What there is to give, kept from others until the transaction ends.
   *
   * @param free units by place
   * @param earmarks what is left of each earmark
   */
  public record Locked(Map<Place, Long> free, Map<Long, Long> earmarks) {}

  /**
   * Units for a line.
   *
   * @param fromEarmark out of which they come; 0: they are free
   */
  public record Gift(
      long orderId, long lineId, long itemId, long nodeId, long fromEarmark, long units) {
    Place place() {
      return new Place(itemId, nodeId);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public Locked lock(Collection<Place> places, Collection<Long> earmarks) {
    Map<Place, Long> free = new HashMap<>();
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, Levels.FREE)
        .from(STOCK_LEVEL)
        .where(
            DSL.row(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
                .in(places.stream().map(p -> DSL.row(p.itemId(), p.nodeId())).toList()))
        .orderBy(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
        .forUpdate()
        .forEach(r -> free.put(new Place(r.value1(), r.value2()), Math.max(0, r.value3())));
    Map<Long, Long> left =
        db.select(EARMARK.ID, EARMARK.UNITS)
            .from(EARMARK)
            .where(EARMARK.ID.in(earmarks))
            .and(EARMARK.CLOSED_AT.isNull())
            .orderBy(EARMARK.ID)
            .forUpdate()
            .fetchMap(EARMARK.ID, EARMARK.UNITS);
    return new Locked(free, left);
  }

  /** Sets units aside for lines; the places and earmarks are locked, and have so many. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void give(long runId, List<Gift> gifts, String actor) {
    Map<Place, Long> free = new LinkedHashMap<>();
    Map<Long, Long> taken = new LinkedHashMap<>();
    RowBatch rows = new RowBatch(db, EARMARK);
    for (Gift gift : gifts) {
      if (gift.fromEarmark() == 0) {
        free.merge(gift.place(), gift.units(), Long::sum);
      } else {
        taken.merge(gift.fromEarmark(), gift.units(), Long::sum);
      }
      rows.add(row(runId, gift, actor));
    }
    db.batch(
            free.entrySet().stream()
                .sorted(
                    Comparator.comparingLong((Map.Entry<Place, Long> e) -> e.getKey().itemId())
                        .thenComparingLong(e -> e.getKey().nodeId()))
                .map(e ->
                    db.update(STOCK_LEVEL)
                        .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.plus(e.getValue()))
                        .where(STOCK_LEVEL.ITEM_ID.eq(e.getKey().itemId()))
                        .and(STOCK_LEVEL.NODE_ID.eq(e.getKey().nodeId())))
                .toList())
        .execute();
    taken.forEach((id, units) ->
        db.update(EARMARK)
            .set(EARMARK.UNITS, EARMARK.UNITS.minus(units))
            .where(EARMARK.ID.eq(id))
            .execute());
    rows.insert();
    gifts.stream()
        .map(Gift::itemId)
        .distinct()
        .sorted()
        .forEach(item -> publisher.publishEvent(new SupplyMoved(item)));
  }

  private Map<Field<?>, @Nullable Object> row(long runId, Gift gift, String actor) {
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    row.put(EARMARK.ITEM_ID, gift.itemId());
    row.put(EARMARK.NODE_ID, gift.nodeId());
    row.put(EARMARK.QUANTITY, gift.units());
    row.put(EARMARK.UNITS, gift.units());
    row.put(EARMARK.KIND, ORDER);
    row.put(EARMARK.WHO, String.valueOf(gift.orderId()));
    row.put(EARMARK.ORDER_LINE_ID, gift.lineId());
    row.put(EARMARK.RUN_ID, runId);
    row.put(EARMARK.TAKEN_FROM, gift.fromEarmark() == 0 ? null : gift.fromEarmark());
    row.put(EARMARK.NOTED_BY, actor);
    row.put(EARMARK.NOTED_AT, clock.instant());
    return row;
  }

  /** Units that are set aside for lines, by line. */
  public Map<Long, Long> ofLines(Collection<Long> lineIds) {
    return db.select(EARMARK.ORDER_LINE_ID, sum(EARMARK.UNITS))
        .from(EARMARK)
        .where(EARMARK.KIND.eq(ORDER))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.ORDER_LINE_ID.in(lineIds))
        .groupBy(EARMARK.ORDER_LINE_ID)
        .fetchMap(EARMARK.ORDER_LINE_ID, r -> r.value2().longValueExact());
  }

  /** Whether all that a run gave is still set aside, so that it can be taken back. */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean isUntouched(long runId) {
    return !db.fetchExists(
        EARMARK,
        EARMARK
            .RUN_ID
            .eq(runId)
            .and(EARMARK.CLOSED_AT.isNotNull().or(EARMARK.UNITS.ne(EARMARK.QUANTITY))));
  }

  /** Takes back what a run gave: it is where it was. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void takeBack(long runId, String actor) {
    end(EARMARK.RUN_ID.eq(runId), actor);
  }

  /** What is left of what was given to an order is free again. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void endOf(long orderId, String actor) {
    end(EARMARK.KIND.eq(ORDER).and(EARMARK.WHO.eq(String.valueOf(orderId))), actor);
  }

  @EventListener
  void cancelled(Orders.Cancelled order) {
    endOf(order.orderId(), "stock");
  }

  private void end(Condition which, String actor) {
    var open =
        db.select(EARMARK.ID, EARMARK.ITEM_ID, EARMARK.NODE_ID, EARMARK.UNITS, EARMARK.TAKEN_FROM)
            .from(EARMARK)
            .where(which)
            .and(EARMARK.CLOSED_AT.isNull())
            .orderBy(EARMARK.ITEM_ID, EARMARK.NODE_ID, EARMARK.ID)
            .fetch();
    if (open.isEmpty()) {
      return;
    }
    lock(open.map(r -> new Place(r.value2(), r.value3())), open.getValues(EARMARK.ID));
    TreeSet<Long> grew = new TreeSet<>();
    for (var e : open) {
      db.update(EARMARK)
          .set(EARMARK.CLOSED_AT, clock.instant())
          .where(EARMARK.ID.eq(e.value1()))
          .execute();
      if (e.value4() > 0 && !isBackInEarmark(e.value5(), e.value4())) {
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.minus(e.value4()))
            .where(STOCK_LEVEL.ITEM_ID.eq(e.value2()))
            .and(STOCK_LEVEL.NODE_ID.eq(e.value3()))
            .execute();
        grew.add(e.value2());
      }
    }
    grew.forEach(item -> publisher.publishEvent(new StockGrew(item, actor)));
  }

  private boolean isBackInEarmark(@Nullable Long earmark, long units) {
    return earmark != null
        && db.update(EARMARK)
                .set(EARMARK.UNITS, EARMARK.UNITS.plus(units))
                .where(EARMARK.ID.eq(earmark))
                .and(EARMARK.CLOSED_AT.isNull())
                .execute()
            == 1;
  }
}
