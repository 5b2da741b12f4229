package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BooleanSupplier;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Which of the last days' orders rules would have met, by their conditions alone: each rule as if
 * it stood by itself. Tags are as they are today; hours and days those of each order's receipt.
 */
@Component
class RuleTrial {
  private static final Duration BACK = Duration.ofDays(30);
  private static final int MOST = 20_000;
  private static final int AT_ONCE = 1_000;
  private static final int SHOWN = 200;

  /** What in an order's timeline says that an event has happened to it. */
  private static final Map<EventKind, RuleEvent> HAPPENED =
      Map.of(
          EventKind.APPROVED, RuleEvent.APPROVED,
          EventKind.ROUTED, RuleEvent.ROUTED,
          EventKind.RELEASED, RuleEvent.RELEASED,
          EventKind.REFUSED, RuleEvent.REFUSED,
          EventKind.PACKED, RuleEvent.PACKED,
          EventKind.HANDED_OVER, RuleEvent.SHIPPED,
          EventKind.DELIVERED, RuleEvent.DELIVERED,
          EventKind.RETURN_OPENED, RuleEvent.RETURN_OPENED,
          EventKind.AMENDED, RuleEvent.AMENDED);

  private static final Duration LONGEST = Duration.ofSeconds(10);

  private final DSLContext db;
  private final OrderFactsReader facts;
  private final Clock clock;

  /** The trial that each person began last: one that they began before it ends. */
  private final Map<String, Object> latest = new ConcurrentHashMap<>();

  RuleTrial(DSLContext db, OrderFactsReader facts, Clock clock) {
    this.db = db;
    this.facts = facts;
    this.clock = clock;
  }

  /**
   * @param tried orders that were looked at
   * @param since they came in after this
   * @param met by the rules' ids; rules for orders that stay are not in it
   */
  record Counts(int tried, Instant since, Map<String, Integer> met) {}

  /**
   * @param orders the latest of those that it would have met
   */
  record Met(int tried, Instant since, int met, List<MetOrder> orders) {}

  /**
   * @param total minor units of {@code currency}
   */
  record MetOrder(
      long id,
      String number,
      String buyer,
      String country,
      long total,
      String currency,
      Instant at) {}

  /**
   * @param who asks; a trial that they asked for before ends
   * @throws Problem if it takes too long, or they have asked for another one meanwhile
   */
  Counts count(List<DeskRule> rules, String who) {
    Map<String, Integer> met = new LinkedHashMap<>();
    rules.stream().filter(r -> r.event() != RuleEvent.STAYS).forEach(r -> met.put(r.id(), 0));
    List<Long> ids = newest();
    forEach(
        who,
        ids,
        (id, seen, happened) ->
            rules.stream()
                .filter(r -> happened.contains(r.event()) && r.condition().holds(seen))
                .forEach(r -> met.merge(r.id(), 1, Integer::sum)));
    return new Counts(ids.size(), since(), met);
  }

  /**
   * A rule for orders that stay is tried as if all had stayed.
   *
   * @param who asks; a trial that they asked for before ends
   * @throws Problem if it takes too long, or they have asked for another one meanwhile
   */
  Met meets(DeskRule rule, String who) {
    List<Long> ids = newest();
    List<Long> met = new ArrayList<>();
    forEach(
        who,
        ids,
        (id, seen, happened) -> {
          boolean may = rule.event() == RuleEvent.STAYS || happened.contains(rule.event());
          if (may && rule.condition().holds(seen)) {
            met.add(id);
          }
        });
    return new Met(ids.size(), since(), met.size(), shown(met));
  }

  private interface Look {
    void at(long id, OrderFacts seen, Set<RuleEvent> happened);
  }

  private void forEach(String who, List<Long> ids, Look look) {
    Object mine = new Object();
    latest.put(who, mine);
    Instant until = clock.instant().plus(LONGEST);
    try {
      forEach(ids, until, () -> latest.get(who) == mine, look);
    } catch (Expression.TooCostly e) {
      throw Problem.invalid(
          "condition", "the expression takes more steps for an order than it may");
    } finally {
      latest.remove(who, mine);
    }
  }

  private void forEach(List<Long> ids, Instant until, BooleanSupplier wanted, Look look) {
    for (int from = 0; from < ids.size(); from += AT_ONCE) {
      List<Long> some = ids.subList(from, Math.min(ids.size(), from + AT_ONCE));
      Map<Long, OrderFacts> seen = facts.asReceived(some);
      Map<Long, Set<RuleEvent>> happened = happened(some);
      for (long id : some) {
        if (!wanted.getAsBoolean()) {
          throw Problem.conflict("another trial was asked for meanwhile");
        }
        if (clock.instant().isAfter(until)) {
          throw Problem.invalid(
              "condition",
              "after %d seconds the trial was not over; write the condition shorter"
                  .formatted(LONGEST.toSeconds()));
        }
        OrderFacts its = seen.get(id);
        Set<RuleEvent> events = happened.getOrDefault(id, EnumSet.of(RuleEvent.RECEIVED));
        if (its != null) {
          if (its.payment().hasBeenPaid()) {
            events.add(RuleEvent.PAID);
          }
          look.at(id, its, events);
        }
      }
    }
  }

  private Map<Long, Set<RuleEvent>> happened(List<Long> ids) {
    Map<Long, Set<RuleEvent>> happened = new HashMap<>();
    db.selectDistinct(EVENT.ORDER_ID, EVENT.KIND)
        .from(EVENT)
        .where(EVENT.ORDER_ID.in(ids))
        .and(EVENT.KIND.in(HAPPENED.keySet().stream().map(Enum::name).toList()))
        .forEach(r ->
            happened
                .computeIfAbsent(r.value1(), k -> EnumSet.of(RuleEvent.RECEIVED))
                .add(HAPPENED.get(EventKind.valueOf(r.value2()))));
    db.selectDistinct(DECISION.ORDER_ID)
        .from(DECISION)
        .where(DECISION.ORDER_ID.in(ids))
        .and(DECISION.RUNG.isNull())
        .forEach(r ->
            happened
                .computeIfAbsent(r.value1(), k -> EnumSet.of(RuleEvent.RECEIVED))
                .add(RuleEvent.SHORT));
    return happened;
  }

  private List<Long> newest() {
    return db.select(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.RECEIVED_AT.ge(since()))
        .orderBy(SALES_ORDER.ID.desc())
        .limit(MOST)
        .fetch(SALES_ORDER.ID);
  }

  private Instant since() {
    return clock.instant().minus(BACK);
  }

  private List<MetOrder> shown(List<Long> met) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.SHIP_COUNTRY,
            SALES_ORDER.TOTAL,
            SALES_ORDER.CURRENCY,
            SALES_ORDER.PLACED_AT)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.in(met.subList(0, Math.min(SHOWN, met.size()))))
        .orderBy(SALES_ORDER.ID.desc())
        .fetch(r ->
            new MetOrder(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7()));
  }
}
