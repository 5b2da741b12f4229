package dev.ordinator.core.rules;

import java.util.List;
import java.util.Locale;

/** A tree of tests over an order's facts. */
public sealed interface Condition {

  boolean holds(OrderFacts facts);

  /** Holds if every part does; an empty list always holds. */
  record All(List<Condition> parts) implements Condition {
    public All {
      parts = List.copyOf(parts);
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return parts.stream().allMatch(p -> p.holds(facts));
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
      if (field.numeric() != operator.numeric()) {
        throw new IllegalArgumentException(operator + " does not fit " + field);
      }
      if (operator.numeric()) {
        Long.parseLong(values.getFirst());
      }
    }

    @Override
    public boolean holds(OrderFacts facts) {
      return negated != compare(field.of(facts));
    }

    private boolean compare(Field.Value value) {
      return switch (value) {
        case Field.Value.Text(String text) -> compareText(text);
        case Field.Value.Texts texts -> texts.texts().stream().anyMatch(this::compareText);
        case Field.Value.Number(long number) -> {
          long limit = Long.parseLong(values.getFirst());
          yield operator == Operator.OVER ? number > limit : number < limit;
        }
      };
    }

    private boolean compareText(String text) {
      String actual = text.toLowerCase(Locale.ROOT);
      return values.stream()
          .map(v -> v.toLowerCase(Locale.ROOT))
          .anyMatch(wanted ->
              switch (operator) {
                case IS -> actual.equals(wanted);
                case BEGINS_WITH -> actual.startsWith(wanted);
                case CONTAINS -> actual.contains(wanted);
                case OVER, UNDER -> throw new AssertionError("refused on construction");
              });
    }
  }
}
