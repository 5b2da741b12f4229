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

  /** Units of a component in a parcel. */
  private record Row(
      long id,
      long lineId,
      long itemId,
      long units,
      long ordered,
      ConsignmentState state,
      @Nullable Instant leftAt,
      long unitsEach) {}

  /** Units of such lines, as items, that got as far as each state or further. */
  Map<Long, Map<ConsignmentState, Long>> reached(long orderId) {
    Map<Long, List<Row>> byLine = rows(List.of(orderId));
    if (byLine.isEmpty()) {
      return Map.of();
    }
    Map<Long, Map<Long, Long>> ones = ones(byLine.keySet());
    Map<Long, Map<ConsignmentState, Long>> reached = new LinkedHashMap<>();
    byLine.forEach((line, rows) -> {
      Map<ConsignmentState, Long> units = new EnumMap<>(ConsignmentState.class);
      for (ConsignmentState state : ConsignmentState.values()) {
        Map<Long, Long> there = reaching(rows, state);
        units.put(state, Whole.units(there, one(line, ones)) * rows.getFirst().unitsEach());
      }
      reached.put(line, units);
    });
    return reached;
  }

  /** Units of components that nodes have beyond those of whole kits, by line and item. */
  public Map<Long, Map<Long, Long>> spare(Collection<Long> orderIds) {
    Map<Long, List<Row>> byLine = rows(orderIds);
    Map<Long, Map<Long, Long>> ones = ones(byLine.keySet());
    Map<Long, Map<Long, Long>> spare = new HashMap<>();
    byLine.forEach((line, rows) -> {
      Map<Long, Long> one = one(line, ones);
      Map<Long, Long> there = reaching(rows, ConsignmentState.PLANNED);
      long whole = Whole.units(there, one);
      there.replaceAll((item, units) -> units - whole * one.getOrDefault(item, 0L));
      spare.put(line, there);
    });
    return spare;
  }

  private static Map<Long, Long> reaching(List<Row> rows, ConsignmentState state) {
    return rows.stream()
        .filter(row -> row.state().reached(state))
        .collect(
            Collectors.groupingBy(Row::itemId, HashMap::new, Collectors.summingLong(Row::units)));
  }

  /** Lets those parcels bear kits that complete them, as things stand. */
  @Transactional(propagation = Propagation.MANDATORY)
  void settle(long orderId) {
    Map<Long, List<Row>> byLine = rows(List.of(orderId));
    if (byLine.isEmpty()) {
      return;
    }
    Map<Long, Map<Long, Long>> ones = ones(byLine.keySet());
    byLine.forEach((line, rows) -> {
      List<Row> going =
          rows.stream().filter(row -> !row.state().isOff()).sorted(BY_PROGRESS).toList();
      List<Long> completed =
          Whole.completedBy(
              going.stream().map(row -> new Piece(row.itemId(), row.units())).toList(),
              one(line, ones));
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

  private static Map<Long, Long> one(long line, Map<Long, Map<Long, Long>> ones) {
    return ones.getOrDefault(line, Map.of());
  }

  /** Units of each component in one of what was ordered, as the channel counts it, by line. */
  private Map<Long, Map<Long, Long>> ones(Collection<Long> lines) {
    return db.select(ORDER_PART.ORDER_LINE_ID, ORDER_PART.ITEM_ID, ORDER_PART.LOOSE_IN_ONE)
        .from(ORDER_PART)
        .where(ORDER_PART.ORDER_LINE_ID.in(lines))
        .and(ORDER_PART.LOOSE_IN_ONE.isNotNull())
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
        .and(ORDER_PART.LOOSE_IN_ONE.isNotNull())
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
                r.value8()))
        .stream()
        .collect(Collectors.groupingBy(Row::lineId, LinkedHashMap::new, Collectors.toList()));
  }
}
