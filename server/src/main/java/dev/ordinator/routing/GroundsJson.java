package dev.ordinator.routing;

import dev.ordinator.core.routing.Grounds;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.RoutingDecision;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * The form in which grounds are stored and shown; independent of core's types, which may change.
 */
@Component
class GroundsJson {
  private final JsonMapper json;

  GroundsJson(JsonMapper json) {
    this.json = json;
  }

  record Stored(
      @Nullable String node, List<StoredCandidate> considered, @Nullable String runnerUp) {}

  /**
   * A node on a rung: either ruled out, or priced.
   *
   * @param rung 0-based
   * @param ruledOut null if priced; then the parts of the cost, in minor units of the base currency
   * @param skus the items that ruled it out, if any in particular
   */
  record StoredCandidate(
      int rung,
      String node,
      @Nullable RuledOut ruledOut,
      List<String> skus,
      @Nullable String carrier,
      @Nullable String service,
      @Nullable LocalDate handOver,
      @Nullable LocalDate arrival,
      long carriage,
      long handling,
      long purchase,
      long clearance,
      long lateness,
      long total) {}

  String write(RoutingDecision decision) {
    Grounds grounds = decision.grounds();
    return json.writeValueAsString(
        new Stored(
            decision.choice().map(c -> c.consignments().getFirst().node()).orElse(null),
            grounds.considered().stream().map(GroundsJson::stored).toList(),
            grounds.runnerUp().map(PlannedConsignment::node).orElse(null)));
  }

  Stored read(String text) {
    return json.readValue(text, Stored.class);
  }

  private static StoredCandidate stored(Candidate c) {
    return switch (c.finding()) {
      case Finding.Out(RuledOut why, List<String> skus) ->
          new StoredCandidate(
              c.rung(), c.node(), why, skus, null, null, null, null, 0, 0, 0, 0, 0, 0);
      case Finding.Priced(PlannedConsignment p) ->
          new StoredCandidate(
              c.rung(),
              c.node(),
              null,
              List.of(),
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
