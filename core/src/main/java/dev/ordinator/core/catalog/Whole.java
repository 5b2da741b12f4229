package dev.ordinator.core.catalog;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** How many of what was ordered units of its items make: none of a kit that lacks a component. */
public final class Whole {
  private Whole() {}

  /** Units of an item that go, or come, together. */
  public record Piece(long item, long units) {}

  /**
   * ⌊there ÷ one⌋ of the item of which least is there: of a case of twelve eleven make none.
   *
   * @param there units by item
   * @param one units of each item in one of what was ordered; at least one item
   */
  public static long units(Map<Long, Long> there, Map<Long, Long> one) {
    return one.entrySet().stream()
        .mapToLong(each -> there.getOrDefault(each.getKey(), 0L) / each.getValue())
        .min()
        .orElseThrow(() -> new IllegalArgumentException("what was ordered has no items"));
  }

  /**
   * How many each piece makes whole, with all that came before it: so they add up, at any piece, to
   * what those up to it make.
   *
   * @param pieces in the order in which they came
   */
  public static List<Long> completedBy(List<Piece> pieces, Map<Long, Long> one) {
    Map<Long, Long> there = new HashMap<>();
    List<Long> completed = new ArrayList<>();
    long before = 0;
    for (Piece piece : pieces) {
      there.merge(piece.item(), piece.units(), Long::sum);
      long now = units(there, one);
      completed.add(now - before);
      before = now;
    }
    return completed;
  }
}
