package dev.ordinator.core.routing;

/**
 * The network-wide prices of what is unwanted; minor units of the base currency.
 *
 * @param volumeDivisor cubic centimetres that count as a kilogram
 */
public record Policy(
    long splitPenalty,
    long latePenaltyPerDay,
    long unfilledPenaltyPerUnit,
    long rungStep,
    long volumeDivisor) {
  public Policy {
    if (volumeDivisor <= 0) {
      throw new IllegalArgumentException("the volume divisor must be positive");
    }
  }

  /**
   * The weight a carrier charges for: the larger of the weight and ⌈1000 × volume ÷ divisor⌉.
   *
   * @param weight grams
   * @param volume millilitres
   * @return grams
   */
  public long billableWeight(long weight, long volume) {
    return Math.max(weight, Math.ceilDiv(Math.multiplyExact(1000L, volume), volumeDivisor));
  }
}
