package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.List;

/** One option for each order, together no more than there is. */
final class Picks {
  private final List<OrderOptions> orders;
  private final Shelves shelves;
  private final List<Option> picked = new ArrayList<>();
  private final long[] taken;
  private long total;

  /** Nothing of any order is filled. */
  Picks(List<OrderOptions> orders, Shelves shelves) {
    this.orders = orders;
    this.shelves = shelves;
    this.taken = new long[shelves.size()];
    for (OrderOptions order : orders) {
      picked.add(order.unfilled());
      total += order.unfilled().value();
    }
  }

  long total() {
    return total;
  }

  Option of(int order) {
    return picked.get(order);
  }

  List<Option> all() {
    return List.copyOf(picked);
  }

  /** What is left of what has a number. */
  private long left(int number) {
    return shelves.have(number) - taken[number];
  }

  /** What others leave for an order; what it has itself counts as taken. */
  private Situation left(OrderDemand demand) {
    return shelves.left(demand, number -> taken[number]);
  }

  /**
   * The best for an order of what others left it.
   *
   * @param had if nothing comes to less
   */
  Option onWhatIsLeft(int o, Option had) {
    OrderOptions order = orders.get(o);
    return order.isListed() ? order.cheapest(this::left, had) : searched(order, had);
  }

  private Option searched(OrderOptions order, Option had) {
    return order
        .router()
        .on(left(order.demand()))
        .cheapest(order.rungs(), Worth.NOTHING, had.value())
        .map(found -> order.all().get(order.add(found.choice())))
        .orElse(had);
  }

  /** Whether an order could have an option instead of what it has. */
  boolean fits(int order, Option option) {
    Takes own = picked.get(order).takes();
    for (long take : option.takes().each()) {
      int number = Takes.what(take);
      long left = left(number);
      if (Takes.units(take) > left && Takes.units(take) > left + own.of(number)) {
        return false;
      }
    }
    return true;
  }

  void set(int order, Option option) {
    change(picked.get(order), -1);
    total += option.value() - picked.get(order).value();
    picked.set(order, option);
    change(option, 1);
  }

  void clear(int order) {
    set(order, orders.get(order).unfilled());
  }

  private void change(Option option, int sign) {
    for (long take : option.takes().each()) {
      taken[Takes.what(take)] += sign * Takes.units(take);
    }
  }
}
