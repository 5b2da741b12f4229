package dev.ordinator.planning;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.ordinator.core.routing.Grounds;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.Plan;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.PlannedConsignment.Cost;
import dev.ordinator.core.routing.PlannedConsignment.Line;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The plans of a planning case.
 *
 * @param total of the orders’ costs
 * @param objective what is minimised: {@code total} + rung step × rungs; an order of which nothing
 *     is filled counts the number of rungs
 * @param bound of {@code objective}, which no plans could undercut
 * @param gap (objective − bound) ÷ bound
 * @param seconds that it took
 * @param timeWasUp true: these are the best plans that were found in the time there was; left out
 *     otherwise
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
record PlanningAnswer(
    List<Order> orders,
    long total,
    long objective,
    long bound,
    double gap,
    double seconds,
    @Nullable Boolean timeWasUp) {

  /**
   * @param rung 0-based; null: nothing of it is filled
   * @param proven whether the order’s plan is known to be the cheapest on what was left for it
   * @param grounds of an order that is alone; of a batch they are left out
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Order(
      String id,
      @Nullable Integer rung,
      long cost,
      boolean proven,
      List<Consignment> consignments,
      List<Line> unfilled,
      @Nullable Reasons grounds) {}

  record Consignment(
      String node,
      String carrier,
      String service,
      LocalDate handOver,
      LocalDate arrival,
      long billable,
      Cost cost,
      List<Line> lines) {

    static List<Consignment> of(Plan plan) {
      return plan.consignments().stream().map(Consignment::of).toList();
    }

    private static Consignment of(PlannedConsignment c) {
      return new Consignment(
          c.node(),
          c.carrier(),
          c.service(),
          c.handOver(),
          c.arrival(),
          c.billable(),
          c.cost(),
          c.lines());
    }
  }

  /**
   * @param considered every node on every rung that was tried, as far as it could do it alone
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Reasons(List<Considered> considered, @Nullable RunnerUp runnerUp) {
    static Reasons of(Grounds grounds) {
      return new Reasons(
          grounds.considered().stream().map(Considered::of).toList(),
          grounds
              .runnerUp()
              .map(plan -> new RunnerUp(plan.cost(), Consignment.of(plan)))
              .orElse(null));
    }
  }

  /**
   * @param ruledOut null: it could have sent all of it, for {@code cost}
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Considered(int rung, String node, @Nullable RuledOut ruledOut, @Nullable Long cost) {
    static Considered of(Grounds.Candidate candidate) {
      return switch (candidate.finding()) {
        case Grounds.Finding.Out out ->
            new Considered(candidate.rung(), candidate.node(), out.why(), null);
        case Grounds.Finding.Priced priced ->
            new Considered(
                candidate.rung(), candidate.node(), null, priced.consignment().cost().total());
      };
    }
  }

  record RunnerUp(long cost, List<Consignment> consignments) {}
}
