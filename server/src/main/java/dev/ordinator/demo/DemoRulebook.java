package dev.ordinator.demo;

import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;
import dev.ordinator.core.rules.Condition.Test;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.Field;
import dev.ordinator.core.rules.Operator;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleGroup;
import dev.ordinator.rulebook.Draft;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** The first edition, and what Mara has in mind for the second. */
@Component
class DemoRulebook {
  private static final String GROUP = "Every order";
  private static final Policy PRICES = new Policy(300, 250, 5_000, 2_000, 5_000);
  private static final Condition ANY_ORDER = new Condition.All(List.of());
  private static final Ladder EVERYDAY =
      new Ladder(
          "Everyday",
          List.of(
              new Rung(
                  "One of our nodes, same country",
                  new NodeFilter(Set.of(NodeKind.WAREHOUSE, NodeKind.STORE), null, true),
                  1,
                  Cover.WHOLE,
                  Late.FORBID),
              new Rung("Any one node", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
              new Rung("Any two nodes", NodeFilter.ALL, 2, Cover.WHOLE, Late.FORBID),
              new Rung(
                  "Up to three nodes, even late", NodeFilter.ALL, 3, Cover.WHOLE, Late.ALLOW)));

  /** What stands in stores is to be sold first. */
  private static final Ladder STORES_FIRST =
      new Ladder(
          EVERYDAY.name(),
          Stream.concat(
                  Stream.of(
                      new Rung(
                          "A store, same country",
                          new NodeFilter(Set.of(NodeKind.STORE), null, true),
                          1,
                          Cover.WHOLE,
                          Late.FORBID)),
                  EVERYDAY.rungs().stream())
              .toList());

  private static final Ladder WHOLE_PARCELS =
      new Ladder(
          "Whole parcels",
          List.of(
              new Rung("One node, in time", NodeFilter.ALL, 1, Cover.WHOLE, Late.FORBID),
              new Rung("One node, even late", NodeFilter.ALL, 1, Cover.WHOLE, Late.ALLOW)));

  private final Editions editions;
  private final Draft draft;

  DemoRulebook(Editions editions, Draft draft) {
    this.editions = editions;
    this.draft = draft;
  }

  void install() {
    editions.publish(book(List.of(EVERYDAY), rules()), "the first edition", "Mara");
  }

  /** What is being thought over: nothing of it decides yet, and one rule is not thought through. */
  void think() {
    List<DeskRule> rules = new ArrayList<>(rules());
    rules.add(
        rule(
            "guild-whole",
            "Guild members get one parcel",
            RuleEvent.APPROVED,
            test(Field.CHANNEL, Operator.IS, "GUILD"),
            new Action.UseLadder("Whole parcels")));
    rules.add(
        rule(
            "dear-first",
            "Dear orders first",
            RuleEvent.PAID,
            test(Field.VALUE, Operator.OVER, "50000"),
            new Action.SetPriority(3)));
    rules.add(
        rule(
            "usual-turn",
            "All others in their turn",
            RuleEvent.PAID,
            test(Field.VALUE, Operator.OVER, "0"),
            new Action.SetPriority(5)));
    draft.replace(book(List.of(STORES_FIRST, WHOLE_PARCELS), rules), "Mara");
  }

  private static Rulebook book(List<Ladder> ladders, List<DeskRule> rules) {
    return new Rulebook(PRICES, ladders, List.of(new RuleGroup(GROUP, rules)));
  }

  private static List<DeskRule> rules() {
    return List.of(
        rule(
            "express",
            "Express goes first",
            RuleEvent.RECEIVED,
            test(Field.SERVICE_ASKED, Operator.BEGINS_WITH, "express"),
            new Action.SetPriority(2),
            new Action.SetLevel(ServiceLevel.EXPRESS)),
        rule(
            "glass",
            "Glass from the warehouse only",
            RuleEvent.RECEIVED,
            test(Field.CATEGORY, Operator.IS, "jars"),
            new Action.AddTag("fragile"),
            new Action.ExcludeNode("CAN"),
            new Action.ExcludeNode("FER")),
        rule(
            "dear",
            "Look at dear orders",
            RuleEvent.RECEIVED,
            test(Field.VALUE, Operator.OVER, "250000"),
            new Action.Hold("over 2,500 EUR: check the buyer"),
            new Action.Assign("mara"),
            new Action.PutOnList("dear orders")),
        rule(
            "abroad",
            "Treatments abroad",
            RuleEvent.RECEIVED,
            new Condition.All(
                List.of(
                    test(Field.CATEGORY, Operator.IS, "treatment"),
                    new Test(Field.COUNTRY, Operator.IS, List.of("NL"), true))),
            new Action.AddNote("Veterinary paper goes into the parcel")),
        rule(
            "refused",
            "Refused by a node",
            RuleEvent.REFUSED,
            ANY_ORDER,
            new Action.AddTag("was refused"),
            new Action.SetPriority(3)),
        new DeskRule(
            "slow",
            "Slow to be picked",
            true,
            RuleEvent.STAYS,
            new DeskRule.Stay(Stage.RELEASED, 30),
            test(Field.CATEGORY, Operator.IS, "clothing"),
            List.of(new Action.AddTag("slow")),
            false));
  }

  private static DeskRule rule(
      String id, String name, RuleEvent event, Condition condition, Action... actions) {
    return new DeskRule(id, name, true, event, null, condition, List.of(actions), false);
  }

  private static Condition test(Field field, Operator operator, String value) {
    return new Test(field, operator, List.of(value), false);
  }
}
