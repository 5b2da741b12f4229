package dev.ordinator.core.network;

import java.util.List;

/**
 * A lane's carriage by billable weight.
 *
 * @param steps at least one, {@code upTo} strictly ascending
 */
public record RateTable(List<Step> steps) {

  /**
   * @param upTo grams, inclusive
   * @param price minor units of the base currency
   */
  public record Step(long upTo, long price) {
    public Step {
      if (upTo <= 0 || price < 0) {
        throw new IllegalArgumentException("a rate step needs upTo > 0 and price ≥ 0");
      }
    }
  }

  public RateTable {
    steps = List.copyOf(steps);
    if (steps.isEmpty()) {
      throw new IllegalArgumentException("a rate table needs at least one step");
    }
    for (int i = 1; i < steps.size(); i++) {
      if (steps.get(i).upTo() <= steps.get(i - 1).upTo()) {
        throw new IllegalArgumentException("rate steps must ascend: " + steps);
      }
    }
  }

  /**
   * The price of the first step with {@code upTo} ≥ billable. Above the top step: ⌊billable ÷ top⌋
   * parcels at the top price, and the remainder by the table (remainder 0: nothing).
   *
   * @param billable grams
   * @return minor units of the base currency
   */
  public long carriage(long billable) {
    Step top = steps.getLast();
    if (billable > top.upTo()) {
      long full = billable / top.upTo();
      long rest = billable % top.upTo();
      return Math.multiplyExact(full, top.price()) + (rest == 0 ? 0 : carriage(rest));
    }
    for (Step step : steps) {
      if (billable <= step.upTo()) {
        return step.price();
      }
    }
    throw new AssertionError("the top step covers what is not above it");
  }
}
