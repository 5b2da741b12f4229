package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.EDITION;
import static dev.ordinator.schema.Tables.NODE;
import static org.jooq.impl.DSL.countDistinct;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.GroundsJson.Stored;
import dev.ordinator.routing.GroundsJson.StoredCandidate;
import dev.ordinator.routing.GroundsJson.StoredPart;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Orders")
class DecisionApi {
  private final DSLContext db;
  private final GroundsJson groundsJson;
  private final OrdinatorSettings settings;
  private final Clock clock;

  DecisionApi(DSLContext db, GroundsJson groundsJson, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.groundsJson = groundsJson;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * @param cost of the plan, in minor units of {@code currency}
   * @param splitPenalty what of it is for sending more than one consignment
   * @param chosen what was planned; empty: nothing could be
   * @param second the next cheapest plan, over other nodes; empty: there is none
   * @param overrideReason why a person sent it so; null: the rulebook did
   * @param proven false: the search was given up for its size, and this is the best it had found
   */
  record Decision(
      Instant at,
      String actor,
      int edition,
      @Nullable Integer rung,
      int rungs,
      String rungName,
      String currency,
      long cost,
      long splitPenalty,
      List<StoredPart> chosen,
      List<StoredPart> second,
      long secondCost,
      boolean proven,
      @Nullable String overrideReason,
      Map<String, String> nodeNames,
      List<StoredCandidate> considered) {}

  @Operation(summary = "Why an order was routed as it was: its routing decisions, newest first")
  @GetMapping("/api/orders/{id}/decisions")
  List<Decision> decisions(@PathVariable long id) {
    Map<String, String> names =
        db.select(NODE.CODE, NODE.NAME).from(NODE).fetchMap(NODE.CODE, NODE.NAME);
    return db.select(
            DECISION.AT,
            DECISION.ACTOR,
            EDITION.NUMBER,
            DECISION.RUNG,
            DECISION.RUNGS,
            DECISION.RUNG_NAME,
            DECISION.COST,
            DECISION.GROUNDS,
            DECISION.OVERRIDE_REASON)
        .from(DECISION)
        .join(EDITION)
        .on(EDITION.ID.eq(DECISION.EDITION_ID))
        .where(DECISION.ORDER_ID.eq(id))
        .orderBy(DECISION.ID.desc())
        .limit(20)
        .fetch(r -> {
          Stored grounds = groundsJson.read(r.get(DECISION.GROUNDS));
          return new Decision(
              r.get(DECISION.AT),
              r.get(DECISION.ACTOR),
              r.get(EDITION.NUMBER),
              r.get(DECISION.RUNG),
              r.get(DECISION.RUNGS),
              r.get(DECISION.RUNG_NAME),
              settings.baseCurrency(),
              r.get(DECISION.COST),
              r.get(DECISION.COST)
                  - grounds.chosen().stream().mapToLong(part -> part.cost().total()).sum(),
              grounds.chosen(),
              grounds.second(),
              grounds.secondCost(),
              grounds.proven(),
              r.get(DECISION.OVERRIDE_REASON),
              names,
              grounds.considered());
        });
  }

  /**
   * @param rung its name; empty: no rung could
   */
  record Share(String rung, int orders) {}

  @Operation(summary = "How many orders of the last 30 days each rung was chosen for")
  @GetMapping("/api/rulebook/shares")
  List<Share> shares() {
    var orders = countDistinct(DECISION.ORDER_ID);
    return db.select(DECISION.RUNG_NAME, orders)
        .from(DECISION)
        .where(DECISION.AT.ge(clock.instant().minus(Duration.ofDays(30))))
        .groupBy(DECISION.RUNG_NAME)
        .orderBy(orders.desc())
        .fetch(r -> new Share(r.value1(), r.value2()));
  }
}
