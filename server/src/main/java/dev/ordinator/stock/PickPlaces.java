package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.sum;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** From which bins and lots a packer takes what is held for a consignment. */
@Service
public class PickPlaces {
  private final DSLContext db;

  PickPlaces(DSLContext db) {
    this.db = db;
  }

  /**
   * @param bin empty: nobody said where it lies
   * @param lot null: not tracked
   * @param units to take there; null: as many as there are, from the first bin on
   */
  public record From(
      String bin, @Nullable String lot, @Nullable LocalDate expires, @Nullable Long units) {}

  /** By consignment line, bins in their order; lines of which nothing is known are left out. */
  public Map<Long, List<From>> of(long consignmentId) {
    Map<Long, List<From>> places = new HashMap<>(held(consignmentId));
    lying(consignmentId).forEach(places::putIfAbsent);
    left(consignmentId).forEach(places::putIfAbsent);
    return places;
  }

  /** What has left the books already is still to be taken from where it lay. */
  private Map<Long, List<From>> left(long consignmentId) {
    var units = sum(STOCK_MOVEMENT.QUANTITY).neg();
    return db.select(CONSIGNMENT_LINE.ID, STOCK_PLACE.BIN, units)
        .from(CONSIGNMENT_LINE)
        .join(ALLOCATION)
        .on(ALLOCATION.CONSIGNMENT_LINE_ID.eq(CONSIGNMENT_LINE.ID))
        .join(STOCK_MOVEMENT)
        .on(STOCK_MOVEMENT.ALLOCATION_ID.eq(ALLOCATION.ID))
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .and(STOCK_PLACE.BIN.ne(""))
        .groupBy(CONSIGNMENT_LINE.ID, STOCK_PLACE.BIN)
        .having(units.gt(BigDecimal.ZERO))
        .orderBy(STOCK_PLACE.BIN)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r -> new From(r.value2(), null, null, r.value3().longValueExact()),
                    Collectors.toList())));
  }

  /** What is held by lot. */
  private Map<Long, List<From>> held(long consignmentId) {
    return db.select(
            CONSIGNMENT_LINE.ID, STOCK_PLACE.BIN, LOT.CODE, LOT.EXPIRES, ALLOCATION.QUANTITY)
        .from(CONSIGNMENT_LINE)
        .join(ALLOCATION)
        .on(ALLOCATION.CONSIGNMENT_LINE_ID.eq(CONSIGNMENT_LINE.ID))
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(ALLOCATION.PLACE_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .orderBy(STOCK_PLACE.BIN, ALLOCATION.ID)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r -> new From(r.value2(), r.value3(), r.value4(), r.value5()),
                    Collectors.toList())));
  }

  /** Where goods lie that are held by quantity only. */
  private Map<Long, List<From>> lying(long consignmentId) {
    return db.select(CONSIGNMENT_LINE.ID, STOCK_PLACE.BIN)
        .from(CONSIGNMENT_LINE)
        .join(ALLOCATION)
        .on(ALLOCATION.CONSIGNMENT_LINE_ID.eq(CONSIGNMENT_LINE.ID))
        .and(ALLOCATION.ENDED_AT.isNull())
        .and(ALLOCATION.PLACE_ID.isNull())
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ITEM_ID.eq(ALLOCATION.ITEM_ID))
        .and(STOCK_PLACE.NODE_ID.eq(ALLOCATION.NODE_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED))
        .and(STOCK_PLACE.BIN.ne(""))
        .orderBy(STOCK_PLACE.BIN)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r -> new From(r.value2(), null, null, null), Collectors.toList())));
  }
}
