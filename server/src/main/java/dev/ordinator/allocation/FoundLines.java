package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.falseCondition;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.allocation.RunSettings.Scope;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.orders.Step;
import dev.ordinator.schema.tables.Item;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record20;
import org.springframework.stereotype.Repository;

/** Finds the lines that wait to be allocated. What nobody counts needs no allocation. */
@Repository
class FoundLines {
  /** It waits for stock or for its routing, and nothing else stops it. */
  static final Condition MAY_GO =
      SALES_ORDER
          .STAGE
          .eq("APPROVED")
          .and(SALES_ORDER.HELD.isFalse())
          .and(SALES_ORDER.LEVEL.isNotNull())
          .and(
              SALES_ORDER
                  .WAITING
                  .isTrue()
                  .or(SALES_ORDER.NEXT_STEP.in(Step.ROUTE.name(), Step.BATCH.name())));

  private final DSLContext db;

  FoundLines(DSLContext db) {
    this.db = db;
  }

  /**
   * Lines within a scope, but for its expression and its time to leave.
   *
   * @param today what is not out yet by then can't be given
   */
  List<FoundLine> in(Scope scope, LocalDate today) {
    Map<Long, Long> underWay = underWay();
    return db
        .select(
            SALES_ORDER.ID,
            SALES_ORDER.CHANNEL_ID,
            lower(SALES_ORDER.EMAIL),
            SALES_ORDER.PRIORITY,
            SALES_ORDER.WAITING,
            SALES_ORDER.PLACED_AT,
            SALES_ORDER.BASE_TOTAL,
            coalesce(SALES_ORDER.ARRIVE_BY, SALES_ORDER.PROMISED_ON),
            SALES_ORDER.LADDER,
            SALES_ORDER.MAY_SPLIT,
            coalesce(SALES_ORDER.IN_PART, CHANNEL.IN_PART),
            SALES_ORDER.SHIP_COUNTRY,
            SALES_ORDER.SHIP_POSTCODE,
            SALES_ORDER.LEVEL,
            ORDER_LINE.ID,
            ORDER_LINE.ITEM_ID,
            ORDER_LINE.UNITS_EACH,
            ITEM.LEAD_DAYS,
            field(KIT.ITEM_ID.isNotNull()),
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH))
        .from(SALES_ORDER)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .join(ORDER_LINE)
        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
        .join(ITEM)
        .on(ITEM.ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(KIT)
        .on(KIT.ITEM_ID.eq(ORDER_LINE.ITEM_ID))
        .where(MAY_GO)
        .and(SALES_ORDER.FULFILLED_BY.eq("US"))
        .and(ITEM.COUNTED.isTrue().or(KIT.ITEM_ID.isNotNull()))
        .and(ITEM.OUT_ON.isNull().or(ITEM.OUT_ON.le(today)))
        .and(within(scope, ITEM))
        .stream()
        .map(r -> found(r, underWay.getOrDefault(r.value15(), 0L)))
        .filter(line -> line.open() > 0)
        .toList();
  }

  /**
   * Its values by place: of a hundred thousand rows, finding each by its name is most of the work.
   */
  private static FoundLine found(
      Record20<
              Long,
              Long,
              String,
              Integer,
              Boolean,
              Instant,
              Long,
              LocalDate,
              String,
              Boolean,
              Boolean,
              String,
              String,
              String,
              Long,
              Long,
              Long,
              Integer,
              Boolean,
              Long>
          r,
      long underWay) {
    return new FoundLine(
        r.value1(),
        r.value2(),
        r.value3(),
        r.value4(),
        r.value5(),
        r.value6(),
        r.value7(),
        r.value8(),
        r.value9(),
        r.value10(),
        r.value11(),
        new Destination(r.value12(), r.value13()),
        ServiceLevel.valueOf(r.value14()),
        r.value15(),
        r.value16(),
        r.value17(),
        r.value18(),
        r.value19(),
        r.value20() - underWay);
  }

  /** Units of lines that nodes have already, of orders that are not all with nodes. */
  private Map<Long, Long> underWay() {
    return db.select(
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            sum(CONSIGNMENT_LINE.ORDERED.mul(ORDER_LINE.UNITS_EACH)))
        .from(CONSIGNMENT_LINE)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
        .and(SALES_ORDER.STAGE.eq("APPROVED"))
        .groupBy(CONSIGNMENT_LINE.ORDER_LINE_ID)
        .fetchMap(CONSIGNMENT_LINE.ORDER_LINE_ID, r -> r.value2().longValueExact());
  }

  private static Condition within(Scope scope, Item item) {
    Condition which = noCondition();
    if (!scope.channels().isEmpty()) {
      which = which.and(CHANNEL.CODE.in(scope.channels()));
    }
    if (!scope.customers().isEmpty()) {
      Condition any = falseCondition();
      for (String customer : scope.customers()) {
        any =
            any.or(lower(SALES_ORDER.EMAIL).startsWith(customer.strip().toLowerCase(Locale.ROOT)));
      }
      which = which.and(any);
    }
    if (!scope.skuFrom().isBlank()) {
      which = which.and(item.SKU.ge(scope.skuFrom().strip()));
    }
    if (!scope.skuTo().isBlank()) {
      which = which.and(item.SKU.le(scope.skuTo().strip()));
    }
    if (!scope.categories().isEmpty()) {
      which = which.and(item.CATEGORY.in(scope.categories()));
    }
    if (!scope.tags().isEmpty()) {
      which =
          which.andExists(
              selectOne()
                  .from(ORDER_TAG)
                  .where(ORDER_TAG.ORDER_ID.eq(SALES_ORDER.ID))
                  .and(ORDER_TAG.TAG.in(scope.tags())));
    }
    Integer priority = scope.priorityTo();
    return priority == null ? which : which.and(SALES_ORDER.PRIORITY.le(priority));
  }
}
