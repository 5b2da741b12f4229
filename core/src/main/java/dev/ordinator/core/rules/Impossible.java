package dev.ordinator.core.rules;

import dev.ordinator.core.rules.Condition.Test;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.LongStream;

/** Whether tests contradict one another. Says so only if it is certain. */
final class Impossible {
  private Impossible() {}

  static boolean isImpossible(List<Test> tests) {
    return tests.stream().collect(Collectors.groupingBy(Test::field)).entrySet().stream()
        .anyMatch(e ->
            switch (e.getKey().kind()) {
              case NUMBER -> noNumber(e.getKey(), e.getValue());
              case TEXTS -> noTexts(e.getValue());
              case TEXT, CHOICE -> noText(e.getKey(), e.getValue());
            });
  }

  /** Some text must be as each test says; each may find its own, which no negated test allows. */
  private static boolean noTexts(List<Test> tests) {
    List<Test> negated = tests.stream().filter(Test::negated).toList();
    return tests.stream()
        .filter(t -> !t.negated())
        .anyMatch(t -> t.lowered().allMatch(value -> isRuledOut(t.operator(), value, negated)));
  }

  private static boolean noText(Field field, List<Test> tests) {
    // where the values are known they are tried one by one
    List<String> known =
        tests.stream()
            .filter(t -> !t.negated() && t.operator() == Operator.IS)
            .findFirst()
            .map(t -> t.lowered().toList())
            .orElse(field.options().stream().map(o -> o.toLowerCase(Locale.ROOT)).toList());
    if (!known.isEmpty()) {
      return known.stream().noneMatch(value -> tests.stream().allMatch(t -> meets(t, value)));
    }
    return noTexts(tests) || beginningsDiffer(tests);
  }

  /** Two tests ask for beginnings of which neither begins with the other. */
  private static boolean beginningsDiffer(List<Test> tests) {
    List<Test> beginnings =
        tests.stream().filter(t -> !t.negated() && t.operator() == Operator.BEGINS_WITH).toList();
    return beginnings.stream()
        .anyMatch(one ->
            beginnings.stream()
                .anyMatch(other ->
                    one.lowered()
                        .noneMatch(a ->
                            other.lowered().anyMatch(b -> a.startsWith(b) || b.startsWith(a)))));
  }

  /** Whether every text that a test accepts for this value is refused by a negated test. */
  private static boolean isRuledOut(Operator operator, String value, List<Test> negated) {
    return negated.stream()
        .anyMatch(not ->
            not.lowered()
                .anyMatch(refused ->
                    switch (not.operator()) {
                      case IS -> operator == Operator.IS && value.equals(refused);
                      case BEGINS_WITH ->
                          operator != Operator.CONTAINS && value.startsWith(refused);
                      case CONTAINS -> value.contains(refused);
                      case EXACTLY, OVER, UNDER -> false;
                    }));
  }

  private static boolean meets(Test test, String value) {
    return test.negated() != test.lowered().anyMatch(v -> test.operator().matches(value, v));
  }

  private static boolean noNumber(Field field, List<Test> tests) {
    if (field == Field.DAYS_TO_ARRIVAL && tests.stream().allMatch(Test::negated)) {
      return false; // a number that is not there meets them all
    }
    long from = field == Field.DAYS_TO_ARRIVAL ? Long.MIN_VALUE : 0;
    long to = field == Field.HOUR ? 23 : Long.MAX_VALUE;
    for (Test test : tests) {
      long n = test.number();
      switch (test.operator()) {
        case EXACTLY -> {
          if (!test.negated()) {
            from = Math.max(from, n);
            to = Math.min(to, n);
          }
        }
        case OVER -> {
          if (test.negated()) {
            to = Math.min(to, n);
          } else if (n == Long.MAX_VALUE) {
            return true;
          } else {
            from = Math.max(from, n + 1);
          }
        }
        case UNDER -> {
          if (test.negated()) {
            from = Math.max(from, n);
          } else if (n == Long.MIN_VALUE) {
            return true;
          } else {
            to = Math.min(to, n - 1);
          }
        }
        case IS, BEGINS_WITH, CONTAINS -> throw new IllegalStateException("compares texts");
      }
    }
    return from > to || allAreExcluded(from, to, tests);
  }

  private static boolean allAreExcluded(long from, long to, List<Test> tests) {
    // at most one number is excluded by each test
    return to - from >= 0
        && to - from < tests.size()
        && LongStream.rangeClosed(from, to)
            .allMatch(n ->
                tests.stream()
                    .anyMatch(
                        t -> t.negated() && t.operator() == Operator.EXACTLY && t.number() == n));
  }
}
