package dev.ordinator.core.rules;

import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/** A tree of tests over an order's facts. */
public sealed interface Condition
    permits Condition.All, Condition.Any, Condition.None, Condition.Test, Expression {

  /**
   * @throws Expression.TooCostly if an expression in it takes more steps than it may
   */
  boolean holds(OrderFacts facts);

  /** Whether it may ask what there is in stock. */
  boolean looksAtStock();

  /** Holds if every part does; an empty list always holds. */
  record All(List<Condition> parts) implements Condition {
    public All {
      parts = List.copyOf(parts);
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return parts.stream().allMatch(p -> p.holds(facts));
    }

    @Override
    public boolean looksAtStock() {
      return parts.stream().anyMatch(Condition::looksAtStock);
    }
  }

  /** Holds if at least one part does. */
  record Any(List<Condition> parts) implements Condition {
    public Any {
      parts = List.copyOf(parts);
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return parts.stream().anyMatch(p -> p.holds(facts));
    }

    @Override
    public boolean looksAtStock() {
      return parts.stream().anyMatch(Condition::looksAtStock);
    }
  }

  /** Holds if no part does. */
  record None(List<Condition> parts) implements Condition {
    public None {
      parts = List.copyOf(parts);
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return parts.stream().noneMatch(p -> p.holds(facts));
    }

    @Override
    public boolean looksAtStock() {
      return parts.stream().anyMatch(Condition::looksAtStock);
    }
  }

  /**
   * One field compared with values.
   *
   * @param values texts, or for a numeric field one whole number
   */
  record Test(Field field, Operator operator, List<String> values, boolean negated)
      implements Condition {

    public Test {
      values = List.copyOf(values);
      if (values.isEmpty()) {
        throw new IllegalArgumentException(field + " " + operator + " needs a value");
      }
      if (!field.takes(operator)) {
        throw new IllegalArgumentException(operator + " does not fit " + field);
      }
      if (operator.numeric()) {
        Long.parseLong(values.getFirst());
      }
      if (field.kind() == Field.Kind.CHOICE && !field.options().containsAll(values)) {
        throw new IllegalArgumentException(field + " is one of " + field.options());
      }
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return negated != compare(field.of(facts));
    }

    @Override
    public boolean looksAtStock() {
      return field == Field.AVAILABLE || field == Field.STOCKED_AT;
    }

    private boolean compare(Field.Value value) {
      return switch (value) {
        case Field.Value.Text(String text) -> compareText(text);
        case Field.Value.Texts texts -> texts.texts().stream().anyMatch(this::compareText);
        case Field.Value.Number(Long number) -> number != null && compareNumber(number);
      };
    }

    private boolean compareNumber(long number) {
      long value = number();
      return switch (operator) {
        case EXACTLY -> number == value;
        case OVER -> number > value;
        case UNDER -> number < value;
        case IS, BEGINS_WITH, CONTAINS -> throw new AssertionError("refused on construction");
      };
    }

    private boolean compareText(String text) {
      String actual = text.toLowerCase(Locale.ROOT);
      return lowered().anyMatch(value -> operator.matches(actual, value));
    }

    /** The values, without regard to case. */
    Stream<String> lowered() {
      return values.stream().map(v -> v.toLowerCase(Locale.ROOT));
    }

    Test negation() {
      return new Test(field, operator, values, !negated);
    }

    long number() {
      return Long.parseLong(values.getFirst());
    }
  }
}
