package dev.ordinator.planning;

import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Plan;
import dev.ordinator.core.routing.PlannedConsignment.Line;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.planning.PlanningAnswer.Consignment;
import dev.ordinator.planning.PlanningAnswer.Reasons;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;

/** Solves planning cases: one order alone with its grounds, several as a batch. */
final class Planner {
  private Planner() {}

  /**
   * @throws CaseError if it is no planning case
   */
  static PlanningAnswer solve(String json) {
    return solve(json, Integer.MAX_VALUE, () -> false);
  }

  /**
   * @param mostOrders of a case that is solved
   * @param timeIsUp asked now and then; once it says so, the best plans found so far are given
   * @throws CaseError if it is no planning case, or has more orders
   */
  static PlanningAnswer solve(String json, int mostOrders, BooleanSupplier timeIsUp) {
    long start = System.nanoTime();
    Case problem = CaseReader.read(json);
    if (problem.orders().size() > mostOrders) {
      throw new CaseError("$.orders", "at most %,d orders".formatted(mostOrders));
    }
    return problem.orders().size() == 1 ? alone(problem, start) : batch(problem, start, timeIsUp);
  }

  private static PlanningAnswer alone(Case problem, long start) {
    OrderDemand demand = problem.orders().getFirst().demand();
    RoutingDecision decision =
        Router.route(demand, problem.ladder(), problem.policy(), problem.situation());
    Optional<Choice> choice = decision.choice();
    PlanningAnswer.Order order = order(demand, problem, choice, Reasons.of(decision.grounds()));
    int rung = choice.map(Choice::rung).orElse(problem.ladder().rungs().size());
    long objective = order.cost() + problem.policy().rungStep() * rung;
    return new PlanningAnswer(
        List.of(order), order.cost(), objective, objective, 0, seconds(start), null);
  }

  private static PlanningAnswer batch(Case problem, long start, BooleanSupplier timeIsUp) {
    BatchRouter.Result result =
        BatchRouter.route(problem.orders(), problem.policy(), problem.situation(), timeIsUp);
    List<PlanningAnswer.Order> orders = new ArrayList<>();
    for (int o = 0; o < problem.orders().size(); o++) {
      OrderDemand demand = problem.orders().get(o).demand();
      orders.add(order(demand, problem, result.choices().get(o), null));
    }
    long total = orders.stream().mapToLong(PlanningAnswer.Order::cost).sum();
    return new PlanningAnswer(
        orders,
        total,
        result.total(),
        result.bound(),
        result.gap(),
        seconds(start),
        timeIsUp.getAsBoolean() ? true : null);
  }

  private static PlanningAnswer.Order order(
      OrderDemand demand, Case problem, Optional<Choice> choice, @Nullable Reasons grounds) {
    if (choice.isEmpty()) {
      List<Line> all = demand.lines().stream().map(l -> new Line(l.id(), l.quantity())).toList();
      long units = all.stream().mapToLong(Line::quantity).sum();
      long cost = units * problem.policy().unfilledPenaltyPerUnit();
      return new PlanningAnswer.Order(demand.id(), null, cost, true, List.of(), all, grounds);
    }
    Plan plan = choice.get().plan();
    return new PlanningAnswer.Order(
        demand.id(),
        choice.get().rung(),
        plan.cost(),
        choice.get().proven(),
        Consignment.of(plan),
        plan.unfilled(),
        grounds);
  }

  private static double seconds(long start) {
    return (System.nanoTime() - start) / 1e9;
  }
}
