package dev.ordinator.core.returns;

import java.util.Map;

/** How many of what was ordered came back whole. */
public final class Whole {
  private Whole() {}

  /**
   * ⌊came ÷ one⌋ of the item of which least came: a case of twelve of which eleven came is none,
   * and so is a kit that lacks a component.
   *
   * @param came units by item
   * @param one units of each item in one of what was ordered; at least one item
   */
  public static long units(Map<Long, Long> came, Map<Long, Long> one) {
    return one.entrySet().stream()
        .mapToLong(each -> came.getOrDefault(each.getKey(), 0L) / each.getValue())
        .min()
        .orElseThrow(() -> new IllegalArgumentException("what was ordered has no items"));
  }
}
