package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SNAG;
import static org.jooq.impl.DSL.noCondition;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.time.Duration;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Supplies that should have come. Nothing is promised of them any more; a person says when they
 * come, takes them in, or gives them up.
 */
@Component
class OverdueSupplies {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(30);

  private final DSLContext db;
  private final Expected expected;
  private final Snags snags;
  private final Transactions transactions;

  OverdueSupplies(DSLContext db, Expected expected, Snags snags, Transactions transactions) {
    this.db = db;
    this.expected = expected;
    this.snags = snags;
    this.transactions = transactions;
  }

  @Bean
  RecurringTask<Void> findOverdueSupplies() {
    return Tasks.recurring("overdue-supplies", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> look());
  }

  /** The day may have passed on which some were due. */
  void look() {
    transactions.run(() -> look(noCondition()));
  }

  @EventListener
  void supplyMoved(SupplyMoved moved) {
    look(EXPECTED_SUPPLY.ITEM_ID.eq(moved.itemId()));
  }

  private void look(Condition which) {
    Condition overdue = EXPECTED_SUPPLY.OPEN.isTrue().and(EXPECTED_SUPPLY.DUE.lt(expected.today()));
    Set<String> open =
        db.select(SNAG.SUBJECT)
            .from(SNAG)
            .where(SNAG.CAUSE.eq(SnagCause.SUPPLY_OVERDUE.name()))
            .and(SNAG.CLOSED_AT.isNull())
            .fetchSet(SNAG.SUBJECT);
    db.select(
            EXPECTED_SUPPLY.ID,
            EXPECTED_SUPPLY.ITEM_ID,
            ITEM.SKU,
            NODE.NAME,
            EXPECTED_SUPPLY.SUPPLIER,
            EXPECTED_SUPPLY.NUMBER,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.DUE)
        .from(EXPECTED_SUPPLY)
        .join(ITEM)
        .on(ITEM.ID.eq(EXPECTED_SUPPLY.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .where(which)
        .and(overdue)
        .forEach(r -> {
          if (!open.contains(r.value1().toString())) {
            String from = (r.value5() + " " + r.value6()).strip();
            snags.open(
                Snags.About.of(
                        SnagCause.SUPPLY_OVERDUE,
                        r.value1(),
                        "%d × %s from %s".formatted(r.value7(), r.value3(), from),
                        "was due at %s on %s; nothing is promised of it"
                            .formatted(r.value4(), Texts.day(r.value8())))
                    .item(r.value2()),
                null,
                "stock");
          }
        });
    if (!open.isEmpty()) {
      db.select(EXPECTED_SUPPLY.ID)
          .from(EXPECTED_SUPPLY)
          .where(which)
          .and(EXPECTED_SUPPLY.ID.in(open.stream().map(Long::valueOf).toList()))
          .andNot(overdue)
          .forEach(r -> snags.close(SnagCause.SUPPLY_OVERDUE, r.value1(), "stock"));
    }
  }
}
