package dev.ordinator.core.routing;

/** How much of an order a search is to fill. */
enum Fill {
  /** Every unit. */
  WHOLE,
  /** As many units as can be, and then at the least cost. */
  MOST,
  /** Any part that is not nothing, at the least cost with the penalties for what is left out. */
  ANY;

  /** Whether a plan that leaves out more units is worse, whatever it costs. */
  boolean countsFirst() {
    return this == MOST;
  }

  /** What filling a unit saves, if leaving it out is a matter of cost. */
  long saves(Policy policy) {
    return this == ANY ? policy.unfilledPenaltyPerUnit() : 0;
  }
}
