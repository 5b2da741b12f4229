package dev.ordinator.platform;

import java.time.Duration;
import java.util.function.Supplier;
import org.springframework.core.retry.RetryException;
import org.springframework.core.retry.RetryPolicy;
import org.springframework.core.retry.RetryTemplate;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Runs work in a transaction of its own, again if it lost a deadlock. */
@Component
public class Transactions {
  static final RetryPolicy AGAIN =
      RetryPolicy.builder()
          .includes(PessimisticLockingFailureException.class)
          .maxRetries(8)
          .delay(Duration.ofMillis(10))
          .jitter(Duration.ofMillis(10))
          .multiplier(1.6)
          .build();

  private final TransactionTemplate template;
  private final RetryTemplate retries = new RetryTemplate(AGAIN);

  Transactions(TransactionTemplate template) {
    this.template = template;
  }

  /**
   * @param work may run several times; only the last run's changes stay
   */
  public <T> T get(Supplier<T> work) {
    try {
      return retries.execute(() -> template.execute(status -> work.get()));
    } catch (RetryException e) {
      throw cause(e);
    }
  }

  /** Does work only to see what comes of it: nothing that it changes stays. */
  public <T> T preview(Supplier<T> work) {
    try {
      return retries.execute(() ->
          template.execute(status -> {
            status.setRollbackOnly();
            return work.get();
          }));
    } catch (RetryException e) {
      throw cause(e);
    }
  }

  public void run(Runnable work) {
    get(() -> {
      work.run();
      return true;
    });
  }

  private static RuntimeException cause(RetryException e) {
    return e.getCause() instanceof RuntimeException cause
        ? cause
        : new IllegalStateException(e.getCause());
  }
}
