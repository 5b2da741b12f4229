package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.countDistinct;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.when;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The items for which somebody waits. */
@Component
class ShortItems {
  private static final int MOST = 2_000;

  private final DSLContext db;

  ShortItems(DSLContext db) {
    this.db = db;
  }

  /** Which of them are looked at. */
  enum Pile {
    ALL,
    /** Somebody has no day in sight. */
    NO_DAY,
    /** A promise will not be kept as things stand. */
    BREAKS
  }

  /**
   * An item that is short.
   *
   * @param units that are waited for, and what they come to at list price, in minor units of the
   *     base currency
   * @param oldest since when the first of them has been waiting
   * @param firstReady when the first of them is served, and {@code lastReady} the last of those who
   *     have a day; null: nobody has one
   * @param noDay orders that have none
   * @param breaks orders whose promise will not be kept as things stand
   * @param nextDue when more of it is expected; null: none is
   */
  record ShortItem(
      long itemId,
      String sku,
      String name,
      String category,
      long units,
      long worth,
      int orders,
      Instant oldest,
      @Nullable LocalDate firstReady,
      @Nullable LocalDate lastReady,
      int noDay,
      int breaks,
      @Nullable LocalDate nextDue) {}

  /**
   * Those whose promises break first, then those with no day in sight, then who waits longest.
   *
   * @param search in SKU and name
   * @param channel code of one; empty: all
   */
  List<ShortItem> of(Pile pile, String search, long channelId) {
    var noDay = count(when(BACKORDER.READY_ON.isNull(), 1));
    var breaks = count(when(BreakingPromises.BREAKS, 1));
    var nextDue =
        field(
            select(min(EXPECTED_SUPPLY.DUE))
                .from(EXPECTED_SUPPLY)
                .where(EXPECTED_SUPPLY.ITEM_ID.eq(ITEM.ID))
                .and(EXPECTED_SUPPLY.OPEN.isTrue()));
    return db.select(
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            ITEM.CATEGORY,
            sum(BACKORDER.UNITS),
            sum(BACKORDER.UNITS.mul(ITEM.LIST_PRICE)),
            countDistinct(BACKORDER.ORDER_ID),
            min(BACKORDER.SINCE),
            min(BACKORDER.READY_ON),
            max(BACKORDER.READY_ON),
            noDay,
            breaks,
            nextDue)
        .from(BACKORDER)
        .join(ITEM)
        .on(ITEM.ID.eq(BACKORDER.ITEM_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
        .where(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.LACKING)
        .and(
            search.isBlank()
                ? noCondition()
                : ITEM.SKU
                    .startsWithIgnoreCase(search.strip())
                    .or(ITEM.NAME.containsIgnoreCase(search.strip())))
        .and(channelId == 0 ? noCondition() : SALES_ORDER.CHANNEL_ID.eq(channelId))
        .groupBy(ITEM.ID, ITEM.SKU, ITEM.NAME, ITEM.CATEGORY)
        .having(
            switch (pile) {
              case ALL -> noCondition();
              case NO_DAY -> noDay.gt(0);
              case BREAKS -> breaks.gt(0);
            })
        .orderBy(breaks.desc(), noDay.desc(), min(BACKORDER.SINCE), ITEM.SKU)
        .limit(MOST)
        .fetch(r ->
            new ShortItem(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5().longValueExact(),
                r.value6().longValueExact(),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11(),
                r.value12(),
                r.value13()));
  }
}
