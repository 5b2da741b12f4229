package dev.ordinator.core.feed;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Holds a push that looks like a mistake: one that would empty a shop harms more than one that
 * comes late.
 *
 * @param zeroedPercent most live listings that one push may bring to zero
 * @param dropPercent most by which the sum of all quantities may fall in one push
 */
public record FeedGuard(int zeroedPercent, int dropPercent) {

  /**
   * A listing's quantity as the channel has it and as it would be told.
   *
   * @param before null: never told
   */
  public record Line(String listing, @Nullable Long before, long after) {
    boolean isLive() {
      return before != null && before > 0;
    }
  }

  /**
   * Why a push is held; none if it may go.
   *
   * @param all every listing of the channel that is fed, changed or not
   */
  public List<String> reasonsToHold(List<Line> all) {
    List<String> reasons = new ArrayList<>();
    if (all.stream().noneMatch(l -> l.before() != null)) {
      if (!all.isEmpty()) {
        reasons.add("it is the first push to this channel");
      }
      return reasons;
    }
    long live = all.stream().filter(Line::isLive).count();
    long zeroed = all.stream().filter(l -> l.isLive() && l.after() == 0).count();
    if (zeroed * 100 > live * zeroedPercent) {
      reasons.add(
          "it would bring %d of %d live listings to zero; at most %d %% may be"
              .formatted(zeroed, live, zeroedPercent));
    }
    long before = all.stream().filter(l -> l.before() != null).mapToLong(l -> l.before()).sum();
    long after = all.stream().filter(l -> l.before() != null).mapToLong(Line::after).sum();
    if ((before - after) * 100 > before * dropPercent) {
      reasons.add(
          "the sum of all quantities would fall from %d to %d; at most %d %% may be lost"
              .formatted(before, after, dropPercent));
    }
    return reasons;
  }
}
