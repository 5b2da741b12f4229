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
 * gives the same answer. Where rules prefer nodes, each rung is tried with those alone first.
 *
 * <p>An order whose search would take too many steps is given the best plan found in them, which
 * then is not proven.
 */
public final class Router {
  /** Some tenths of a second's work. */
  private static final long STEPS = 300_000;

  private final OrderDemand order;
  private final Policy policy;
  private final Situation situation;
  private final Basket basket;
  private final Map<String, List<Lane>> lanes;

  private Router(OrderDemand order, Policy policy, Situation situation) {
    this.order = order;
    this.policy = policy;
    this.situation = situation;
    this.basket = new Basket(order.lines(), policy);
    this.lanes = situation.network().lanesTo(order.to());
  }

  public static RoutingDecision route(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    return new Router(order, policy, situation).firstOf(ladder.rungs());
  }

  /**
   * The plan that costs least over all rungs, each rung but the first counted as dearer by the rung
   * step than the one before.
   */
  static Optional<Choice> cheapestOnAnyRung(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    return new Router(order, policy, situation).cheapestOf(ladder.rungs());
  }

  private RoutingDecision firstOf(List<Rung> rungs) {
    List<Candidate> considered = new ArrayList<>();
    boolean full = false;
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      NodeOffers offers = offers(rung);
      for (Node node : situation.network().nodes()) {
        considered.add(new Candidate(r, node.code(), offers.alone(node)));
      }
      Effort effort = new Effort(STEPS);
      List<Plan> plans = best(rung, offers, 2, effort);
      if (!plans.isEmpty()) {
        return new RoutingDecision(
            Optional.of(new Choice(r, plans.getFirst(), !effort.isSpent())),
            false,
            new Grounds(considered, plans.stream().skip(1).findFirst()));
      }
      full = full || couldWithPlace(rung, offers);
    }
    return new RoutingDecision(Optional.empty(), full, new Grounds(considered, Optional.empty()));
  }

  private Optional<Choice> cheapestOf(List<Rung> rungs) {
    Choice best = null;
    long least = Long.MAX_VALUE;
    for (int r = 0; r < rungs.size(); r++) {
      Effort effort = new Effort(STEPS);
      for (Plan plan : best(rungs.get(r), offers(rungs.get(r)), 1, effort)) {
        long value = plan.cost() + policy.rungStep() * r;
        if (value < least) {
          least = value;
          best = new Choice(r, plan, !effort.isSpent());
        }
      }
    }
    return Optional.ofNullable(best);
  }

  private NodeOffers offers(Rung rung) {
    return new NodeOffers(order, basket, rung, policy, situation, lanes);
  }

  /** A rung's cheapest plans, from the preferred nodes alone if these can send all of it. */
  private List<Plan> best(Rung rung, NodeOffers offers, int keep, Effort effort) {
    List<Source> sources = offers.sources(true);
    List<Source> preferred =
        sources.stream().filter(s -> order.from().preferred().contains(s.node().code())).toList();
    List<Plan> plans =
        preferred.isEmpty() ? List.of() : search(rung, Cover.WHOLE, preferred, keep, effort);
    return plans.isEmpty() ? search(rung, rung.cover(), sources, keep, effort) : plans;
  }

  /** Whether it would be enough that nodes had places left on their days. */
  private boolean couldWithPlace(Rung rung, NodeOffers offers) {
    return !search(rung, rung.cover(), offers.sources(false), 1, new Effort(STEPS)).isEmpty();
  }

  private List<Plan> search(Rung rung, Cover cover, List<Source> sources, int keep, Effort effort) {
    Integer most = order.maxConsignments();
    int maxConsignments =
        most == null ? rung.maxConsignments() : Math.min(most, rung.maxConsignments());
    return new PlanSearch(basket, sources, policy, cover == Cover.WHOLE, keep, effort)
        .best(maxConsignments);
  }
}
