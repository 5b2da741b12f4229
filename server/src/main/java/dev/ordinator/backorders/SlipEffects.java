package dev.ordinator.backorders;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;

import dev.ordinator.backorders.QueueStore.Row;
import dev.ordinator.backorders.Queues.Seen;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.ExpectedSupplyRecord;
import dev.ordinator.stock.Expected;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What another day of an expected supply would do to the orders that wait for it. */
@Component
class SlipEffects {
  private final DSLContext db;
  private final Queues queues;
  private final QueueStore store;
  private final Expected expected;

  SlipEffects(DSLContext db, Queues queues, QueueStore store, Expected expected) {
    this.db = db;
    this.queues = queues;
    this.store = store;
    this.expected = expected;
  }

  /**
   * An order that waits.
   *
   * @param units of the item
   * @param arriveBy the day asked for; null: none
   * @param promisedOn the day of arrival that was promised; null: none was
   * @param before when it could be sent as things stand; null: on no day in sight
   * @param after when it could be sent then; null likewise
   */
  record Dependent(
      long orderId,
      String orderNumber,
      String buyer,
      long units,
      @Nullable LocalDate arriveBy,
      @Nullable LocalDate promisedOn,
      @Nullable LocalDate before,
      @Nullable LocalDate after) {}

  /**
   * In the order in which they are served; those for whom nothing changes are among them.
   *
   * @param due null: it does not come at all
   */
  List<Dependent> of(long expectedId, @Nullable LocalDate due) {
    ExpectedSupplyRecord supply =
        db.selectFrom(EXPECTED_SUPPLY)
            .where(EXPECTED_SUPPLY.ID.eq(expectedId))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("expected supply " + expectedId));
    long item = supply.getItemId();
    List<Row> queue = store.queues(List.of(item)).getOrDefault(item, List.of());
    Seen before = queues.look(Set.of(item), Set.of(), Map.of());
    Seen after = queues.look(Set.of(item), Set.of(), Map.of(item, otherwise(supply, due)));
    return queue.stream()
        .map(row ->
            new Dependent(
                row.orderId(),
                row.orderNumber(),
                row.buyer(),
                row.units(),
                row.arriveBy(),
                row.promisedOn(),
                before.readyOn(row),
                after.readyOn(row)))
        .toList();
  }

  private List<Atp.Supply> otherwise(ExpectedSupplyRecord supply, @Nullable LocalDate due) {
    LocalDate today = expected.today();
    List<Atp.Supply> then =
        new ArrayList<>(
            expected
                .suppliesOf(List.of(supply.getItemId()))
                .getOrDefault(supply.getItemId(), List.of()));
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
    return then;
  }

  private static int days(LocalDate today, LocalDate day) {
    return (int) ChronoUnit.DAYS.between(today, day);
  }
}
