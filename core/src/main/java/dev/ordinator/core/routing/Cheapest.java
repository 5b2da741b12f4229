package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Router.Offered;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;

/**
 * The cheapest of the plans that {@link EveryPlan} finds. If there are too many, what it looks for
 * need come to less.
 */
final class Cheapest implements EveryPlan.Sink {
  private final Basket basket;
  private final List<Source> sources;
  private final Policy policy;
  private final int most;
  private long limit;

  /** The dearest first. */
  private final PriorityQueue<Offered> offered =
      new PriorityQueue<>(Comparator.comparingLong(Offered::charged).reversed());

  /**
   * @param limit nothing that comes to more is of use
   * @param most so many plans are kept
   */
  Cheapest(Basket basket, List<Source> sources, Policy policy, long limit, int most) {
    this.basket = basket;
    this.sources = sources;
    this.policy = policy;
    this.limit = limit;
    this.most = most;
  }

  @Override
  public long found(int rung, long charged, Sent plan) {
    Choice choice = new Choice(rung, basket.plan(sources, plan, policy), true);
    offered.add(new Offered(choice, charged));
    if (offered.size() > most) {
      offered.remove();
      limit = offered.element().charged() - 1;
    }
    return limit;
  }

  /** In no order. */
  Collection<Offered> offered() {
    return offered;
  }

  /** All that comes to less than this was found. */
  long upTo() {
    return limit + 1;
  }
}
