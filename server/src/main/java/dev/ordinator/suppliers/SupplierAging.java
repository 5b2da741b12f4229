package dev.ordinator.suppliers;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.Transactions;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;

/** Counts as none what suppliers said too long ago. */
@Component
class SupplierAging {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(15);

  private final SupplierOffers offers;
  private final SupplierStock stock;
  private final Transactions transactions;

  SupplierAging(SupplierOffers offers, SupplierStock stock, Transactions transactions) {
    this.offers = offers;
    this.stock = stock;
    this.transactions = transactions;
  }

  @Bean
  RecurringTask<Void> agingSupplierStock() {
    return Tasks.recurring("aging-supplier-stock", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> age());
  }

  void age() {
    offers.all().stream()
        .filter(s -> !s.fresh())
        .forEach(s -> transactions.run(() -> stock.settle(s, "suppliers")));
  }
}
