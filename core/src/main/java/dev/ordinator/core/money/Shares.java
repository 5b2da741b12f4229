package dev.ordinator.core.money;

import java.math.BigInteger;
import java.util.Arrays;
import java.util.Comparator;
import java.util.stream.IntStream;

/** Splits an amount into parts that always add up to the whole. */
public final class Shares {
  private Shares() {}

  /**
   * Splits by weight with the largest-remainder method (Hamilton's): each part gets ⌊total × weight
   * ÷ Σ weights⌋, and the units left over go one each to the largest remainders, ties to the
   * earlier part. A negative total is split as its absolute value and negated.
   *
   * @param total minor units to split
   * @param weights at least one; none negative. All zero means equal weights
   * @return as many parts as weights, in their order, with Σ parts = total
   */
  public static long[] split(long total, long... weights) {
    if (weights.length == 0) {
      throw new IllegalArgumentException("nothing to split over");
    }
    if (Arrays.stream(weights).anyMatch(w -> w < 0)) {
      throw new IllegalArgumentException("a weight is negative: " + Arrays.toString(weights));
    }
    if (total < 0) {
      return Arrays.stream(split(Math.negateExact(total), weights)).map(part -> -part).toArray();
    }
    long[] weight = weights.clone();
    if (Arrays.stream(weight).allMatch(w -> w == 0)) {
      Arrays.fill(weight, 1);
    }
    BigInteger sum =
        Arrays.stream(weight)
            .mapToObj(BigInteger::valueOf)
            .reduce(BigInteger.ZERO, BigInteger::add);
    long[] parts = new long[weight.length];
    BigInteger[] remainders = new BigInteger[weight.length];
    long left = total;
    for (int i = 0; i < weight.length; i++) {
      BigInteger[] share =
          BigInteger.valueOf(total).multiply(BigInteger.valueOf(weight[i])).divideAndRemainder(sum);
      parts[i] = share[0].longValueExact();
      remainders[i] = share[1];
      left -= parts[i];
    }
    IntStream.range(0, weight.length)
        .boxed()
        .sorted(Comparator.comparing((Integer i) -> remainders[i]).reversed())
        .limit(left)
        .forEach(i -> parts[i]++);
    return parts;
  }
}
