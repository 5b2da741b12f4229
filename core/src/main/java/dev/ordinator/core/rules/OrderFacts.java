package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.util.Set;

/**
 * What desk rules can see of an order.
 *
 * @param channel the channel's code
 * @param value minor units of the base currency
 * @param weight grams, all open units together
 * @param units open units
 */
public record OrderFacts(
    String channel,
    PaymentState payment,
    String serviceAsked,
    String country,
    String postcode,
    long value,
    long weight,
    long units,
    Set<String> skus,
    Set<String> categories,
    Set<String> tags) {

  public OrderFacts {
    skus = Set.copyOf(skus);
    categories = Set.copyOf(categories);
    tags = Set.copyOf(tags);
  }
}
