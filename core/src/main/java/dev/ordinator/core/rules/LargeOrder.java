package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** An order larger than nearly all, by which is tried what an expression costs. */
final class LargeOrder {
  private static final int LINES = 200;

  static final OrderFacts FACTS =
      new OrderFacts(
          "CHANNEL",
          "NL",
          PaymentState.PAID,
          "card",
          "Standard delivery",
          "NL",
          "a town with a long name",
          "1012 AB",
          "somebody@buyer.example",
          "group",
          true,
          true,
          DayOfWeek.MONDAY,
          12,
          3L,
          1_000_000,
          new GoodsFacts(
              1_000_000,
              LINES * 10L,
              LINES,
              many("SKU-OF-AN-ITEM-"),
              many("87123450000"),
              many("category "),
              many("tag "),
              many("NODE"),
              many("SUPPLIER"),
              5L,
              many("NODE")),
          many("tag "));

  private LargeOrder() {}

  private static Set<String> many(String prefix) {
    return IntStream.range(0, LINES).mapToObj(i -> prefix + i).collect(Collectors.toSet());
  }
}
