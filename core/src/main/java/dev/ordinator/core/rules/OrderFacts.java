package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What desk rules can see of an order. Units that were cancelled are not in it; kits that are apart
 * are seen as their components.
 *
 * @param channel the channel's code
 * @param site the channel's country site, in its own words; empty: it has none
 * @param buyer mail address
 * @param firstOrder the buyer never ordered before
 * @param weekday of the look, in the merchant's time zone, as is {@code hour}
 * @param value minor units of the base currency
 * @param weight grams, all units together
 * @param homes codes of the nodes at which its items are at home
 * @param daysToArrival from the day of the look to the arrival asked for; null: none was
 */
public record OrderFacts(
    String channel,
    String site,
    PaymentState payment,
    String paymentMethod,
    String serviceAsked,
    String country,
    String city,
    String postcode,
    String buyer,
    boolean firstOrder,
    DayOfWeek weekday,
    int hour,
    @Nullable Long daysToArrival,
    long value,
    long weight,
    long units,
    long lines,
    Set<String> skus,
    Set<String> gtins,
    Set<String> categories,
    Set<String> homes,
    Set<String> tags) {

  public OrderFacts {
    skus = Set.copyOf(skus);
    gtins = Set.copyOf(gtins);
    categories = Set.copyOf(categories);
    homes = Set.copyOf(homes);
    tags = Set.copyOf(tags);
  }

  /** The same with other tags. */
  public OrderFacts withTags(Set<String> others) {
    return new OrderFacts(
        channel,
        site,
        payment,
        paymentMethod,
        serviceAsked,
        country,
        city,
        postcode,
        buyer,
        firstOrder,
        weekday,
        hour,
        daysToArrival,
        value,
        weight,
        units,
        lines,
        skus,
        gtins,
        categories,
        homes,
        others);
  }
}
