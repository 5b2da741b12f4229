package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.math.BigDecimal;
import java.util.EnumSet;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Payments that our own people record, such as a bank transfer for a telephone order. */
@Service
public class PaymentsByHand {
  private static final long MOST = 100_000_000_000L;
  private static final Set<PaymentState> OPEN =
      EnumSet.of(PaymentState.UNPAID, PaymentState.AUTHORISED, PaymentState.ON_DELIVERY);

  private final DSLContext db;
  private final Orders orders;
  private final Events events;

  PaymentsByHand(DSLContext db, Orders orders, Events events) {
    this.db = db;
    this.orders = orders;
    this.events = events;
  }

  /**
   * @param method by which it was paid, in the merchant's words
   * @param amount minor units of the order's currency
   * @param reference of the payer or the bank; empty: none
   */
  public record Received(String method, long amount, String reference) {}

  /**
   * Notes what came in. With the last of what the order costs it is paid, and goes on.
   *
   * @throws Problem if it is paid already, or that very payment is noted
   */
  @Transactional
  public void record(long orderId, Received received, String actor) {
    String method = Texts.canonical(received.method());
    String reference = Texts.canonical(received.reference());
    require(!method.isEmpty() && method.length() <= 40, "method", "say how, in 1 to 40 characters");
    require(reference.length() <= 80, "reference", "at most 80 characters");
    require(received.amount() >= 1 && received.amount() <= MOST, "amount", "more than nothing");
    OrderHead order = orders.lock(orderId);
    if (!OPEN.contains(order.payment())) {
      throw Problem.conflict(order.number() + " is paid already");
    }
    if (!reference.isEmpty()
        && db.fetchExists(
            ORDER_PAYMENT,
            ORDER_PAYMENT.ORDER_ID.eq(orderId).and(ORDER_PAYMENT.REFERENCE.eq(reference)))) {
      throw Problem.conflict("the payment ‘" + reference + "’ is noted already");
    }
    db.insertInto(ORDER_PAYMENT)
        .set(ORDER_PAYMENT.ORDER_ID, orderId)
        .set(ORDER_PAYMENT.METHOD, method)
        .set(ORDER_PAYMENT.AMOUNT, received.amount())
        .set(ORDER_PAYMENT.REFERENCE, reference)
        .execute();
    Money amount = Money.of(received.amount(), order.currency());
    events.record(
        EventKind.NOTE, orderId, null, actor, amount + " came in by " + method, reference);
    if (paid(orderId) >= order.total()) {
      orders.setPayment(order, PaymentState.PAID, actor);
    }
  }

  private long paid(long orderId) {
    return Objects.requireNonNullElse(
            db.select(sum(ORDER_PAYMENT.AMOUNT))
                .from(ORDER_PAYMENT)
                .where(ORDER_PAYMENT.ORDER_ID.eq(orderId))
                .fetchSingle()
                .value1(),
            BigDecimal.ZERO)
        .longValueExact();
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }
}
