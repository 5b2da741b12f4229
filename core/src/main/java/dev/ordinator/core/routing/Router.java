package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Chooses node, service and dates for one order: the first rung of the ladder on which some node
 * can send the whole order wins, with its cheapest node. Ties: earlier arrival, then the node
 * listed first. The same input always gives the same answer.
 */
public final class Router {
  private Router() {}

  public static RoutingDecision route(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    List<Candidate> considered = new ArrayList<>();
    for (int rung = 0; rung < ladder.rungs().size(); rung++) {
      List<PlannedConsignment> ranked =
          rank(order, ladder.rungs().get(rung), rung, policy, situation, considered);
      if (!ranked.isEmpty()) {
        PlannedConsignment best = ranked.getFirst();
        Optional<PlannedConsignment> second = ranked.stream().skip(1).findFirst();
        return new RoutingDecision(
            Optional.of(new Choice(rung, List.of(best), best.cost().total())),
            new Grounds(considered, second));
      }
    }
    return new RoutingDecision(Optional.empty(), new Grounds(considered, Optional.empty()));
  }

  /** The rung's possible plans, best first; what was found about each node goes to the grounds. */
  private static List<PlannedConsignment> rank(
      OrderDemand order,
      Rung rung,
      int rungIndex,
      Policy policy,
      Situation situation,
      List<Candidate> considered) {
    NodeOffer offers = new NodeOffer(order, rung, policy, situation);
    List<PlannedConsignment> possible = new ArrayList<>();
    situation
        .network()
        .nodes()
        .forEach(node -> {
          Finding finding = offers.from(node);
          considered.add(new Candidate(rungIndex, node.code(), finding));
          if (finding instanceof Finding.Priced(PlannedConsignment consignment)) {
            possible.add(consignment);
          }
        });
    // a stable sort keeps the listed order of nodes among equals
    possible.sort(
        Comparator.comparingLong((PlannedConsignment c) -> c.cost().total())
            .thenComparing(PlannedConsignment::arrival));
    return possible;
  }
}
