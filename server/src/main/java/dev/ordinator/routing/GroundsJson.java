package dev.ordinator.routing;

import dev.ordinator.core.routing.Grounds;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.Plan;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.PlannedConsignment.Cost;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The form in which grounds are stored and shown; independent of core's types, which may change.
 */
@Component
public class GroundsJson {
  private final JsonMapper json;

  GroundsJson(JsonMapper json) {
    this.json = json;
  }

  /**
   * @param considered what each node could have done alone
   * @param chosen what was planned; empty: nothing
   * @param second the next cheapest plan, over other nodes; empty: there is none
   * @param proven whether the plan is known to be the cheapest
   * @param wanted units of each line that were to be routed, by its id; null: not kept
   */
  public record Stored(
      List<StoredCandidate> considered,
      List<StoredPart> chosen,
      List<StoredPart> second,
      long secondCost,
      boolean proven,
      @Nullable Map<Long, Long> wanted) {}

  /** As it was stored while an order went from one node: by the names of the two best. */
  private record StoredOnce(
      @Nullable String node, List<StoredCandidate> considered, @Nullable String runnerUp) {

    Stored today() {
      List<StoredPart> second = part(runnerUp);
      return new Stored(
          considered,
          part(node),
          second,
          second.stream().mapToLong(part -> part.cost().total()).sum(),
          true,
          null);
    }

    /** What the node was last found to cost, which was on the rung that won. */
    private List<StoredPart> part(@Nullable String code) {
      return considered.reversed().stream()
          .filter(c -> c.node().equals(code) && c.ruledOut() == null)
          .limit(1)
          .map(StoredCandidate::alone)
          .toList();
    }
  }

  /**
   * A consignment of a plan.
   *
   * @param units of all its items; 0: not kept
   */
  public record StoredPart(
      String node,
      String carrier,
      String service,
      LocalDate handOver,
      LocalDate arrival,
      long units,
      Cost cost) {}

  /**
   * A node on a rung: either ruled out, or priced.
   *
   * @param rung 0-based
   * @param ruledOut null if priced; then the parts of the cost, in minor units of the base currency
   * @param skus the items that ruled it out, if any in particular
   * @param expiring units of these that are there, but would not last long enough
   */
  public record StoredCandidate(
      int rung,
      String node,
      @Nullable RuledOut ruledOut,
      List<String> skus,
      long expiring,
      @Nullable String carrier,
      @Nullable String service,
      @Nullable LocalDate handOver,
      @Nullable LocalDate arrival,
      long carriage,
      long handling,
      long purchase,
      long clearance,
      long lateness,
      long total) {

    StoredPart alone() {
      return new StoredPart(
          node,
          Objects.requireNonNullElse(carrier, ""),
          Objects.requireNonNullElse(service, ""),
          Objects.requireNonNull(handOver),
          Objects.requireNonNull(arrival),
          0,
          new Cost(carriage, handling, purchase, clearance, lateness));
    }
  }

  /**
   * @param policy by which it was decided
   * @param wanted units of each line that were to be routed, by its id
   */
  public String write(RoutingDecision decision, Policy policy, Map<Long, Long> wanted) {
    Grounds grounds = decision.grounds();
    Optional<Choice> choice = decision.choice();
    return json.writeValueAsString(
        new Stored(
            grounds.considered().stream().map(GroundsJson::stored).toList(),
            choice.map(c -> parts(c.plan())).orElse(List.of()),
            grounds.runnerUp().map(GroundsJson::parts).orElse(List.of()),
            grounds.runnerUp().map(plan -> plan.paid(policy)).orElse(0L),
            choice.map(Choice::proven).orElse(true),
            wanted));
  }

  public Stored read(String text) {
    JsonNode stored = json.readTree(text);
    return stored.has("chosen")
        ? json.treeToValue(stored, Stored.class)
        : json.treeToValue(stored, StoredOnce.class).today();
  }

  public static List<StoredPart> parts(Plan plan) {
    return plan.consignments().stream()
        .map(p ->
            new StoredPart(
                p.node(),
                p.carrier(),
                p.service(),
                p.handOver(),
                p.arrival(),
                p.lines().stream().mapToLong(PlannedConsignment.Line::quantity).sum(),
                p.cost()))
        .toList();
  }

  static StoredCandidate stored(Candidate c) {
    return switch (c.finding()) {
      case Finding.Out(RuledOut why, List<String> skus, long expiring) ->
          new StoredCandidate(
              c.rung(), c.node(), why, skus, expiring, null, null, null, null, 0, 0, 0, 0, 0, 0);
      case Finding.Priced(PlannedConsignment p) ->
          new StoredCandidate(
              c.rung(),
              c.node(),
              null,
              List.of(),
              0,
              p.carrier(),
              p.service(),
              p.handOver(),
              p.arrival(),
              p.cost().carriage(),
              p.cost().handling(),
              p.cost().purchase(),
              p.cost().clearance(),
              p.cost().lateness(),
              p.cost().total());
    };
  }
}
