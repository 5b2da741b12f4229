package dev.ordinator.core.rules;

/** How a field is compared with the values of a test. */
public enum Operator {
  /** Equal to any of the values, without regard to case. */
  IS,
  BEGINS_WITH,
  CONTAINS,
  /** Greater than the value. */
  OVER,
  /** Less than the value. */
  UNDER;

  /** Whether it compares numbers. */
  public boolean numeric() {
    return this == OVER || this == UNDER;
  }
}
