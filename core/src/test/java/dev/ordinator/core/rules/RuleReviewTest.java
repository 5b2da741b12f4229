package dev.ordinator.core.rules;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.rules.Condition.All;
import dev.ordinator.core.rules.Condition.Any;
import dev.ordinator.core.rules.Condition.None;
import dev.ordinator.core.rules.RuleReview.Fault;
import dev.ordinator.core.rules.RuleReview.Finding;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class RuleReviewTest {
  private static final List<String> CHANNELS = List.of("web", "web-de", "guild");
  private static final List<String> COUNTRIES = List.of("NL", "DE");
  private static final List<Set<String>> TAGS =
      List.of(Set.of(), Set.of("vip"), Set.of("club"), Set.of("vip", "club"));
  private static final List<OrderFacts> ALL_ORDERS = allOrders();

  private final Random random = new Random(5);

  @Test
  void aConditionThatCantHoldIsPointedOut() {
    DeskRule never =
        rule(
            "never",
            false,
            new All(List.of(number(Operator.OVER, 500), number(Operator.UNDER, 501))),
            new Action.AddTag("x"));
    assertThat(RuleReview.of(List.of(group(never))))
        .containsExactly(new Finding("never", Fault.NEVER_HOLDS, List.of()));
  }

  @Test
  void whatARuleBeforeItAlwaysEndsIsNeverReached() {
    DeskRule germans = rule("germans", true, text(Field.COUNTRY, "DE"), new Action.SetPriority(2));
    DeskRule others = rule("others", true, not(Field.COUNTRY, "DE"), new Action.SetPriority(3));
    DeskRule late = rule("late", false, text(Field.CHANNEL, "web"), new Action.AddTag("x"));
    assertThat(RuleReview.of(List.of(group(germans, late)))).isEmpty();
    assertThat(RuleReview.of(List.of(group(germans, others, late))))
        .containsExactly(new Finding("late", Fault.NEVER_REACHED, List.of("germans", "others")));
    assertThat(RuleReview.of(List.of(group(germans, others), group(late))))
        .as("another group is not ended")
        .isEmpty();
  }

  @Test
  void aRuleThatLosesToALaterOneIsPointedOutAndAContradictionToo() {
    DeskRule narrow =
        rule(
            "narrow",
            false,
            new All(List.of(text(Field.CHANNEL, "web"), text(Field.COUNTRY, "DE"))),
            new Action.SetPriority(2));
    DeskRule both =
        rule(
            "both",
            false,
            text(Field.COUNTRY, "DE"),
            new Action.SetPriority(3),
            new Action.AddNote("look"));
    DeskRule wide = rule("wide", false, new All(List.of()), new Action.SetPriority(5));
    assertThat(RuleReview.of(List.of(group(narrow, both, wide))))
        .containsExactly(
            new Finding("narrow", Fault.ALWAYS_OVERRULED, List.of("both", "wide")),
            new Finding("both", Fault.CONTRADICTED, List.of("wide")));
    assertThat(RuleReview.of(List.of(group(wide, narrow))))
        .as("the exception comes later")
        .isEmpty();
  }

  @Test
  void aHoldIsUndoneByAReleaseAndNotByAnotherHold() {
    DeskRule hold = rule("hold", false, new All(List.of()), new Action.Hold("papers"));
    DeskRule more = rule("more", false, new All(List.of()), new Action.Hold("weight"));
    DeskRule release = rule("release", false, new All(List.of()), new Action.ReleaseHold());
    assertThat(RuleReview.of(List.of(group(hold, more)))).isEmpty();
    assertThat(RuleReview.of(List.of(group(hold, release))))
        .containsExactly(new Finding("hold", Fault.ALWAYS_OVERRULED, List.of("release")));
  }

  /** Each finding of thousands of random rulebooks is true of every order there can be. */
  @Test
  void whatIsReportedIsCertain() {
    Map<Fault, Integer> seen = new EnumMap<>(Fault.class);
    for (int round = 0; round < 6_000; round++) {
      List<RuleGroup> groups = randomGroups();
      for (Finding finding : RuleReview.of(groups)) {
        seen.merge(finding.fault(), 1, Integer::sum);
        for (OrderFacts order : ALL_ORDERS) {
          assertThat(isTrueOf(finding, groups, order)).as("%s of %s", finding, groups).isTrue();
        }
      }
    }
    assertThat(seen.values()).as("each kind was put to the test").hasSize(4).allMatch(n -> n > 50);
  }

  /** A condition that no order meets is found out, if its tests are of one kind of text each. */
  @Test
  void whatCanNeverHoldIsFound() {
    int impossible = 0;
    for (int round = 0; round < 5_000; round++) {
      Condition condition = randomCondition(3);
      boolean ever = ALL_ORDERS.stream().anyMatch(condition::holds);
      boolean said = Cases.areImpossible(List.of(condition));
      assertThat(said && ever).as("%s", condition).isFalse();
      impossible += said ? 1 : 0;
    }
    assertThat(impossible).isGreaterThan(300);
  }

  private static boolean isTrueOf(Finding finding, List<RuleGroup> groups, OrderFacts order) {
    RuleOutcome outcome = DeskRules.evaluate(groups, RuleEvent.RECEIVED, order);
    boolean held =
        outcome.trace().stream().anyMatch(t -> t.held() && t.rule().equals(finding.rule()));
    return switch (finding.fault()) {
      case NEVER_HOLDS -> !rule(groups, finding.rule()).condition().holds(order);
      case NEVER_REACHED -> !held;
      case ALWAYS_OVERRULED -> !held || sameWithout(finding.rule(), groups, order, outcome);
      case CONTRADICTED ->
          !held
              || finding.by().stream()
                  .allMatch(by ->
                      outcome.trace().stream().anyMatch(t -> t.held() && t.rule().equals(by)));
    };
  }

  private static boolean sameWithout(
      String rule, List<RuleGroup> groups, OrderFacts order, RuleOutcome outcome) {
    // it may still end its group: what it does is made harmless, not the rule taken away
    List<RuleGroup> without =
        groups.stream()
            .map(g ->
                new RuleGroup(
                    g.name(),
                    g.rules().stream().map(r -> r.id().equals(rule) ? harmless(r) : r).toList()))
            .toList();
    RuleOutcome other = DeskRules.evaluate(without, RuleEvent.RECEIVED, order);
    return other.tags().equals(outcome.tags())
        && other.priority().equals(outcome.priority())
        && other.holds().equals(outcome.holds())
        && other.maySplit().equals(outcome.maySplit())
        && other.mayWait().equals(outcome.mayWait());
  }

  private static DeskRule harmless(DeskRule r) {
    return rule(r.id(), r.endsGroup(), r.condition(), new Action.AddNote("nothing"));
  }

  private static DeskRule rule(List<RuleGroup> groups, String id) {
    return groups.stream()
        .flatMap(g -> g.rules().stream())
        .filter(r -> r.id().equals(id))
        .findFirst()
        .orElseThrow();
  }

  private List<RuleGroup> randomGroups() {
    List<RuleGroup> groups = new ArrayList<>();
    for (int g = 0; g < 2; g++) {
      int group = g;
      groups.add(
          group(
              IntStream.range(0, 3)
                  .mapToObj(i ->
                      rule(
                          "r" + group + i,
                          random.nextInt(3) == 0,
                          randomCondition(2),
                          IntStream.rangeClosed(0, random.nextInt(2))
                              .mapToObj(a -> randomAction())
                              .toArray(Action[]::new)))
                  .toArray(DeskRule[]::new)));
    }
    return groups;
  }

  private Action randomAction() {
    return switch (random.nextInt(6)) {
      case 0 -> new Action.SetPriority(1 + random.nextInt(2));
      case 1 -> new Action.AddTag(random.nextBoolean() ? "vip" : "new");
      case 2 -> new Action.RemoveTag(random.nextBoolean() ? "vip" : "new");
      case 3 ->
          random.nextBoolean()
              ? new Action.Split(random.nextBoolean())
              : new Action.Waiting(random.nextBoolean());
      case 4 -> new Action.ReleaseHold();
      default -> new Action.Hold("why");
    };
  }

  private Condition randomCondition(int depth) {
    if (depth == 0 || random.nextInt(3) == 0) {
      return randomTest();
    }
    List<Condition> parts =
        IntStream.range(0, random.nextInt(4)).mapToObj(i -> randomCondition(depth - 1)).toList();
    return switch (random.nextInt(3)) {
      case 0 -> new All(parts);
      case 1 -> new Any(parts);
      default -> new None(parts);
    };
  }

  private Condition randomTest() {
    boolean negated = random.nextInt(3) == 0;
    return switch (random.nextInt(4)) {
      case 0 -> new Condition.Test(Field.COUNTRY, Operator.IS, List.of(pick(COUNTRIES)), negated);
      case 1 ->
          new Condition.Test(
              Field.CHANNEL,
              pick(List.of(Operator.IS, Operator.BEGINS_WITH, Operator.CONTAINS)),
              List.of(pick(List.of("web", "WEB-", "guild", "i"))),
              negated);
      case 2 ->
          new Condition.Test(
              Field.TAG,
              pick(List.of(Operator.IS, Operator.BEGINS_WITH)),
              List.of(pick(List.of("vip", "club", "v"))),
              negated);
      default ->
          new Condition.Test(
              Field.VALUE,
              pick(List.of(Operator.EXACTLY, Operator.OVER, Operator.UNDER)),
              List.of(String.valueOf(random.nextInt(4))),
              negated);
    };
  }

  private <T> T pick(List<T> from) {
    return from.get(random.nextInt(from.size()));
  }

  private static List<OrderFacts> allOrders() {
    List<OrderFacts> all = new ArrayList<>();
    for (String channel : CHANNELS) {
      for (String country : COUNTRIES) {
        for (Set<String> tags : TAGS) {
          for (long value = 0; value < 6; value++) {
            all.add(new Facts(channel, country, "", value, Set.of(), tags).seen());
          }
        }
      }
    }
    return all;
  }

  private static RuleGroup group(DeskRule... rules) {
    return new RuleGroup("all", List.of(rules));
  }

  private static DeskRule rule(String id, boolean ends, Condition condition, Action... actions) {
    return new DeskRule(id, id, true, RuleEvent.RECEIVED, null, condition, List.of(actions), ends);
  }

  private static Condition text(Field field, String value) {
    return new Condition.Test(field, Operator.IS, List.of(value), false);
  }

  private static Condition not(Field field, String value) {
    return new Condition.Test(field, Operator.IS, List.of(value), true);
  }

  private static Condition number(Operator operator, long value) {
    return new Condition.Test(Field.VALUE, operator, List.of(String.valueOf(value)), false);
  }
}
