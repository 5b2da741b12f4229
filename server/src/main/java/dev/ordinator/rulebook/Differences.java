package dev.ordinator.rulebook;

import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.rules.DeskRule;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** In what one rulebook differs from another, rule by rule and ladder by ladder. */
final class Differences {
  private Differences() {}

  enum How {
    ADDED,
    REMOVED,
    CHANGED,
    /** It says the same, but is tried at another place. */
    MOVED
  }

  /**
   * @param before null if it was added; {@code after}: if it was removed
   */
  record RuleDifference(How how, @Nullable DeskRule before, @Nullable DeskRule after) {}

  /** Likewise. */
  record LadderDifference(How how, @Nullable Ladder before, @Nullable Ladder after) {}

  /**
   * @param policyBefore null if the prices are the same, as is {@code policyAfter}
   */
  record Found(
      List<RuleDifference> rules,
      List<LadderDifference> ladders,
      @Nullable Policy policyBefore,
      @Nullable Policy policyAfter) {}

  static Found between(Rulebook before, Rulebook after) {
    boolean priced = !before.policy().equals(after.policy());
    return new Found(
        rules(before, after),
        ladders(before, after),
        priced ? before.policy() : null,
        priced ? after.policy() : null);
  }

  private static List<RuleDifference> rules(Rulebook before, Rulebook after) {
    Map<String, DeskRule> old = new LinkedHashMap<>();
    before.rules().forEach(r -> old.put(r.id(), r));
    List<RuleDifference> found = new ArrayList<>();
    List<String> staying = new ArrayList<>();
    after
        .rules()
        .forEach(rule -> {
          DeskRule was = old.get(rule.id());
          if (was == null) {
            found.add(new RuleDifference(How.ADDED, null, rule));
          } else if (was.equals(rule)) {
            staying.add(rule.id());
          } else {
            found.add(new RuleDifference(How.CHANGED, was, rule));
          }
        });
    List<String> inOrder = before.rules().map(DeskRule::id).filter(staying::contains).toList();
    List<String> unmoved = longestCommon(inOrder, staying);
    staying.stream()
        .filter(id -> !unmoved.contains(id))
        .forEach(id -> found.add(new RuleDifference(How.MOVED, old.get(id), old.get(id))));
    List<String> left = after.rules().map(DeskRule::id).toList();
    old.values().stream()
        .filter(r -> !left.contains(r.id()))
        .forEach(r -> found.add(new RuleDifference(How.REMOVED, r, null)));
    return found;
  }

  /** A longest sequence that both contain in order: what is not in it was moved. */
  private static List<String> longestCommon(List<String> one, List<String> other) {
    int[][] length = new int[one.size() + 1][other.size() + 1];
    for (int i = one.size() - 1; i >= 0; i--) {
      for (int j = other.size() - 1; j >= 0; j--) {
        length[i][j] =
            one.get(i).equals(other.get(j))
                ? length[i + 1][j + 1] + 1
                : Math.max(length[i + 1][j], length[i][j + 1]);
      }
    }
    List<String> common = new ArrayList<>();
    int i = 0;
    int j = 0;
    while (i < one.size() && j < other.size()) {
      if (one.get(i).equals(other.get(j))) {
        common.add(one.get(i));
        i++;
        j++;
      } else if (length[i + 1][j] >= length[i][j + 1]) {
        i++;
      } else {
        j++;
      }
    }
    return common;
  }

  private static List<LadderDifference> ladders(Rulebook before, Rulebook after) {
    Map<String, Ladder> old = new LinkedHashMap<>();
    before.ladders().forEach(l -> old.put(l.name(), l));
    List<LadderDifference> found = new ArrayList<>();
    for (Ladder ladder : after.ladders()) {
      Ladder was = old.remove(ladder.name());
      if (was == null) {
        found.add(new LadderDifference(How.ADDED, null, ladder));
      } else if (!was.equals(ladder)) {
        found.add(new LadderDifference(How.CHANGED, was, ladder));
      }
    }
    old.values().forEach(l -> found.add(new LadderDifference(How.REMOVED, l, null)));
    return found;
  }
}
