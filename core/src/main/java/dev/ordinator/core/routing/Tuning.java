package dev.ordinator.core.routing;

import java.util.Arrays;

/**
 * Looks for charges that make what orders come to, with charges and less what all that is shared
 * would be charged, as high as can be: subgradient steps after Polyak, each order free to take any
 * of the options that are known for it.
 */
final class Tuning {
  private static final int PATIENCE = 5;

  private Tuning() {}

  /**
   * @param have of what is shared, by number
   * @param start the first charges, by number
   * @param reached what the orders are known to come to
   */
  static double[] tune(
      OptionTable options, long[] have, double[] start, double reached, int rounds) {
    double[] trial = Arrays.copyOf(start, have.length);
    double[] good = trial;
    double most = Double.NEGATIVE_INFINITY;
    double[] over = new double[have.length];
    double pace = 1;
    int idle = 0;
    for (int round = 0; round < rounds; round++) {
      for (int number = 0; number < over.length; number++) {
        over[number] = -have[number];
      }
      double value = options.take(trial, over);
      double square = 0;
      for (int number = 0; number < over.length; number++) {
        value -= trial[number] * have[number];
        square += over[number] > 0 || trial[number] > 0 ? over[number] * over[number] : 0;
      }
      if (value > most) {
        most = value;
        good = trial.clone();
        idle = 0;
      } else if (++idle == PATIENCE) {
        pace /= 2;
        idle = 0;
      }
      if (square == 0 || value >= reached) {
        break;
      }
      double step = pace * (reached - value) / square;
      for (int number = 0; number < over.length; number++) {
        trial[number] = Math.max(0, trial[number] + step * over[number]);
      }
    }
    return good;
  }
}
