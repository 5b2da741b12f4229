package dev.ordinator.cancelling;

import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.returns.Returns;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Units that have left though they are no longer wanted. They can't be un-ordered: a return of them
 * is proposed, and a person opens it or lets it be.
 */
@Component
public class ProposedReturns {
  private final Orders orders;
  private final Consignments consignments;
  private final Snags snags;

  ProposedReturns(Orders orders, Consignments consignments, Snags snags) {
    this.orders = orders;
    this.consignments = consignments;
    this.snags = snags;
  }

  /** Units that have left, as the channel counts them, by its ids of the lines. */
  public Map<String, Long> left(long orderId) {
    Map<Long, Long> left = consignments.left(orderId);
    Map<String, Long> units = new LinkedHashMap<>();
    for (OrderLine line : orders.lines(orderId)) {
      long its = left.getOrDefault(line.id(), 0L) / line.unitsEach();
      if (its > 0) {
        units.merge(line.externalId(), its, Long::sum);
      }
    }
    return units;
  }

  /**
   * Proposes a return.
   *
   * @param units that have left and are not wanted, as the channel counts them, by its ids of the
   *     lines
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void propose(OrderHead order, Map<String, Long> units, String actor) {
    if (units.isEmpty()) {
      return;
    }
    String words =
        orders.lines(order.id()).stream()
            .filter(line -> units.getOrDefault(line.externalId(), 0L) > 0)
            .map(line -> units.get(line.externalId()) + " × " + line.title())
            .collect(Collectors.joining(", "));
    snags.close(SnagCause.SENT_UNWANTED, order.id(), actor);
    snags.open(
        Snags.About.of(
                SnagCause.SENT_UNWANTED,
                order.id(),
                order.number() + ", " + order.buyerName(),
                words + ": has left, and is no longer wanted")
            .order(order.id()),
        order.id(),
        actor);
  }

  /** A person lets it be: the buyer keeps it, or it comes back another way. */
  @Transactional
  public void letBe(long orderId, String actor) {
    orders.lock(orderId);
    snags.close(SnagCause.SENT_UNWANTED, orderId, actor);
  }

  @EventListener
  void returnOpened(Returns.Opened opened) {
    snags.close(SnagCause.SENT_UNWANTED, opened.orderId(), opened.actor());
  }
}
