package dev.ordinator.desk;

import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.Assignments;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.RoutingWishes;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.platform.Events.Happened;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Applies the live edition's desk rules to an order, in the transaction of what made them look, and
 * leaves the trace.
 */
@Component
class RuleDesk {
  private static final String DESK = "desk";

  /** What of an order's timeline rules may look at; the rest is said where it happens. */
  private static final Map<EventKind, RuleEvent> EVENTS =
      Map.of(
          EventKind.REFUSED, RuleEvent.REFUSED,
          EventKind.PACKED, RuleEvent.PACKED,
          EventKind.HANDED_OVER, RuleEvent.SHIPPED,
          EventKind.DELIVERED, RuleEvent.DELIVERED,
          EventKind.RETURN_OPENED, RuleEvent.RETURN_OPENED,
          EventKind.AMENDED, RuleEvent.AMENDED);

  private final Editions editions;
  private final Orders orders;
  private final RoutingWishes wishes;
  private final OrderFactsReader facts;
  private final Assignments assignments;
  private final RuleTraces traces;
  private final OutboxPosts posts;
  private final Snags snags;
  private final Events events;

  RuleDesk(
      Editions editions,
      Orders orders,
      RoutingWishes wishes,
      OrderFactsReader facts,
      Assignments assignments,
      RuleTraces traces,
      OutboxPosts posts,
      Snags snags,
      Events events) {
    this.editions = editions;
    this.orders = orders;
    this.wishes = wishes;
    this.facts = facts;
    this.assignments = assignments;
    this.traces = traces;
    this.posts = posts;
    this.snags = snags;
    this.events = events;
  }

  @EventListener
  void on(Happened happened) {
    RuleEvent event = EVENTS.get(happened.kind());
    if (event != null) {
      apply(happened.orderId(), event);
    }
  }

  @EventListener
  void on(Orders.Passed passed) {
    apply(passed.orderId(), passed.event());
  }

  /** Rules that took too long were written anew; one that still does is found again. */
  @EventListener
  void on(Editions.WentLive live) {
    snags.closeAll(SnagCause.RULE_TOO_COSTLY, DESK);
  }

  /** Applies all rules for an event, if there are any. */
  void apply(long orderId, RuleEvent event) {
    Edition edition = editions.live();
    if (edition.body().rules().anyMatch(r -> r.on() && r.event() == event)) {
      RuleOutcome outcome =
          DeskRules.evaluate(
              edition.body().groups(), event, facts.now(orderId, edition.body().looksAtStock()));
      carryOut(orderId, edition, event, outcome);
    }
  }

  /** Applies one rule, for an order that has stayed for as long as the rule says. */
  void apply(long orderId, Edition edition, DeskRule rule) {
    OrderFacts seen = facts.now(orderId, rule.condition().looksAtStock());
    carryOut(orderId, edition, rule.event(), DeskRules.evaluate(rule, seen));
  }

  private void carryOut(long id, Edition edition, RuleEvent event, RuleOutcome outcome) {
    traces.keep(id, edition, new RuleTraces.Look(event, outcome));
    outcome
        .tooCostly()
        .forEach(rule ->
            snags.open(
                Snags.About.of(
                    SnagCause.RULE_TOO_COSTLY,
                    rule.id(),
                    rule.name(),
                    "its expression takes more steps than it may, first for "
                        + orders.head(id).number()
                        + ": it did not hold; write it shorter and make it live"),
                null,
                DESK));
    if (!outcome.anyHeld()) {
      return;
    }
    orders.setTags(id, outcome.tags());
    outcome.priority().ifPresent(p -> orders.setPriority(id, p));
    outcome.level().ifPresent(l -> orders.setLevel(id, l));
    wishes.add(
        id,
        outcome.ladder(),
        outcome.maySplit(),
        new RoutingWishes.Short(outcome.mayWait(), outcome.inPart(), outcome.mayReplace()),
        outcome.excludedNodes(),
        outcome.preferredNodes());
    outcome.assignee().ifPresent(to -> assign(id, to));
    outcome.list().ifPresent(list -> assignments.putOn(List.of(id), list, DESK));
    events.recordAll(Map.of(id, told(edition, outcome)));
    outcome.notes().forEach(note -> orders.note(id, note, DESK));
    if (outcome.releasesHold()) {
      orders.endHoldsOfRules(id, DESK);
    }
    outcome.holds().forEach(reason -> orders.holdByRule(id, reason, DESK));
    String rules = namesOf(outcome);
    outcome.notices().forEach(to -> posts.postNotice(orders.head(id), to, rules));
  }

  /** Somebody may have left since the rule was written. */
  private void assign(long id, String to) {
    if (assignments.colleagues().stream().anyMatch(c -> c.username().equals(to))) {
      assignments.assign(List.of(id), to, DESK);
    } else {
      orders.note(id, "Not for %s: nobody logs in so any more".formatted(to), DESK);
    }
  }

  private static String namesOf(RuleOutcome outcome) {
    return outcome.trace().stream()
        .filter(RuleOutcome.Tried::held)
        .map(tried -> "“" + tried.name() + "”")
        .collect(Collectors.joining(", "));
  }

  /** What an order's timeline says of the rules that held. */
  static List<Fact> told(Edition edition, RuleOutcome outcome) {
    return outcome.trace().stream()
        .filter(RuleOutcome.Tried::held)
        .map(tried ->
            new Fact(
                EventKind.RULES,
                "rule “" + tried.name() + "”",
                tried.did().stream().map(RuleWords::of).collect(Collectors.joining("; ")),
                "edition " + edition.number() + ", " + outcome.trace().size() + " rules tried"))
        .toList();
  }
}
