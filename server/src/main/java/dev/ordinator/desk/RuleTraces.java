package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.EDITION;
import static dev.ordinator.schema.Tables.RULE_TRACE;

import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.orders.ReadyOrder.Trace;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Which rules looked at an order, and which of them held. */
@Component
class RuleTraces {
  private final DSLContext db;
  private final Editions editions;
  private final JsonMapper json;
  private final Clock clock;

  RuleTraces(DSLContext db, Editions editions, JsonMapper json, Clock clock) {
    this.db = db;
    this.editions = editions;
    this.json = json;
    this.clock = clock;
  }

  /** One look: what rules were asked, and what they made of it. */
  record Look(RuleEvent event, RuleOutcome outcome) {}

  /**
   * @param edition its number
   */
  record Shown(Instant at, RuleEvent event, int edition, List<ShownRule> rules) {}

  /**
   * @param name as the edition called it
   * @param did what it did, in words; empty if it did not hold
   */
  record ShownRule(String id, String name, boolean held, List<String> did) {}

  /** As it is kept: the edition has the rest. */
  private record Kept(String r, boolean h) {}

  /** Keeps a look at an order; one at which no rule was asked is not worth a line. */
  void keep(long orderId, Edition edition, Look look) {
    if (look.outcome().trace().isEmpty()) {
      return;
    }
    Trace trace = trace(edition, look);
    db.insertInto(RULE_TRACE)
        .set(RULE_TRACE.ORDER_ID, orderId)
        .set(RULE_TRACE.EDITION_ID, trace.editionId())
        .set(RULE_TRACE.EVENT, trace.event())
        .set(RULE_TRACE.AT, clock.instant())
        .set(RULE_TRACE.TRIED, trace.tried())
        .execute();
  }

  /** Likewise, for an order that is not written down yet. */
  Trace trace(Edition edition, Look look) {
    List<Kept> kept =
        look.outcome().trace().stream().map(t -> new Kept(t.rule(), t.held())).toList();
    return new Trace(edition.id(), look.event().name(), json.writeValueAsString(kept));
  }

  /** An order's looks, the latest first. */
  List<Shown> of(long orderId) {
    return db.select(
            RULE_TRACE.AT,
            RULE_TRACE.EVENT,
            RULE_TRACE.EDITION_ID,
            EDITION.NUMBER,
            RULE_TRACE.TRIED)
        .from(RULE_TRACE)
        .join(EDITION)
        .on(EDITION.ID.eq(RULE_TRACE.EDITION_ID))
        .where(RULE_TRACE.ORDER_ID.eq(orderId))
        .orderBy(RULE_TRACE.ID.desc())
        .fetch(r ->
            new Shown(
                r.value1(),
                RuleEvent.valueOf(r.value2()),
                r.value4(),
                shown(r.value3(), json.readValue(r.value5(), Kept[].class))));
  }

  private List<ShownRule> shown(long editionId, Kept[] kept) {
    Map<String, DeskRule> rules =
        editions
            .body(editionId)
            .rules()
            .collect(Collectors.toMap(DeskRule::id, Function.identity()));
    List<ShownRule> shown = new ArrayList<>();
    for (Kept one : kept) {
      DeskRule rule = rules.get(one.r());
      if (rule != null) {
        shown.add(
            new ShownRule(
                rule.id(),
                rule.name(),
                one.h(),
                one.h() ? rule.actions().stream().map(RuleWords::of).toList() : List.of()));
      }
    }
    return shown;
  }
}
