package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.EDITION;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.GroundsJson.Stored;
import dev.ordinator.routing.GroundsJson.StoredCandidate;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
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

  DecisionApi(DSLContext db, GroundsJson groundsJson, OrdinatorSettings settings) {
    this.db = db;
    this.groundsJson = groundsJson;
    this.settings = settings;
  }

  /**
   * @param chosen the node that won, and {@code runnerUp} the second; by code
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
      @Nullable String chosen,
      @Nullable String runnerUp,
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
            DECISION.GROUNDS)
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
              grounds.node(),
              grounds.runnerUp(),
              names,
              grounds.considered());
        });
  }
}
