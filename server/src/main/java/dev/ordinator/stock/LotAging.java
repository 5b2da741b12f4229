package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.LOT;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.Transactions;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;

/** Takes off sale what has expired, and what would no longer last long enough. */
@Component
class LotAging {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(30);

  private final LotRecall recall;
  private final ShelfLife shelfLife;
  private final Expected expected;
  private final Transactions transactions;

  LotAging(LotRecall recall, ShelfLife shelfLife, Expected expected, Transactions transactions) {
    this.recall = recall;
    this.shelfLife = shelfLife;
    this.expected = expected;
    this.transactions = transactions;
  }

  @Bean
  RecurringTask<Void> expireLots() {
    return Tasks.recurring("expire-lots", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> age());
  }

  /** How many units expired since the last look. */
  long age() {
    long expired =
        transactions.get(
            () -> recall.quarantine(LOT.EXPIRES.lt(expected.today()), "stock", "expired"));
    shelfLife
        .differing()
        .forEach(item -> transactions.run(() -> shelfLife.refreshAll(item, "stock")));
    return expired;
  }
}
