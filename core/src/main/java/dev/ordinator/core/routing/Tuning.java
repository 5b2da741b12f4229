package dev.ordinator.core.routing;

import java.util.Arrays;

/**
 * Looks for charges that make what orders come to, with charges and less what all that is shared
 * would be charged, as high as can be: subgradient steps with momentum, each order free to take any
 * of the options that are known for it. A charge moves by what is wanted more than there is, in
 * proportion to how much that has been in the rounds so far (Duchi, Hazan, Singer, Adaptive
 * Subgradient Methods, Journal of Machine Learning Research 12, 2011), so that of what there is
 * much, and of what there is little, each finds its own; steps get shorter from round to round.
 */
final class Tuning {
  private static final double MOMENTUM = 0.8;

  /** By so much the last step is shorter than the first. */
  private static final double SHORTER = 200;

  /** In units: what is mostly wanted as much as there is, is not moved far by a unit more. */
  private static final double STEADY = 0.3;

  private Tuning() {}

  /**
   * @param have of what is shared, by number
   * @param start the first charges, by number
   * @param step how far a round moves a charge at first, if as much is wanted too much as it mostly
   *     is
   */
  static double[] tune(OptionTable options, long[] have, double[] start, double step, int rounds) {
    double[] trial = Arrays.copyOf(start, have.length);
    double[] good = trial.clone();
    double most = Double.NEGATIVE_INFINITY;
    double[] over = new double[have.length];
    double[] pull = new double[have.length];
    double[] squares = new double[have.length];
    double shrink = StrictMath.pow(SHORTER, -1.0 / rounds);
    double length = step;
    for (int round = 0; round < rounds; round++) {
      for (int number = 0; number < over.length; number++) {
        over[number] = -have[number];
      }
      double value = options.take(trial, over);
      for (int number = 0; number < over.length; number++) {
        value -= trial[number] * have[number];
      }
      if (value > most) {
        most = value;
        System.arraycopy(trial, 0, good, 0, good.length);
      }
      for (int number = 0; number < over.length; number++) {
        pull[number] = MOMENTUM * pull[number] + (1 - MOMENTUM) * over[number];
        squares[number] += over[number] * over[number];
        if (trial[number] > 0 || pull[number] > 0) {
          double mostly = STEADY + Math.sqrt(squares[number] / (round + 1));
          trial[number] = Math.max(0, trial[number] + length * pull[number] / mostly);
        }
      }
      length *= shrink;
    }
    return good;
  }
}
