package dev.ordinator.core.rules;

import dev.ordinator.core.rules.Condition.All;
import dev.ordinator.core.rules.Condition.Any;
import dev.ordinator.core.rules.Condition.None;
import dev.ordinator.core.rules.Condition.Test;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Whether a condition can hold for any order at all. A condition is written as cases, one of which
 * must apply (its disjunctive normal form), each a list of tests that must all hold. What is said
 * to be impossible is; what is too long to be written so, or turns on more than one text at once,
 * counts as possible.
 */
final class Cases {
  private static final int MOST = 2_000;

  private Cases() {}

  /** Whether no order can ever meet all of them. */
  static boolean areImpossible(List<Condition> conditions) {
    return of(new All(conditions), true)
        .map(cases -> cases.stream().allMatch(Impossible::isImpossible))
        .orElse(false);
  }

  /** Whether every order that meets the one meets the other too. */
  static boolean implies(Condition one, Condition other) {
    return areImpossible(List.of(one, new None(List.of(other))));
  }

  /** Empty if there are too many. */
  private static Optional<List<List<Test>>> of(Condition condition, boolean holds) {
    return switch (condition) {
      case Test test -> Optional.of(List.of(List.of(holds ? test : test.negation())));
      // says nothing that could be told without an order: it may hold, and it may not
      case Expression e -> Optional.of(List.of(List.of()));
      case All(List<Condition> parts) -> holds ? allOf(parts, true) : anyOf(parts, false);
      case Any(List<Condition> parts) -> holds ? anyOf(parts, true) : allOf(parts, false);
      case None(List<Condition> parts) -> holds ? allOf(parts, false) : anyOf(parts, true);
    };
  }

  private static Optional<List<List<Test>>> anyOf(List<Condition> parts, boolean hold) {
    List<List<Test>> cases = new ArrayList<>();
    for (Condition part : parts) {
      Optional<List<List<Test>>> its = of(part, hold);
      if (its.isEmpty() || cases.size() + its.get().size() > MOST) {
        return Optional.empty();
      }
      cases.addAll(its.get());
    }
    return Optional.of(cases);
  }

  private static Optional<List<List<Test>>> allOf(List<Condition> parts, boolean hold) {
    List<List<Test>> cases = List.of(List.of());
    for (Condition part : parts) {
      Optional<List<List<Test>>> its = of(part, hold);
      if (its.isEmpty() || (long) cases.size() * its.get().size() > MOST) {
        return Optional.empty();
      }
      List<List<Test>> longer = new ArrayList<>();
      for (List<Test> one : cases) {
        its.get().forEach(more -> longer.add(Stream.concat(one.stream(), more.stream()).toList()));
      }
      cases = longer;
    }
    return Optional.of(cases);
  }
}
