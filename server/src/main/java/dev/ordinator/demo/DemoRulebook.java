package dev.ordinator.demo;

import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
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
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The first edition. */
@Component
class DemoRulebook {
  private final Editions editions;

  DemoRulebook(Editions editions) {
    this.editions = editions;
  }

  void install() {
    editions.publish(
        new Rulebook(
            new Policy(300, 250, 5_000, 2_000, 5_000),
            List.of(
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
                            "Up to three nodes, even late",
                            NodeFilter.ALL,
                            3,
                            Cover.WHOLE,
                            Late.ALLOW)))),
            List.of(new RuleGroup("Every order", rules()))),
        "the first edition",
        "Mara");
  }

  private static List<DeskRule> rules() {
    return List.of(
        rule(
            "express",
            "Express goes first",
            test(Field.SERVICE_ASKED, Operator.BEGINS_WITH, "express"),
            new Action.SetPriority(2),
            new Action.SetLevel(ServiceLevel.EXPRESS)),
        rule(
            "glass",
            "Glass from the warehouse only",
            test(Field.CATEGORY, Operator.IS, "jars"),
            new Action.AddTag("fragile"),
            new Action.ExcludeNode("CAN"),
            new Action.ExcludeNode("FER")),
        rule(
            "dear",
            "Look at dear orders",
            test(Field.VALUE, Operator.OVER, "250000"),
            new Action.Hold("over 2,500 EUR: check the buyer")),
        rule(
            "abroad",
            "Treatments abroad",
            new Condition.All(
                List.of(
                    test(Field.CATEGORY, Operator.IS, "treatment"),
                    new Test(Field.COUNTRY, Operator.IS, List.of("NL"), true))),
            new Action.AddNote("Veterinary paper goes into the parcel")));
  }

  private static DeskRule rule(String id, String name, Condition condition, Action... actions) {
    return new DeskRule(
        id, name, true, RuleEvent.RECEIVED, null, condition, List.of(actions), false);
  }

  private static Condition test(Field field, Operator operator, String value) {
    return new Test(field, operator, List.of(value), false);
  }
}
