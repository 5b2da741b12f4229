package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.Set;

/** Orders as rules see them, told by what matters in a test. */
record Facts(
    String channel,
    String country,
    String service,
    long value,
    Set<String> categories,
    Set<String> tags) {

  OrderFacts seen() {
    return new OrderFacts(
        channel,
        "",
        PaymentState.PAID,
        "card",
        service,
        country,
        "Berlin",
        "10115",
        "ada@buyer.example",
        "",
        true,
        false,
        DayOfWeek.THURSDAY,
        9,
        null,
        value,
        new GoodsFacts(
            4_200,
            3,
            2,
            Set.of("JAR-500", "SMOKER"),
            Set.of("8712340051209"),
            categories,
            Set.of(),
            Set.of(),
            Set.of(),
            null,
            Set.of()),
        tags);
  }
}
