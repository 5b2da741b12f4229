package dev.ordinator.core.rules;

/** How a field is compared with the values of a test. */
public enum Operator {
  /** Equal to any of the values, without regard to case. */
  IS,
  BEGINS_WITH,
  CONTAINS,
  EXACTLY,
  /** Greater than the value. */
  OVER,
  /** Less than the value. */
  UNDER;

  /** Whether it compares numbers. */
  public boolean numeric() {
    return this == EXACTLY || this == OVER || this == UNDER;
  }

  /** Whether a text is as one of the values says; both in lower case. */
  boolean matches(String text, String value) {
    return switch (this) {
      case IS -> text.equals(value);
      case BEGINS_WITH -> text.startsWith(value);
      case CONTAINS -> text.contains(value);
      case EXACTLY, OVER, UNDER -> throw new IllegalStateException(this + " compares numbers");
    };
  }
}
