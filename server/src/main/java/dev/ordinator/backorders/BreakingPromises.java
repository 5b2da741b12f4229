package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.BUYER_QUESTION;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The promises that will not be kept as things stand. */
@Component
public class BreakingPromises {
  private static final int MOST = 2_000;

  /** That of an order which waits arrives later than the buyer was told, or nobody knows when. */
  public static final Condition BREAKS =
      SALES_ORDER
          .WAITING
          .isTrue()
          .and(SALES_ORDER.PROMISED_ON.isNotNull())
          .and(
              SALES_ORDER
                  .EXPECTED_ON
                  .isNull()
                  .or(SALES_ORDER.EXPECTED_ON.gt(SALES_ORDER.PROMISED_ON)));

  private final DSLContext db;

  BreakingPromises(DSLContext db) {
    this.db = db;
  }

  /**
   * A promise that breaks.
   *
   * @param items what the order lacks
   * @param promisedOn the day of arrival that was promised
   * @param expectedOn when it arrives as things stand; null: nobody can say
   * @param canBeTold whether we have a mail address
   * @param askedAt since when the buyer has been asked what to do; null: is not asked
   */
  record Breaking(
      long orderId,
      String orderNumber,
      String buyer,
      String channel,
      String items,
      LocalDate promisedOn,
      @Nullable LocalDate expectedOn,
      boolean canBeTold,
      @Nullable Instant askedAt) {}

  /**
   * Soonest first.
   *
   * @param itemId of one item; 0: of all
   */
  List<Breaking> of(long itemId) {
    var found =
        db.select(
                SALES_ORDER.ID,
                SALES_ORDER.NUMBER,
                SALES_ORDER.BUYER_NAME,
                CHANNEL.NAME,
                SALES_ORDER.PROMISED_ON,
                SALES_ORDER.EXPECTED_ON,
                SALES_ORDER.EMAIL,
                BUYER_QUESTION.ASKED_AT)
            .from(SALES_ORDER)
            .join(CHANNEL)
            .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
            .leftJoin(BUYER_QUESTION)
            .on(BUYER_QUESTION.OPEN_KEY.eq(SALES_ORDER.ID))
            .where(BREAKS)
            .and(
                itemId == 0
                    ? noCondition()
                    : SALES_ORDER.ID.in(
                        select(BACKORDER.ORDER_ID)
                            .from(BACKORDER)
                            .where(BACKORDER.ITEM_ID.eq(itemId))
                            .and(BACKORDER.CLOSED_AT.isNull())))
            .orderBy(SALES_ORDER.PROMISED_ON, SALES_ORDER.ID)
            .limit(MOST)
            .fetch();
    Map<Long, List<String>> lacks = lacks(found.getValues(SALES_ORDER.ID));
    return found.map(r ->
        new Breaking(
            r.value1(),
            r.value2(),
            r.value3(),
            r.value4(),
            String.join(", ", lacks.getOrDefault(r.value1(), List.of())),
            r.value5(),
            r.value6(),
            !r.value7().isBlank(),
            r.value8()));
  }

  /** Names of items by order. */
  private Map<Long, List<String>> lacks(List<Long> orderIds) {
    return db.selectDistinct(BACKORDER.ORDER_ID, ITEM.NAME)
        .from(BACKORDER)
        .join(ITEM)
        .on(ITEM.ID.eq(BACKORDER.ITEM_ID))
        .where(BACKORDER.ORDER_ID.in(orderIds))
        .and(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.LACKING)
        .orderBy(BACKORDER.ORDER_ID, ITEM.NAME)
        .fetchGroups(BACKORDER.ORDER_ID, ITEM.NAME);
  }
}
