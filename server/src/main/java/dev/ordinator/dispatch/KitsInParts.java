package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;

import dev.ordinator.core.catalog.Whole;
import dev.ordinator.core.catalog.Whole.Piece;
import dev.ordinator.core.dispatch.ConsignmentState;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Kits whose components go in parcels of their own. Such a line has gone as far as its last
 * component; the parcel that completes a kit bears it ({@code consignment_line.ordered}), so that
 * it counts, and is told to its channel, once.
 */
@Component
public class KitsInParts {
  /** Those on their way in the order in which they left, then those that are nearest to it. */
  private static final Comparator<Row> BY_PROGRESS =
      Comparator.comparing(Row::leftAt, Comparator.nullsLast(Comparator.naturalOrder()))
          .thenComparing(Row::state, Comparator.reverseOrder())
          .thenComparing(Row::id);

  private final DSLContext db;

  KitsInParts(DSLContext db) {
    this.db = db;
  }

  /**
   * Units of a component in a parcel.
   *
   * @param open units of its line that are wanted, as the channel counts them
   */
  private record Row(
      long id,
      long lineId,
      long itemId,
      long units,
      long ordered,
      ConsignmentState state,
      @Nullable Instant leftAt,
      long open,
      long unitsEach) {}

  /** Units of such lines, as items, that got as far as each state or further. */
  Map<Long, Map<ConsignmentState, Long>> reached(long orderId) {
    Map<Long, List<Row>> byLine = rows(List.of(orderId));
    if (byLine.isEmpty()) {
      return Map.of();
    }
    Map<Long, Map<Long, Long>> parts = parts(orderId);
    Map<Long, Map<ConsignmentState, Long>> reached = new LinkedHashMap<>();
    byLine.forEach((line, rows) -> {
      Map<ConsignmentState, Long> units = new EnumMap<>(ConsignmentState.class);
      for (ConsignmentState state : ConsignmentState.values()) {
        Map<Long, Long> there =
            rows.stream()
                .filter(row -> row.state().reached(state))
                .collect(Collectors.groupingBy(Row::itemId, Collectors.summingLong(Row::units)));
        Row any = rows.getFirst();
        units.put(state, Whole.units(there, one(any, parts)) * any.unitsEach());
      }
      reached.put(line, units);
    });
    return reached;
  }

  /** Units of components that nodes have already, by line and item. */
  public Map<Long, Map<Long, Long>> underWay(Collection<Long> orderIds) {
    Map<Long, Map<Long, Long>> underWay = new HashMap<>();
    rows(orderIds)
        .forEach((line, rows) ->
            underWay.put(
                line,
                rows.stream()
                    .filter(row -> !row.state().isOff())
                    .collect(
                        Collectors.groupingBy(Row::itemId, Collectors.summingLong(Row::units)))));
    return underWay;
  }

  /** Lets those parcels bear kits that complete them, as things stand. */
  @Transactional(propagation = Propagation.MANDATORY)
  void settle(long orderId) {
    Map<Long, List<Row>> byLine = rows(List.of(orderId));
    if (byLine.isEmpty()) {
      return;
    }
    Map<Long, Map<Long, Long>> parts = parts(orderId);
    byLine.forEach((line, rows) -> {
      List<Row> going =
          rows.stream().filter(row -> !row.state().isOff()).sorted(BY_PROGRESS).toList();
      List<Long> completed =
          Whole.completedBy(
              going.stream().map(row -> new Piece(row.itemId(), row.units())).toList(),
              one(rows.getFirst(), parts));
      Map<Long, Long> bears = new HashMap<>();
      for (int i = 0; i < going.size(); i++) {
        bears.put(going.get(i).id(), completed.get(i));
      }
      rows.forEach(row -> bear(row, bears.getOrDefault(row.id(), 0L)));
    });
  }

  private void bear(Row row, long units) {
    if (row.ordered() != units) {
      db.update(CONSIGNMENT_LINE)
          .set(CONSIGNMENT_LINE.ORDERED, units)
          .where(CONSIGNMENT_LINE.ID.eq(row.id()))
          .execute();
    }
  }

  /** Units of each component in one of what was ordered. */
  private static Map<Long, Long> one(Row row, Map<Long, Map<Long, Long>> parts) {
    return parts.getOrDefault(row.lineId(), Map.of()).entrySet().stream()
        .collect(Collectors.toMap(Map.Entry::getKey, part -> part.getValue() / row.open()));
  }

  /** Units of the components that an order's lines come to, by line and item. */
  private Map<Long, Map<Long, Long>> parts(long orderId) {
    return db.select(ORDER_PART.ORDER_LINE_ID, ORDER_PART.ITEM_ID, ORDER_PART.QUANTITY)
        .from(ORDER_PART)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(ORDER_PART.ORDER_LINE_ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .collect(
            Collectors.groupingBy(
                r -> r.value1(), Collectors.toMap(r -> r.value2(), r -> r.value3())));
  }

  private Map<Long, List<Row>> rows(Collection<Long> orderIds) {
    return db
        .select(
            CONSIGNMENT_LINE.ID,
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            CONSIGNMENT_LINE.ITEM_ID,
            CONSIGNMENT_LINE.QUANTITY,
            CONSIGNMENT_LINE.ORDERED,
            CONSIGNMENT.STATE,
            CONSIGNMENT.HANDED_OVER_AT,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED),
            ORDER_LINE.UNITS_EACH)
        .from(CONSIGNMENT)
        .join(CONSIGNMENT_LINE)
        .on(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(CONSIGNMENT.ID))
        .join(ORDER_PART)
        .on(ORDER_PART.ORDER_LINE_ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .and(ORDER_PART.ITEM_ID.eq(CONSIGNMENT_LINE.ITEM_ID))
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .where(CONSIGNMENT.ORDER_ID.in(orderIds))
        .and(ORDER_PART.LOOSE)
        .orderBy(CONSIGNMENT_LINE.ID)
        .fetch(r ->
            new Row(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                ConsignmentState.valueOf(r.value6()),
                r.value7(),
                r.value8(),
                r.value9()))
        .stream()
        .collect(Collectors.groupingBy(Row::lineId, LinkedHashMap::new, Collectors.toList()));
  }
}
