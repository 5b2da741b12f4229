package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.platform.Problem;
import java.time.LocalDate;
import org.jooq.Condition;
import org.jspecify.annotations.Nullable;

/**
 * Which orders a worklist shows. What is null or empty does not narrow it.
 *
 * @param pile one of the ready-made piles
 * @param minValue minor units
 * @param assigned the name by which the colleague logs in who looks after them
 * @param list on which they stand
 */
record OrderFilter(
    Pile pile,
    @Nullable Stage stage,
    @Nullable String channel,
    @Nullable String country,
    @Nullable String node,
    @Nullable String buyer,
    @Nullable Long snag,
    @Nullable Long minValue,
    @Nullable String assigned,
    @Nullable String list) {

  /** The ready-made piles, each with its count above the list. */
  enum Pile {
    OPEN,
    LEAVING_TODAY,
    WAITING,
    STUCK,
    UNPAID,
    DONE,
    ALL
  }

  Condition condition(LocalDate today) {
    Condition which = pile(pile, today);
    if (stage != null) {
      which = which.and(SALES_ORDER.STAGE.eq(stage.name()));
    }
    if (isGiven(channel)) {
      which =
          which.and(
              SALES_ORDER.CHANNEL_ID.in(
                  select(CHANNEL.ID).from(CHANNEL).where(CHANNEL.CODE.eq(channel))));
    }
    if (isGiven(country)) {
      which = which.and(SALES_ORDER.SHIP_COUNTRY.eq(country));
    }
    if (isGiven(node)) {
      which =
          which.and(
              SALES_ORDER.ID.in(
                  select(CONSIGNMENT.ORDER_ID)
                      .from(CONSIGNMENT)
                      .join(NODE)
                      .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
                      .where(NODE.CODE.eq(node))));
    }
    if (isGiven(buyer)) {
      which = which.and(SALES_ORDER.BUYER_NAME.startsWith(buyer));
    }
    if (snag != null) {
      which = which.and(SALES_ORDER.ID.in(SnagQueries.ordersOf(snag)));
    }
    if (minValue != null) {
      if (minValue < 0) {
        throw Problem.invalid("minValue", "a value is not negative");
      }
      which = which.and(SALES_ORDER.BASE_TOTAL.ge(minValue));
    }
    if (isGiven(assigned)) {
      which =
          which.and(
              SALES_ORDER.ASSIGNED_TO.eq(
                  select(APP_USER.ID).from(APP_USER).where(APP_USER.USERNAME.eq(assigned))));
    }
    if (isGiven(list)) {
      which = which.and(SALES_ORDER.LIST_NAME.eq(list));
    }
    return which;
  }

  static Condition pile(Pile pile, LocalDate today) {
    return switch (pile) {
      case OPEN -> SALES_ORDER.OPEN.isTrue();
      case LEAVING_TODAY -> SALES_ORDER.OPEN.isTrue().and(SALES_ORDER.SHIP_BY.le(today));
      case WAITING -> SALES_ORDER.WAITING.isTrue();
      case STUCK ->
          SALES_ORDER.OPEN.isTrue().and(SALES_ORDER.HELD.isTrue().or(SALES_ORDER.SNAGGED.isTrue()));
      case UNPAID ->
          SALES_ORDER
              .STAGE
              .eq("RECEIVED")
              .and(SALES_ORDER.PAYMENT_STATE.in("UNPAID", "AUTHORISED"));
      case DONE -> SALES_ORDER.OPEN.isFalse();
      case ALL -> noCondition();
    };
  }

  private static boolean isGiven(@Nullable String text) {
    return text != null && !text.isBlank();
  }
}
