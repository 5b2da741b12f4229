package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What desk rules can see of an order.
 *
 * @param channel the channel's code
 * @param site the channel's country site, in its own words; empty: it has none
 * @param buyer mail address
 * @param customerGroup in which the buyer is; empty: in none
 * @param firstOrder the buyer never ordered before
 * @param orderedTwice the same buyer ordered the same goods some hours before
 * @param weekday of the look, in the merchant's time zone, as is {@code hour}
 * @param daysToArrival from the day of the look to the arrival asked for; null: none was
 * @param value minor units of the base currency
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
    String customerGroup,
    boolean firstOrder,
    boolean orderedTwice,
    DayOfWeek weekday,
    int hour,
    @Nullable Long daysToArrival,
    long value,
    GoodsFacts goods,
    Set<String> tags) {

  public OrderFacts {
    tags = Set.copyOf(tags);
  }

  /** The same with other tags. */
  public OrderFacts withTags(Set<String> others) {
    return with(goods, others);
  }

  /** The same with what there is of its goods. */
  public OrderFacts stocked(GoodsFacts.Stock stock) {
    return with(goods.stocked(stock), tags);
  }

  private OrderFacts with(GoodsFacts its, Set<String> others) {
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
        customerGroup,
        firstOrder,
        orderedTwice,
        weekday,
        hour,
        daysToArrival,
        value,
        its,
        others);
  }
}
