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
import java.time.ZoneId;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jspecify.annotations.Nullable;

/**
 * Which orders a worklist shows. What is null or empty does not narrow it.
 *
 * @param pile one of the ready-made piles
 * @param since the company's day since which they are in their stage
 * @param minValue minor units
 * @param assigned the name by which the colleague logs in who looks after them
 * @param list on which they stand
 */
public record OrderFilter(
    Pile pile,
    @Nullable Stage stage,
    @Nullable LocalDate since,
    @Nullable String channel,
    @Nullable String country,
    @Nullable String node,
    @Nullable String buyer,
    @Nullable Long snag,
    @Nullable Long minValue,
    @Nullable String assigned,
    @Nullable String list) {

  private static final Set<String> OPEN_STAGES =
      Stream.of(Stage.values())
          .filter(stage -> stage != Stage.DELIVERED && stage != Stage.CANCELLED)
          .map(Enum::name)
          .collect(Collectors.toSet());

  /** Held, or kept by a snag: a person must do something. A few ranges of one index. */
  public static final Condition IS_STUCK =
      SALES_ORDER
          .OPEN
          .isTrue()
          .and(SALES_ORDER.STAGE.in(OPEN_STAGES))
          .and(
              SALES_ORDER
                  .SNAGGED
                  .isTrue()
                  .or(SALES_ORDER.SNAGGED.isFalse().and(SALES_ORDER.HELD.isTrue())));

  /** The ready-made piles, each with its count above the list. */
  public enum Pile {
    OPEN,
    LEAVING_TODAY,
    WAITING,
    STUCK,
    UNPAID,
    DONE,
    ALL
  }

  /**
   * @param zone the company's
   */
  Condition condition(LocalDate today, ZoneId zone) {
    Condition which = pile(pile, today);
    if (stage != null) {
      which = which.and(SALES_ORDER.STAGE.eq(stage.name()));
    }
    if (since != null) {
      which = which.and(SALES_ORDER.STAGE_SINCE.ge(since.atStartOfDay(zone).toInstant()));
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
      case LEAVING_TODAY -> SALES_ORDER.OPEN.isTrue().and(SALES_ORDER.LEAVES_ON.le(today));
      case WAITING -> SALES_ORDER.WAITING.isTrue();
      case STUCK -> IS_STUCK;
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
