package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;

import dev.ordinator.core.stock.Atp;
import dev.ordinator.core.stock.SupplyQueue;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.StockGrid.Waiting;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What another day of an expected supply would do to the orders that wait for it. */
@Component
class SlipEffects {
  private static final int DAYS = 366;

  private final DSLContext db;
  private final Items items;
  private final Expected expected;
  private final StockGrid grid;

  SlipEffects(DSLContext db, Items items, Expected expected, StockGrid grid) {
    this.db = db;
    this.items = items;
    this.expected = expected;
    this.grid = grid;
  }

  /**
   * An order that waits.
   *
   * @param units of the item
   * @param arriveBy the day asked for; null: none
   * @param before when it could be sent as things stand; null: on no day in sight
   * @param after when it could be sent then; null likewise
   */
  record Dependent(
      long orderId,
      String orderNumber,
      String buyer,
      long units,
      @Nullable LocalDate arriveBy,
      @Nullable LocalDate before,
      @Nullable LocalDate after) {}

  /** In the order in which they are served; those for whom nothing changes are among them. */
  List<Dependent> of(long expectedId, @Nullable LocalDate due) {
    var supply =
        db.selectFrom(EXPECTED_SUPPLY)
            .where(EXPECTED_SUPPLY.ID.eq(expectedId))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("expected supply " + expectedId));
    long item = supply.getItemId();
    List<Waiting> waiting = grid.waiting(item);
    LocalDate today = expected.today();
    List<Atp.Supply> now = expected.supplies(Set.of()).getOrDefault(item, List.of());
    List<Atp.Supply> then = new ArrayList<>(now);
    Atp.Supply moved =
        new Atp.Supply(
            days(today, supply.getDue()),
            supply.getQuantity(),
            supply.getConfidence(),
            supply.getSlipDays());
    then.remove(moved);
    if (due != null) {
      then.add(
          new Atp.Supply(
              days(today, due), moved.quantity(), moved.confidencePercent(), moved.slipDays()));
    }
    long free = items.free(List.of(item), Set.of()).getOrDefault(item, 0L);
    List<Long> needs = waiting.stream().map(Waiting::quantity).toList();
    List<OptionalInt> before = SupplyQueue.days(Atp.of(free, now, List.of(), DAYS), needs);
    List<OptionalInt> after = SupplyQueue.days(Atp.of(free, then, List.of(), DAYS), needs);
    List<Dependent> dependents = new ArrayList<>();
    for (int i = 0; i < waiting.size(); i++) {
      Waiting order = waiting.get(i);
      dependents.add(
          new Dependent(
              order.orderId(),
              order.orderNumber(),
              order.buyer(),
              order.quantity(),
              order.arriveBy(),
              date(today, before.get(i)),
              date(today, after.get(i))));
    }
    return dependents;
  }

  private static int days(LocalDate today, LocalDate day) {
    return (int) ChronoUnit.DAYS.between(today, day);
  }

  private static @Nullable LocalDate date(LocalDate today, OptionalInt day) {
    return day.isPresent() ? today.plusDays(day.getAsInt()) : null;
  }
}
