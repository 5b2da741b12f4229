package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;
import static org.jooq.impl.DSL.countDistinct;

import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Orders")
class DecisionApi {
  private final DSLContext db;
  private final Decisions decisions;
  private final Clock clock;

  DecisionApi(DSLContext db, Decisions decisions, Clock clock) {
    this.db = db;
    this.decisions = decisions;
    this.clock = clock;
  }

  @Operation(summary = "Why an order was routed as it was: its routing decisions, newest first")
  @GetMapping("/api/orders/{id}/decisions")
  List<Decisions.Decision> decisions(@PathVariable long id) {
    return decisions.ofOrder(id);
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
