package dev.ordinator.core.routing;

import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.PlanSearch.Priced;
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

  Router(OrderDemand order, Policy policy, Situation situation) {
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

  /** The same order, elsewhere or later. */
  Router on(Situation other) {
    return new Router(order, policy, other);
  }

  private RoutingDecision firstOf(List<Rung> rungs) {
    List<Candidate> considered = new ArrayList<>();
    boolean full = false;
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      Fill fill = rung.cover() == Cover.WHOLE ? Fill.WHOLE : Fill.MOST;
      NodeOffers offers = offers(rung, Worth.NOTHING);
      for (Node node : situation.network().nodes()) {
        considered.add(new Candidate(r, node.code(), offers.alone(node)));
      }
      Effort effort = new Effort(STEPS);
      List<Priced> plans = best(rung, offers, fill, Long.MAX_VALUE, 2, effort);
      if (!plans.isEmpty()) {
        return new RoutingDecision(
            Optional.of(new Choice(r, plans.getFirst().plan(), !effort.isSpent())),
            false,
            new Grounds(considered, plans.stream().skip(1).map(Priced::plan).findFirst()));
      }
      full = full || couldWithPlace(rung, offers, fill);
    }
    return new RoutingDecision(Optional.empty(), full, new Grounds(considered, Optional.empty()));
  }

  /**
   * What is best for all, whatever the rung.
   *
   * @param charged plan cost, rung step × rung, and what all it takes is worth to others
   */
  record Offered(Choice choice, long charged) {}

  /**
   * The cheapest over all rungs, each rung counted as dearer by the rung step than the one before,
   * with what it takes from others; a rung of cover MOST may fill any part.
   *
   * @param below what comes to so much or more is of no use
   */
  Optional<Offered> cheapest(List<Rung> rungs, Worth worth, long below) {
    Offered best = null;
    boolean proven = true;
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      Fill fill = rung.cover() == Cover.WHOLE ? Fill.WHOLE : Fill.ANY;
      long step = policy.rungStep() * r;
      long beat = best == null ? below : best.charged();
      Effort effort = new Effort(STEPS);
      long limit = beat == Long.MAX_VALUE ? beat : beat - step;
      for (Priced found : best(rung, offers(rung, worth), fill, limit, 1, effort)) {
        if (found.charged() < limit) {
          best = new Offered(new Choice(r, found.plan(), true), found.charged() + step);
        }
      }
      proven &= !effort.isSpent();
    }
    return proven || best == null
        ? Optional.ofNullable(best)
        : Optional.of(
            new Offered(
                new Choice(best.choice().rung(), best.choice().plan(), false), best.charged()));
  }

  /**
   * All plans on any rung that come to no more than a limit, counted like {@link #cheapest}.
   *
   * @return not all of them if the effort was spent
   */
  List<Offered> every(List<Rung> rungs, Worth worth, long limit, Effort effort) {
    List<Offered> all = new ArrayList<>();
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      Fill fill = rung.cover() == Cover.WHOLE ? Fill.WHOLE : Fill.ANY;
      long step = policy.rungStep() * r;
      List<Source> sources = offers(rung, worth).sources(true, fill);
      for (Priced found :
          new EveryPlan(basket, sources, policy, fill, maxConsignments(rung), limit - step, effort)
              .all()) {
        all.add(new Offered(new Choice(r, found.plan(), true), found.charged() + step));
      }
    }
    return all;
  }

  private NodeOffers offers(Rung rung, Worth worth) {
    return new NodeOffers(order, basket, rung, policy, situation, lanes, worth);
  }

  /** A rung's cheapest plans, from the preferred nodes alone if these can send all of it. */
  private List<Priced> best(
      Rung rung, NodeOffers offers, Fill fill, long below, int keep, Effort effort) {
    if (!order.from().preferred().isEmpty()) {
      List<Source> preferred =
          offers.sources(true, Fill.WHOLE).stream()
              .filter(s -> order.from().preferred().contains(s.node().code()))
              .toList();
      List<Priced> plans = search(rung, Fill.WHOLE, preferred, Long.MAX_VALUE, keep, effort);
      if (!plans.isEmpty()) {
        return plans;
      }
    }
    return search(rung, fill, offers.sources(true, fill), below, keep, effort);
  }

  /** Whether it would be enough that nodes had places left on their days. */
  private boolean couldWithPlace(Rung rung, NodeOffers offers, Fill fill) {
    return !search(rung, fill, offers.sources(false, fill), Long.MAX_VALUE, 1, new Effort(STEPS))
        .isEmpty();
  }

  private List<Priced> search(
      Rung rung, Fill fill, List<Source> sources, long below, int keep, Effort effort) {
    return new PlanSearch(basket, sources, policy, fill, below, keep, effort)
        .best(maxConsignments(rung));
  }

  private int maxConsignments(Rung rung) {
    Integer most = order.maxConsignments();
    return most == null ? rung.maxConsignments() : Math.min(most, rung.maxConsignments());
  }
}
