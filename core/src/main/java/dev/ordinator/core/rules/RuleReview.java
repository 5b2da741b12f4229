package dev.ordinator.core.rules;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What can be said of rules without an order: which can never do anything, which always lose to a
 * later one, which contradict one another. What is reported is certain; what can't be decided is
 * not reported.
 */
public final class RuleReview {
  private final List<Placed> rules;

  private RuleReview(List<Placed> rules) {
    this.rules = rules;
  }

  /** What is wrong with a rule. */
  public enum Fault {
    /** Its condition can't hold for any order. */
    NEVER_HOLDS,
    /** Whenever it would hold, a rule before it has ended the group. */
    NEVER_REACHED,
    /** All that it does is undone by later rules whenever it holds. */
    ALWAYS_OVERRULED,
    /** Some of what it does is undone by a later rule whenever it holds. */
    CONTRADICTED
  }

  /**
   * @param by the ids of the rules that are in its way, in their order; empty: it is itself
   */
  public record Finding(String rule, Fault fault, List<String> by) {}

  /** A rule with the number of its group. */
  private record Placed(int group, DeskRule rule) {}

  /**
   * @return at most one finding for each rule, in the order of the rules
   */
  public static List<Finding> of(List<RuleGroup> groups) {
    List<Placed> rules = new ArrayList<>();
    for (int g = 0; g < groups.size(); g++) {
      int group = g;
      groups.get(g).rules().stream()
          .filter(DeskRule::on)
          .forEach(rule -> rules.add(new Placed(group, rule)));
    }
    RuleReview review = new RuleReview(rules);
    List<Finding> found = new ArrayList<>();
    for (int i = 0; i < rules.size(); i++) {
      review.look(i).ifPresent(found::add);
    }
    return found;
  }

  private Optional<Finding> look(int at) {
    Placed placed = rules.get(at);
    DeskRule rule = placed.rule();
    if (Cases.areImpossible(List.of(rule.condition()))) {
      return Optional.of(new Finding(rule.id(), Fault.NEVER_HOLDS, List.of()));
    }
    // orders that stay are looked at by one rule at a time
    if (rule.event() == RuleEvent.STAYS) {
      return Optional.empty();
    }
    List<DeskRule> ending = endingBefore(at, placed.group());
    if (!ending.isEmpty() && isNeverLeftBy(rule, ending)) {
      return Optional.of(
          new Finding(
              rule.id(),
              Fault.NEVER_REACHED,
              ending.stream().filter(e -> !areApart(rule, e)).map(DeskRule::id).toList()));
    }
    return overruled(at);
  }

  /** Rules of the same event that may end the group before this one. */
  private List<DeskRule> endingBefore(int at, int group) {
    return rules.subList(0, at).stream()
        .filter(p -> p.group() == group && p.rule().endsGroup())
        .map(Placed::rule)
        .filter(r -> r.event() == rules.get(at).rule().event())
        .toList();
  }

  /** Whether, for every order that it would meet, one of the others holds first. */
  private static boolean isNeverLeftBy(DeskRule rule, List<DeskRule> ending) {
    return Cases.areImpossible(
        List.of(
            rule.condition(),
            new Condition.None(ending.stream().map(DeskRule::condition).toList())));
  }

  private static boolean areApart(DeskRule one, DeskRule other) {
    return Cases.areImpossible(List.of(one.condition(), other.condition()));
  }

  private Optional<Finding> overruled(int at) {
    DeskRule rule = rules.get(at).rule();
    List<DeskRule> after =
        IntStream.range(at + 1, rules.size())
            .filter(later -> alwaysFollows(at, later))
            .mapToObj(later -> rules.get(later).rule())
            .toList();
    boolean all = rule.actions().stream().allMatch(a -> after.stream().anyMatch(r -> undo(r, a)));
    // what is only said twice is not worth a word, unless the rule does nothing else
    List<String> by =
        after.stream()
            .filter(r -> rule.actions().stream().anyMatch(a -> all ? undo(r, a) : deny(r, a)))
            .map(DeskRule::id)
            .toList();
    return by.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new Finding(rule.id(), all ? Fault.ALWAYS_OVERRULED : Fault.CONTRADICTED, by));
  }

  /** Whether the later rule is tried and holds whenever this one does. */
  private boolean alwaysFollows(int at, int later) {
    Placed one = rules.get(at);
    Placed other = rules.get(later);
    boolean together = one.group() == other.group();
    if (other.rule().event() != one.rule().event() || (together && one.rule().endsGroup())) {
      return false;
    }
    return Cases.implies(one.rule().condition(), other.rule().condition())
        && endingBefore(later, other.group()).stream()
            // of its own group, those before it did not hold: it was reached
            .filter(ending -> !together || positionOf(ending) > at)
            .allMatch(ending -> areApart(one.rule(), ending));
  }

  private int positionOf(DeskRule rule) {
    return IntStream.range(0, rules.size())
        .filter(i -> rules.get(i).rule() == rule)
        .findFirst()
        .orElseThrow();
  }

  private static boolean undo(DeskRule later, Action action) {
    return later.actions().stream().anyMatch(its -> undoes(its, action));
  }

  private static boolean deny(DeskRule later, Action action) {
    return later.actions().stream().anyMatch(its -> undoes(its, action) && !its.equals(action));
  }

  /** Whether nothing is left of what an action did once the later one is done. */
  private static boolean undoes(Action later, Action action) {
    return switch (action) {
      case Action.AddTag(String tag) -> tag.equals(tagOf(later));
      case Action.RemoveTag(String tag) -> tag.equals(tagOf(later));
      case Action.SetPriority p -> later instanceof Action.SetPriority;
      case Action.SetLevel l -> later instanceof Action.SetLevel;
      case Action.UseLadder l -> later instanceof Action.UseLadder;
      case Action.Split s -> later instanceof Action.Split;
      case Action.Waiting w -> later instanceof Action.Waiting;
      case Action.InPart p -> later instanceof Action.InPart;
      case Action.Replacing r -> later instanceof Action.Replacing;
      case Action.Assign a -> later instanceof Action.Assign;
      case Action.PutOnList l -> later instanceof Action.PutOnList;
      case Action.Hold h -> later instanceof Action.ReleaseHold;
      case Action.ReleaseHold r -> false;
      case Action.ExcludeNode e -> false;
      case Action.PreferNode p -> false;
      case Action.AddNote n -> false;
      case Action.Notify n -> false;
    };
  }

  private static @Nullable String tagOf(Action action) {
    return switch (action) {
      case Action.AddTag(String tag) -> tag;
      case Action.RemoveTag(String tag) -> tag;
      default -> null;
    };
  }
}
