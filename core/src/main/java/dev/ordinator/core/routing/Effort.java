package dev.ordinator.core.routing;

/**
 * How much searching an order is worth: counted in steps, so that the answer is the same anywhere.
 */
final class Effort {
  private long left;

  Effort(long steps) {
    this.left = steps;
  }

  void spend(int steps) {
    left -= steps;
  }

  boolean isSpent() {
    return left <= 0;
  }
}
