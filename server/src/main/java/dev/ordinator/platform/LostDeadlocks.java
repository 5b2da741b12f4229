package dev.ordinator.platform;

import java.lang.reflect.Method;
import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.jspecify.annotations.Nullable;
import org.springframework.aop.ProxyMethodInvocation;
import org.springframework.aop.support.StaticMethodMatcherPointcutAdvisor;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Role;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.AnnotatedElementUtils;
import org.springframework.core.retry.RetryException;
import org.springframework.core.retry.RetryTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A {@code @Transactional} method that begins a transaction is run again if it lost a deadlock, as
 * {@link Transactions} does: none escapes to a caller.
 */
@Component
@Role(BeanDefinition.ROLE_INFRASTRUCTURE)
final class LostDeadlocks extends StaticMethodMatcherPointcutAdvisor {
  private static final long serialVersionUID = 1L;

  LostDeadlocks() {
    // around the transaction, which is rolled back before the next attempt
    setOrder(Ordered.HIGHEST_PRECEDENCE);
    setAdvice((MethodInterceptor) LostDeadlocks::around);
  }

  @Override
  public boolean matches(Method method, Class<?> targetClass) {
    return AnnotatedElementUtils.hasAnnotation(method, Transactional.class);
  }

  private static @Nullable Object around(MethodInvocation call) throws Throwable {
    if (TransactionSynchronizationManager.isActualTransactionActive()) {
      return call.proceed();
    }
    try {
      return new RetryTemplate(Transactions.AGAIN).execute(() -> attempt(call));
    } catch (RetryException e) {
      throw e.getCause();
    }
  }

  /** Each attempt goes through the whole chain anew. */
  private static @Nullable Object attempt(MethodInvocation call) throws Exception {
    try {
      return ((ProxyMethodInvocation) call).invocableClone().proceed();
    } catch (Exception | Error e) {
      throw e;
    } catch (Throwable e) {
      throw new IllegalStateException(e);
    }
  }
}
