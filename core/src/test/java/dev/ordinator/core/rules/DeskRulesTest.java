package dev.ordinator.core.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.rules.Condition.Test;
import java.util.List;
import java.util.Set;

class DeskRulesTest {
  private static final OrderFacts ORDER =
      new Facts(
              "WEB",
              "DE",
              "Express by noon",
              18_000,
              Set.of("jars", "tools"),
              Set.of("first-order"))
          .seen();

  private static Condition is(Field field, String... values) {
    return new Test(field, Operator.IS, List.of(values), false);
  }

  private static DeskRule rule(String id, Condition condition, boolean ends, Action... actions) {
    return new DeskRule(id, id, true, RuleEvent.RECEIVED, null, condition, List.of(actions), ends);
  }

  private static RuleOutcome evaluate(DeskRule... rules) {
    return DeskRules.evaluate(
        List.of(new RuleGroup("all", List.of(rules))), RuleEvent.RECEIVED, ORDER);
  }

  @org.junit.jupiter.api.Test
  void aLaterRuleOverrulesAnEarlierOne() {
    RuleOutcome outcome =
        evaluate(
            rule("a", is(Field.CHANNEL, "web"), false, new Action.SetPriority(2)),
            rule("b", is(Field.COUNTRY, "FR", "DE"), false, new Action.SetPriority(1)));
    assertThat(outcome.priority()).contains(1);
    assertThat(outcome.trace()).extracting(RuleOutcome.Tried::held).containsExactly(true, true);
  }

  @org.junit.jupiter.api.Test
  void aRuleThatEndsItsGroupSparesThoseAfterItButNotTheNextGroup() {
    Condition always = new Condition.All(List.of());
    RuleOutcome outcome =
        DeskRules.evaluate(
            List.of(
                new RuleGroup(
                    "one",
                    List.of(
                        rule("a", always, true, new Action.AddTag("x")),
                        rule("b", always, false, new Action.Hold("never")))),
                new RuleGroup("two", List.of(rule("c", always, false, new Action.RemoveTag("x"))))),
            RuleEvent.RECEIVED,
            ORDER);
    assertThat(outcome.holds()).isEmpty();
    assertThat(outcome.tags()).containsExactly("first-order");
    assertThat(outcome.trace()).extracting(RuleOutcome.Tried::rule).containsExactly("a", "c");
  }

  @org.junit.jupiter.api.Test
  void treesTextsNumbersAndNegationsHoldAsTheyRead() {
    Condition express =
        new Test(Field.SERVICE_ASKED, Operator.BEGINS_WITH, List.of("express"), false);
    Condition dear = new Test(Field.VALUE, Operator.OVER, List.of("15000"), false);
    Condition notGlass = new Test(Field.CATEGORY, Operator.IS, List.of("jars"), true);
    assertThat(new Condition.All(List.of(express, dear)).holds(ORDER)).isTrue();
    assertThat(notGlass.holds(ORDER)).isFalse();
    assertThat(new Condition.Any(List.of(notGlass, dear)).holds(ORDER)).isTrue();
    assertThat(new Condition.None(List.of(notGlass)).holds(ORDER)).isTrue();
    assertThat(new Condition.Any(List.of()).holds(ORDER)).isFalse();
    assertThat(new Test(Field.VALUE, Operator.OVER, List.of("18000"), false).holds(ORDER))
        .isFalse();
  }

  @org.junit.jupiter.api.Test
  void everyActionLeavesItsMarkAndRulesThatAreOffNone() {
    Condition always = new Condition.All(List.of());
    DeskRule off =
        new DeskRule(
            "off",
            "off",
            false,
            RuleEvent.RECEIVED,
            null,
            always,
            List.of(new Action.Hold("no")),
            false);
    RuleOutcome outcome =
        evaluate(
            off,
            rule(
                "all",
                always,
                false,
                new Action.SetLevel(ServiceLevel.EXPRESS),
                new Action.ExcludeNode("FER"),
                new Action.PreferNode("CAN"),
                new Action.UseLadder("Live goods"),
                new Action.Split(false),
                new Action.Notify("desk@brackenholt.example"),
                new Action.AddNote("look twice"),
                new Action.Hold("check papers")));
    assertThat(outcome.level()).contains(ServiceLevel.EXPRESS);
    assertThat(outcome.excludedNodes()).containsExactly("FER");
    assertThat(outcome.preferredNodes()).containsExactly("CAN");
    assertThat(outcome.ladder()).contains("Live goods");
    assertThat(outcome.maySplit()).contains(false);
    assertThat(outcome.notices()).containsExactly("desk@brackenholt.example");
    assertThat(outcome.notes()).containsExactly("look twice");
    assertThat(outcome.holds()).containsExactly("check papers");
    assertThat(outcome.trace()).hasSize(1);
  }

  @org.junit.jupiter.api.Test
  void aNumberThatIsNotThereMeetsNoTestAndEveryNegatedOne() {
    Test soon = new Test(Field.DAYS_TO_ARRIVAL, Operator.UNDER, List.of("3"), false);
    assertThat(soon.holds(ORDER)).isFalse();
    assertThat(soon.negation().holds(ORDER)).isTrue();
  }

  @org.junit.jupiter.api.Test
  void aReleaseEndsTheHoldsBeforeItAndNotThoseAfterIt() {
    Condition always = new Condition.All(List.of());
    RuleOutcome outcome =
        evaluate(
            rule("a", always, false, new Action.Hold("papers")),
            rule("b", always, false, new Action.ReleaseHold()),
            rule("c", always, false, new Action.Hold("weight")));
    assertThat(outcome.holds()).containsExactly("weight");
    assertThat(outcome.releasesHold()).isTrue();
  }

  @org.junit.jupiter.api.Test
  void aStayBelongsToRulesForOrdersThatStayAndToNoOthers() {
    Condition always = new Condition.All(List.of());
    List<Action> note = List.of(new Action.AddNote("still there"));
    DeskRule.Stay stay = new DeskRule.Stay(Stage.RELEASED, 2);
    assertThatIllegalArgumentException()
        .isThrownBy(
            () -> new DeskRule("a", "a", true, RuleEvent.PACKED, stay, always, note, false));
    assertThatIllegalArgumentException()
        .isThrownBy(() -> new DeskRule("a", "a", true, RuleEvent.STAYS, null, always, note, false));
    assertThat(
            DeskRules.evaluate(
                    new DeskRule("a", "a", true, RuleEvent.STAYS, stay, always, note, false), ORDER)
                .notes())
        .containsExactly("still there");
  }

  @org.junit.jupiter.api.Test
  void anOperatorMustFitItsField() {
    assertThatIllegalArgumentException()
        .isThrownBy(() -> new Test(Field.COUNTRY, Operator.OVER, List.of("5"), false));
    assertThatIllegalArgumentException()
        .isThrownBy(() -> new Test(Field.VALUE, Operator.IS, List.of("5"), false));
    assertThatIllegalArgumentException()
        .isThrownBy(() -> new Test(Field.VALUE, Operator.OVER, List.of("dear"), false));
    assertThatIllegalArgumentException()
        .isThrownBy(() -> new Test(Field.WEEKDAY, Operator.IS, List.of("SOMEDAY"), false));
  }
}
