package dev.ordinator.core.routing;

/**
 * How much searching an order is worth: counted in steps, so that the answer is the same anywhere.
 */
final class Effort {
  /** What all its parts spend from. */
  private static final class Steps {
    private long left;
    private boolean gaveUp;
  }

  private final Steps steps;
  private final long reserved;

  Effort(long steps) {
    this(new Steps(), 0);
    this.steps.left = steps;
  }

  private Effort(Steps steps, long reserved) {
    this.steps = steps;
    this.reserved = reserved;
  }

  /** One of so many parts of what is left, for something that must leave the rest to others. */
  Effort part(int parts) {
    return new Effort(steps, steps.left - (steps.left - reserved) / parts);
  }

  void spend(int some) {
    steps.left -= some;
  }

  /** Whether to give up. Who asks gives up if so: what is found is then not proven. */
  boolean isSpent() {
    boolean spent = steps.left <= reserved;
    steps.gaveUp |= spent;
    return spent;
  }

  /** Whether something was left out. */
  boolean gaveUp() {
    return steps.gaveUp;
  }
}
