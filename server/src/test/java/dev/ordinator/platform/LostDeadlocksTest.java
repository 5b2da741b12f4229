package dev.ordinator.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.aop.framework.ProxyFactory;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.transaction.annotation.Transactional;

class LostDeadlocksTest {

  /** A service as others are. */
  public static class Counting {
    final AtomicInteger times = new AtomicInteger();

    @Transactional
    public String work(int losses, RuntimeException loss) {
      if (times.incrementAndGet() <= losses) {
        throw loss;
      }
      return "done";
    }
  }

  private final Counting target = new Counting();

  @Test
  void whoLosesADeadlockTriesAgain() {
    assertThat(service().work(3, new CannotAcquireLockException("deadlock"))).isEqualTo("done");
    assertThat(target.times).hasValue(4);
  }

  @Test
  void whatFailsOtherwiseFailsAtOnceAsItIs() {
    Problem problem = Problem.conflict("no");
    assertThatThrownBy(() -> service().work(1, problem)).isSameAs(problem);
    assertThat(target.times).hasValue(1);
  }

  @Test
  void whoLosesEveryTimeHearsOfIt() {
    assertThatThrownBy(() -> service().work(99, new CannotAcquireLockException("deadlock")))
        .isInstanceOf(CannotAcquireLockException.class);
  }

  private Counting service() {
    ProxyFactory proxies = new ProxyFactory(target);
    proxies.addAdvisor(new LostDeadlocks());
    return (Counting) proxies.getProxy();
  }
}
