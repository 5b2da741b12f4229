package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.excluded;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.orders.Orders;
import dev.ordinator.platform.RowBatch;
import java.time.Clock;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BinaryOperator;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record6;
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
  private static final int AT_ONCE = 2_000;

  private final DSLContext db;
  private final StockPlaces places;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  OrderEarmarks(
      DSLContext db, StockPlaces places, ApplicationEventPublisher publisher, Clock clock) {
    this.db = db;
    this.places = places;
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
   * @param lots units that nobody holds where lots lie, by the id of that place
   */
  public record Locked(Map<Place, Long> free, Map<Long, Long> earmarks, Map<Long, Long> lots) {}

  /**
   * Units for a line.
   *
   * @param fromEarmark out of which they come; 0: they are free
   * @param lotAt where the lot lies that is named; 0: none is
   */
  public record Gift(
      long orderId,
      long lineId,
      long itemId,
      long nodeId,
      long fromEarmark,
      long lotAt,
      long units) {
    Place place() {
      return new Place(itemId, nodeId);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public Locked lock(Collection<Place> levels, Collection<Long> earmarks, Collection<Long> lotsAt) {
    Map<Place, Long> free = new HashMap<>();
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, Levels.FREE)
        .from(STOCK_LEVEL)
        .where(
            DSL.row(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
                .in(levels.stream().map(p -> DSL.row(p.itemId(), p.nodeId())).toList()))
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
    var unheld = STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED);
    Map<Long, Long> lots =
        lotsAt.isEmpty()
            ? Map.of()
            : db.select(STOCK_PLACE.ID, unheld)
                .from(STOCK_PLACE)
                .where(STOCK_PLACE.ID.in(lotsAt))
                .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
                .orderBy(STOCK_PLACE.ID)
                .forUpdate()
                .fetchMap(STOCK_PLACE.ID, unheld);
    return new Locked(free, left, new HashMap<>(lots));
  }

  /**
   * Sets units aside for lines; the places and earmarks are locked, and have so many. Whoever waits
   * for the items is told by {@link #moved} once all is given.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void give(long runId, List<Gift> gifts, String actor) {
    Map<Place, Long> free = new HashMap<>();
    Map<Long, Long> taken = new TreeMap<>();
    Map<Long, Long> named = new TreeMap<>();
    RowBatch rows = new RowBatch(db, EARMARK);
    for (Gift gift : gifts) {
      if (gift.fromEarmark() == 0) {
        free.merge(gift.place(), gift.units(), Long::sum);
      } else {
        taken.merge(gift.fromEarmark(), -gift.units(), Long::sum);
      }
      if (gift.lotAt() != 0) {
        named.merge(gift.lotAt(), gift.units(), Long::sum);
      }
      rows.add(row(runId, gift, actor));
    }
    setAside(free, Field::plus);
    taken.forEach(this::change);
    rows.insert();
    named.forEach(places::hold);
  }

  /** A run has given what it gives of items: those who wait for them may have to wait longer. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void moved(long runId) {
    db.selectDistinct(EARMARK.ITEM_ID)
        .from(EARMARK)
        .where(EARMARK.RUN_ID.eq(runId))
        .orderBy(EARMARK.ITEM_ID)
        .fetch(EARMARK.ITEM_ID)
        .forEach(item -> publisher.publishEvent(new SupplyMoved(item)));
  }

  /**
   * Changes what is set aside at places, many in one statement; they are there, and locked.
   *
   * @param by adds or takes away
   */
  private void setAside(Map<Place, Long> units, BinaryOperator<Field<Long>> by) {
    List<Map.Entry<Place, Long>> all = List.copyOf(units.entrySet());
    for (int from = 0; from < all.size(); from += AT_ONCE) {
      var insert =
          db.insertInto(
              STOCK_LEVEL,
              STOCK_LEVEL.ITEM_ID,
              STOCK_LEVEL.NODE_ID,
              STOCK_LEVEL.ON_HAND,
              STOCK_LEVEL.EARMARKED);
      for (var e : all.subList(from, Math.min(all.size(), from + AT_ONCE))) {
        insert = insert.values(e.getKey().itemId(), e.getKey().nodeId(), 0L, e.getValue());
      }
      insert
          .onDuplicateKeyUpdate()
          .set(
              STOCK_LEVEL.EARMARKED,
              by.apply(STOCK_LEVEL.EARMARKED, excluded(STOCK_LEVEL.EARMARKED)))
          .execute();
    }
  }

  private void change(long earmark, long units) {
    db.update(EARMARK)
        .set(EARMARK.UNITS, EARMARK.UNITS.plus(units))
        .where(EARMARK.ID.eq(earmark))
        .execute();
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
    row.put(EARMARK.PLACE_ID, gift.lotAt() == 0 ? null : gift.lotAt());
    row.put(EARMARK.NOTED_BY, actor);
    row.put(EARMARK.NOTED_AT, clock.instant());
    return row;
  }

  /** What a line needs: of a kit's line, one of its components. */
  public record LineItem(long lineId, long itemId) {}

  /** Units that are set aside for lines. */
  public Map<LineItem, Long> ofLines(Collection<Long> lineIds) {
    return ofLines(EARMARK.ORDER_LINE_ID.in(lineIds));
  }

  /** Units that are set aside for any line. */
  public Map<LineItem, Long> ofAllLines() {
    return ofLines(noCondition());
  }

  /**
   * Units that are set aside for lines.
   *
   * @param which a condition on earmarks
   */
  public Map<LineItem, Long> ofLines(org.jooq.Condition which) {
    Map<LineItem, Long> units = new HashMap<>();
    db.select(EARMARK.ORDER_LINE_ID, EARMARK.ITEM_ID, sum(EARMARK.UNITS))
        .from(EARMARK)
        .where(EARMARK.KIND.eq(ORDER))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.UNITS.gt(0L))
        .and(which)
        .groupBy(EARMARK.ORDER_LINE_ID, EARMARK.ITEM_ID)
        .forEach(r -> units.put(new LineItem(r.value1(), r.value2()), r.value3().longValueExact()));
    return units;
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

  /** What was given of lots that may not be sent any more is given to nobody. */
  @Transactional(propagation = Propagation.MANDATORY)
  void endOfLots(org.jooq.Condition lots, String actor) {
    end(
        EARMARK.PLACE_ID.in(
            select(STOCK_PLACE.ID)
                .from(STOCK_PLACE)
                .join(LOT)
                .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
                .where(lots)),
        actor);
  }

  @EventListener
  void cancelled(Orders.Cancelled order) {
    endOf(order.orderId(), "stock");
  }

  private void end(org.jooq.Condition which, String actor) {
    var open =
        db.select(
                EARMARK.ID,
                EARMARK.ITEM_ID,
                EARMARK.NODE_ID,
                EARMARK.UNITS,
                EARMARK.TAKEN_FROM,
                EARMARK.PLACE_ID)
            .from(EARMARK)
            .where(which)
            .and(EARMARK.CLOSED_AT.isNull())
            .orderBy(EARMARK.ITEM_ID, EARMARK.NODE_ID, EARMARK.ID)
            .fetch();
    if (open.isEmpty()) {
      return;
    }
    Set<Long> sources =
        lock(
                open.map(r -> new Place(r.value2(), r.value3())),
                open.stream().map(Record6::value5).filter(Objects::nonNull).distinct().toList(),
                List.of())
            .earmarks()
            .keySet();
    db.update(EARMARK)
        .set(EARMARK.CLOSED_AT, clock.instant())
        .where(which)
        .and(EARMARK.CLOSED_AT.isNull())
        .execute();
    Map<Place, Long> free = new HashMap<>();
    Map<Long, Long> back = new TreeMap<>();
    Map<Long, Long> named = new TreeMap<>();
    for (var e : open) {
      long units = e.value4();
      if (units > 0 && e.value6() != null) {
        named.merge(e.value6(), -units, Long::sum);
      }
      if (e.value5() != null && sources.contains(e.value5())) {
        back.merge(e.value5(), units, Long::sum);
      } else if (units > 0) {
        free.merge(new Place(e.value2(), e.value3()), units, Long::sum);
      }
    }
    named.forEach(places::hold);
    back.forEach(this::change);
    setAside(free, Field::minus);
    free.keySet().stream()
        .map(Place::itemId)
        .distinct()
        .sorted()
        .forEach(item -> publisher.publishEvent(new StockGrew(item, actor)));
  }
}
