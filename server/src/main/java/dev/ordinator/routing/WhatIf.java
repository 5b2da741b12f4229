package dev.ordinator.routing;

import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.OrderDemand.From;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.planning.CaseWriter;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Elsewhere.Alternative;
import dev.ordinator.routing.Routing.Outlook;
import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What would become of an order if the rulebook were asked something else. */
@Service
class WhatIf {
  private static final int MOST_MORE = 5;
  private static final int MOST_DAYS = 30;

  private final OpenAgain orders;
  private final Nodes nodes;
  private final OrdinatorSettings settings;

  WhatIf(OpenAgain orders, Nodes nodes, OrdinatorSettings settings) {
    this.orders = orders;
    this.nodes = nodes;
    this.settings = settings;
  }

  /**
   * @param without the code of a node that may not send any of it; empty: all may that could
   * @param more consignments more than each rung allows
   * @param laterDays by how many days later than asked for it may arrive
   */
  record Question(String without, int more, int laterDays) {}

  /**
   * @param how from where, at what cost; null: no rung could
   * @param rung the name of the rung that would choose it; empty: none could
   */
  record Outcome(@Nullable Alternative how, String rung) {}

  /**
   * @param now by the live edition, at this moment's stock and capacity
   * @param asked whether it has a date by which it is to arrive
   */
  record Answer(
      String currency, Outcome now, Outcome then, boolean asked, Map<String, String> nodeNames) {}

  /**
   * @throws Problem if nothing of the order can be moved any more
   */
  Answer ask(long orderId, Question question) {
    if (question.more() < 0 || question.more() > MOST_MORE) {
      throw Problem.invalid("more", "0 to 5 consignments more");
    }
    if (question.laterDays() < 0 || question.laterDays() > MOST_DAYS) {
      throw Problem.invalid("laterDays", "0 to 30 days later");
    }
    return orders.look(
        orderId,
        (order, outlook) -> {
          Outlook other =
              outlook.asking(
                  asked(outlook.demand(), question), longer(outlook.ladder(), question.more()));
          return new Answer(
              settings.baseCurrency(),
              outcome(outlook, order),
              outcome(other, order),
              order.arriveBy() != null,
              nodes.names());
        });
  }

  /** What an order is routed by, as a planning case. */
  String asCase(long orderId) {
    return orders.look(
        orderId,
        (order, outlook) ->
            CaseWriter.write(
                List.of(new BatchRouter.Order(outlook.demand(), outlook.ladder(), 1)),
                outlook.edition().body().policy(),
                outlook.situation(),
                settings.baseCurrency()));
  }

  private static Outcome outcome(Outlook outlook, OrderHead order) {
    Optional<Choice> choice = outlook.by(outlook.ladder()).choice();
    return new Outcome(
        choice
            .map(c -> Elsewhere.alternative(c.plan(), c.plan().paid(outlook.policy()), order))
            .orElse(null),
        choice.map(c -> outlook.ladder().rungs().get(c.rung()).name()).orElse(""));
  }

  private static OrderDemand asked(OrderDemand demand, Question question) {
    From from = demand.from();
    Set<String> excluded = new HashSet<>(from.excluded());
    if (!question.without().isEmpty()) {
      excluded.add(question.without());
    }
    LocalDate by = demand.arriveBy();
    Integer most = demand.maxConsignments();
    return new OrderDemand(
        demand.id(),
        demand.to(),
        demand.level(),
        by == null ? null : by.plusDays(question.laterDays()),
        most == null ? null : most + question.more(),
        new From(from.serving(), from.pickUp(), excluded, from.preferred(), from.refused()),
        demand.lines());
  }

  private static Ladder longer(Ladder ladder, int more) {
    return new Ladder(
        ladder.name(),
        ladder.rungs().stream()
            .map(
                r -> new Rung(r.name(), r.nodes(), r.maxConsignments() + more, r.cover(), r.late()))
            .toList());
  }
}
