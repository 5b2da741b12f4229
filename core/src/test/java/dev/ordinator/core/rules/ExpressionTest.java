package dev.ordinator.core.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Conditions in CEL: what they can say, and what they can't do. */
class ExpressionTest {

  @ParameterizedTest
  @ValueSource(
      strings = {
        "true",
        "country == 'NL' && value > 10000",
        "skus.exists(s, s.startsWith('FR-')) && skus.all(s, s.size() < 20)",
        "tags.size() == 0 || 'gift' in tags",
        "daysToArrival != null && daysToArrival < 3",
        "weight / units > 500",
        "buyer.matches('.*@buyer[.]example') && !firstOrder",
        "categories.filter(c, c != 'jars').size() == 1",
        "homeNodes == ['STW']",
        "customerGroup == 'apiaries' && 'fragile' in itemTags",
        "'GLASSWORKS' in suppliers && available < 8 && 'CAN' in stockedAt",
        "weekday in ['SATURDAY', 'MONDAY'] && hour < 12"
      })
  void saysWhatTheBuilderCant(String text) {
    assertThat(Expression.faults(text)).isEmpty();
    assertThat(new Expression(text).holds(order(2L, "FR-1", "JAR-1"))).isTrue();
  }

  @Test
  void whatIsNotThereHoldsNeitherThisWayNorThat() {
    OrderFacts never = order(null, "A");
    assertThat(new Expression("daysToArrival == null").holds(never)).isTrue();
    assertThat(new Expression("daysToArrival < 3").holds(never)).isFalse();
    assertThat(new Expression("daysToArrival >= 3").holds(never)).isFalse();
    assertThat(new Expression("value / (units - units) == 0").holds(never)).isFalse();
    assertThat(new Expression("skus[7] == 'A'").holds(never)).isFalse();
  }

  @Test
  void whatIsWrongIsSaidWithItsPlace() {
    assertThat(Expression.faults("country = 'NL'").getFirst().column()).isEqualTo(9);
    assertThat(Expression.faults("country == 'NL' &&\n  total > 5"))
        .singleElement()
        .satisfies(f -> {
          assertThat(f.line()).isEqualTo(2);
          assertThat(f.column()).isEqualTo(3);
          assertThat(f.what()).contains("total");
        });
    assertThat(Expression.faults("value + 1").getFirst().what()).contains("bool");
    assertThat(Expression.faults("country > 5")).isNotEmpty();
    assertThatThrownBy(() -> new Expression("country ==")).hasMessageContaining("line 1, column");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "java.lang.System.exit(1) == null",
        "country.getClass() == null",
        "now() > timestamp('2020-01-01T00:00:00Z')",
        "env('PATH') == ''",
        "order.id == 1"
      })
  void reachesNothingButItsFacts(String text) {
    assertThat(Expression.faults(text)).isNotEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "skus.all(a, skus.all(b, a != b + b))",
        "skus.map(a, skus.map(b, a + b)).size() > 0",
        "[0,1,2,3,4,5,6,7,8,9].all(a, [0,1,2,3,4,5,6,7,8,9].all(b, [0,1,2,3,4,5,6,7,8,9].all(c,"
            + " [0,1,2,3,4,5,6,7,8,9].all(d, a + b + c + d >= 0))))",
        "[city].map(a, a + a).map(a, a + a).map(a, a + a).map(a, a + a).map(a, a + a)"
            + ".map(a, a + a).map(a, a + a).map(a, a + a).exists(a, a == '')",
        "[skus].map(a, a + a).map(a, a + a).map(a, a + a).map(a, a + a).exists(a, a.size() == 0)",
        "skus.exists(s, skus.exists(t, t.matches('x*y') || s == ''))",
        "buyer.matches('(((a{1,30}){1,30}){1,30}){1,30}')",
        "buyer.matches('a{100000000000000000000}')",
        "buyer.matches(city + '.*')",
      })
  void whatWouldCostMoreThanAnOrderMayIsRefusedWhenItIsWritten(String text) {
    assertThat(Expression.faults(text)).isNotEmpty();
    Expression kept = new Expression(text);
    assertThatThrownBy(() -> kept.holds(LargeOrder.FACTS))
        .as("what was kept before is read, and doesn’t hold")
        .isInstanceOf(Expression.TooCostly.class);
  }

  @Test
  void whatCostsTooMuchForOneOrderEndsAndIsSaid() {
    Expression dear =
        new Expression("units < 50 && skus.all(a, skus.all(b, skus.all(c, a != b + c)))");
    String all = IntStream.range(0, 60).mapToObj(i -> "S" + i).collect(Collectors.joining(","));
    OrderFacts many = order(null, all.split(","));
    assertThatThrownBy(() -> dear.holds(many)).isInstanceOf(Expression.TooCostly.class);
    DeskRule rule =
        new DeskRule(
            "dear",
            "dear",
            true,
            RuleEvent.RECEIVED,
            null,
            new Condition.None(List.of(dear)),
            List.of(new Action.AddTag("t")),
            false);
    RuleOutcome outcome = DeskRules.evaluate(rule, many);
    assertThat(outcome.tooCostly()).containsExactly(rule);
    assertThat(outcome.anyHeld()).as("nor does its negation hold").isFalse();
  }

  @Test
  void patternsAreMatchedInLinearTime() {
    String slow = "buyer.matches('(a*)*(a*)*(a*)*(a*)*b')";
    assertThat(new Expression(slow).holds(buyer("a".repeat(150)))).isFalse();
  }

  @Test
  void neitherLongNorDeepTextsAreRead() {
    assertThat(Expression.faults("true" + " && true".repeat(200))).as("too long").isNotEmpty();
    assertThat(Expression.faults("(".repeat(200) + "true" + ")".repeat(200)))
        .as("too deep")
        .isNotEmpty();
  }

  @Test
  void twoOfTheSameTextAreTheSameAndAReviewSaysNothingOfThem() {
    assertThat(new Expression("value > 5")).isEqualTo(new Expression("value > 5"));
    Condition never = new Condition.All(List.of(new Expression("value > 5 && value < 3")));
    DeskRule rule =
        new DeskRule(
            "r",
            "r",
            true,
            RuleEvent.RECEIVED,
            null,
            never,
            List.of(new Action.AddTag("t")),
            false);
    assertThat(RuleReview.of(List.of(new RuleGroup("g", List.of(rule))))).isEmpty();
  }

  private static OrderFacts order(@Nullable Long daysToArrival, String... skus) {
    return facts("ilse@buyer.example", daysToArrival, skus);
  }

  private static OrderFacts buyer(String mail) {
    return facts(mail, null, "A");
  }

  private static OrderFacts facts(String mail, @Nullable Long daysToArrival, String... skus) {
    return new OrderFacts(
        "WEB",
        "",
        PaymentState.PAID,
        "card",
        "Home delivery",
        "NL",
        "Amsterdam",
        "1012 AB",
        mail,
        "apiaries",
        false,
        false,
        DayOfWeek.MONDAY,
        9,
        daysToArrival,
        25_000,
        new GoodsFacts(
            4_000,
            3,
            2,
            Set.of(skus),
            Set.of(),
            Set.of("jars", "frames"),
            Set.of("fragile"),
            Set.of("STW"),
            Set.of("GLASSWORKS"),
            7L,
            Set.of("STW", "CAN")),
        Set.of());
  }
}
