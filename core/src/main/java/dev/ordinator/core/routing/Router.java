package dev.ordinator.core.routing;

import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Chooses nodes, services and dates for one order: the first rung of the ladder that can fill what
 * it demands wins, with its cheapest plan, which is exactly the cheapest. Ties go to fewer
 * consignments, then to the earlier arrival, then to the nodes listed first. The same input always
 * gives the same answer.
 *
 * <p>An order whose search would take too many steps is given the best plan found in them, which
 * then is not proven.
 */
public final class Router {
  /** Some tenths of a second's work. */
  private static final long STEPS = 300_000;

  private Router() {}

  public static RoutingDecision route(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    Basket basket = new Basket(order.lines(), policy);
    Map<String, List<Lane>> lanes = situation.network().lanesTo(order.to());
    List<Candidate> considered = new ArrayList<>();
    boolean full = false;
    for (int r = 0; r < ladder.rungs().size(); r++) {
      Rung rung = ladder.rungs().get(r);
      NodeOffers offers = new NodeOffers(order, basket, rung, policy, situation, lanes);
      for (Node node : situation.network().nodes()) {
        considered.add(new Candidate(r, node.code(), offers.alone(node)));
      }
      Effort effort = new Effort(STEPS);
      List<Plan> plans = plans(order, rung, basket, policy, offers.sources(true), 2, effort);
      if (!plans.isEmpty()) {
        return new RoutingDecision(
            Optional.of(new Choice(r, plans.getFirst(), !effort.isSpent())),
            false,
            new Grounds(considered, plans.stream().skip(1).findFirst()));
      }
      full =
          full
              || !plans(order, rung, basket, policy, offers.sources(false), 1, new Effort(STEPS))
                  .isEmpty();
    }
    return new RoutingDecision(Optional.empty(), full, new Grounds(considered, Optional.empty()));
  }

  /**
   * The plan that costs least over all rungs, each rung but the first counted as dearer by the rung
   * step than the one before.
   */
  static Optional<Choice> cheapestOnAnyRung(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    Basket basket = new Basket(order.lines(), policy);
    Map<String, List<Lane>> lanes = situation.network().lanesTo(order.to());
    Choice best = null;
    long least = Long.MAX_VALUE;
    for (int r = 0; r < ladder.rungs().size(); r++) {
      Rung rung = ladder.rungs().get(r);
      List<Source> sources =
          new NodeOffers(order, basket, rung, policy, situation, lanes).sources(true);
      Effort effort = new Effort(STEPS);
      for (Plan plan : plans(order, rung, basket, policy, sources, 1, effort)) {
        long value = plan.cost() + policy.rungStep() * r;
        if (value < least) {
          least = value;
          best = new Choice(r, plan, !effort.isSpent());
        }
      }
    }
    return Optional.ofNullable(best);
  }

  private static List<Plan> plans(
      OrderDemand order,
      Rung rung,
      Basket basket,
      Policy policy,
      List<Source> sources,
      int keep,
      Effort effort) {
    Integer most = order.maxConsignments();
    int maxConsignments =
        most == null ? rung.maxConsignments() : Math.min(most, rung.maxConsignments());
    boolean whole = rung.cover() == Cover.WHOLE;
    return new PlanSearch(basket, sources, policy, whole, keep, effort).best(maxConsignments);
  }
}
