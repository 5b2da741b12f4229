package dev.ordinator.bench;

import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.Field;
import dev.ordinator.core.rules.GoodsFacts;
import dev.ordinator.core.rules.Operator;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleGroup;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.core.rules.RuleReview;
import java.time.DayOfWeek;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;

/** 200 rules on 10,000 orders, and what can be said of those rules without an order. */
public final class RuleBench {
  private static final int ORDERS = 10_000;
  private static final String[] COUNTRIES = {"NL", "BE", "DE", "FR", "AT", "CH"};

  private RuleBench() {}

  public static void main(String[] args) {
    List<OrderFacts> orders = orders(new Random(3));
    System.out.println(
        "| rules | 10,000 orders (ms) | ÷ 50 rules | held | review (ms) | findings |");
    System.out.println("| --- | --- | --- | --- | --- | --- |");
    run(rules(50), orders);
    double first = 0;
    for (int count : new int[] {50, 100, 200}) {
      List<RuleGroup> rules = rules(count);
      run(rules, orders);
      long began = System.nanoTime();
      long held = run(rules, orders);
      double millis = (System.nanoTime() - began) / 1e6;
      began = System.nanoTime();
      int findings = RuleReview.of(rules).size();
      double review = (System.nanoTime() - began) / 1e6;
      first = first == 0 ? millis : first;
      System.out.printf(
          "| %d | %.0f | %.1f | %d | %.0f | %d |%n",
          count, millis, millis / first, held, review, findings);
    }
  }

  private static long run(List<RuleGroup> rules, List<OrderFacts> orders) {
    return orders.stream()
        .map(order -> DeskRules.evaluate(rules, RuleEvent.RECEIVED, order))
        .flatMap(outcome -> outcome.trace().stream())
        .filter(RuleOutcome.Tried::held)
        .count();
  }

  private static List<RuleGroup> rules(int count) {
    Random random = new Random(4);
    List<DeskRule> rules = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      Condition condition =
          new Condition.All(
              List.of(
                  test(Field.COUNTRY, Operator.IS, COUNTRIES[random.nextInt(6)], false),
                  new Condition.Any(
                      List.of(
                          test(Field.SKU, Operator.BEGINS_WITH, "SKU" + random.nextInt(90), false),
                          test(
                              Field.VALUE,
                              Operator.OVER,
                              String.valueOf(random.nextInt(50_000)),
                              random.nextBoolean())))));
      rules.add(
          new DeskRule(
              "r" + i,
              "rule " + i,
              true,
              RuleEvent.RECEIVED,
              null,
              condition,
              List.of(new Action.SetPriority(1 + random.nextInt(9)), new Action.AddTag("t" + i)),
              false));
    }
    return List.of(new RuleGroup("bench", rules));
  }

  private static Condition test(Field field, Operator operator, String value, boolean negated) {
    return new Condition.Test(field, operator, List.of(value), negated);
  }

  private static List<OrderFacts> orders(Random random) {
    List<OrderFacts> orders = new ArrayList<>();
    for (int i = 0; i < ORDERS; i++) {
      orders.add(
          new OrderFacts(
              "WEB",
              "",
              PaymentState.PAID,
              "card",
              "Home delivery",
              COUNTRIES[random.nextInt(6)],
              "Town",
              "1012AB",
              "buyer" + i + "@buyer.example",
              "",
              random.nextBoolean(),
              false,
              DayOfWeek.of(1 + random.nextInt(7)),
              random.nextInt(24),
              null,
              random.nextInt(60_000),
              new GoodsFacts(
                  random.nextInt(20_000),
                  1 + random.nextInt(5),
                  1 + random.nextInt(3),
                  Set.of("SKU" + random.nextInt(2_500), "SKU" + (2_500 + random.nextInt(2_500))),
                  Set.of(),
                  Set.of("tools"),
                  Set.of(),
                  Set.of(),
                  Set.of(),
                  null,
                  Set.of()),
              Set.of()));
    }
    return orders;
  }
}
