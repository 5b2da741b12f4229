package dev.ordinator.returns;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.returns.Bought;
import dev.ordinator.core.returns.Refund;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.returns.Refunds.Basis;
import java.util.HashMap;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * What came in for units that were cancelled afterwards waits for a person until it is asked back
 * from whoever holds it, or somebody says that it is not paid back.
 */
@Service
public class MoneyToReturn {
  private static final String DESK = "desk";

  private final Refunds refunds;
  private final Orders orders;
  private final Snags snags;
  private final Events events;

  MoneyToReturn(Refunds refunds, Orders orders, Snags snags, Events events) {
    this.refunds = refunds;
    this.orders = orders;
    this.snags = snags;
    this.events = events;
  }

  // only at the end is the order as it will be: its amounts are worked out after the lines
  @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT)
  void cancelled(Orders.Cancelled cancelled) {
    look(cancelled.orderId());
  }

  @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT)
  void unitsCancelled(Orders.UnitsCancelled cancelled) {
    look(cancelled.orderId());
  }

  @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT)
  void paid(Orders.Passed passed) {
    if (passed.event() == RuleEvent.PAID) {
      look(passed.orderId());
    }
  }

  @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT)
  void refunded(Refunds.Changed changed) {
    look(changed.orderId());
  }

  private void look(long orderId) {
    Basis basis = refunds.basis(orderId);
    Money amount = of(basis);
    if (amount.minor() == 0) {
      snags.close(SnagCause.MONEY_TO_RETURN, orderId, DESK);
      return;
    }
    String detail =
        amount + " came in for what is cancelled or costs less now: pay it back, or say why not";
    snags.open(
        Snags.About.of(
                SnagCause.MONEY_TO_RETURN,
                orderId,
                basis.order().number() + ", " + basis.order().buyerName(),
                detail)
            .order(orderId),
        orderId,
        DESK);
    snags.restate(SnagCause.MONEY_TO_RETURN, orderId, detail);
  }

  /**
   * What came in for cancelled units and is not asked back yet: of an order that is cancelled all
   * that is left, shipping too, but for fees that were kept.
   */
  private static Money of(Basis basis) {
    Bought bought = basis.bought();
    if (basis.order().stage() == Stage.CANCELLED) {
      Money left = bought.left().minus(bought.feesKept());
      return left.minor() > 0 ? left : left.minus(left);
    }
    Map<String, Long> cancelled = new HashMap<>();
    basis.lines().forEach(line -> cancelled.put(Long.toString(line.id()), line.cancelled()));
    return Refund.owedFor(cancelled, bought);
  }

  /** A person says that it is not paid back. */
  @Transactional
  public void keep(long orderId, String reason, String actor) {
    if (reason.isBlank() || reason.length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    orders.lock(orderId);
    if (!snags.isOpen(SnagCause.MONEY_TO_RETURN, orderId)) {
      throw Problem.conflict("nothing waits to be paid back for it");
    }
    events.record(EventKind.NOTE, orderId, null, actor, "Not paid back", reason.strip());
    snags.close(SnagCause.MONEY_TO_RETURN, orderId, actor);
  }
}
