package dev.ordinator.core.routing;

import java.util.Arrays;

/**
 * What a plan takes of what is shared.
 *
 * @param each what is taken and how many units of it, both in one number, as what a batch goes over
 *     again and again should lie close together; ascending
 */
record Takes(long[] each) {
  static final Takes NOTHING = new Takes(new long[0]);

  /** Units come to less than two to the power of this: a billion of each of many lines. */
  private static final int UNIT_BITS = 36;

  private static final long UNITS = (1L << UNIT_BITS) - 1;

  /** The number of what one of them takes. */
  static int what(long take) {
    return (int) (take >>> UNIT_BITS);
  }

  static long units(long take) {
    return take & UNITS;
  }

  /** Units of what has a number. */
  long of(int number) {
    for (long take : each) {
      if (what(take) == number) {
        return units(take);
      }
    }
    return 0;
  }

  boolean same(Takes other) {
    return Arrays.equals(each, other.each);
  }

  /** Adds up what a plan takes, bit by bit. */
  static final class Sum {
    private long[] each = new long[8];
    private int size;

    void clear() {
      size = 0;
    }

    void add(int number, long units) {
      int at = size;
      while (at > 0 && what(each[at - 1]) >= number) {
        at--;
      }
      if (at == size || what(each[at]) != number) {
        insert(at, number);
      }
      if (units(each[at]) + units > UNITS) {
        throw new IllegalArgumentException("more than %,d units of one thing".formatted(UNITS));
      }
      each[at] += units;
    }

    private void insert(int at, int number) {
      if (size == each.length) {
        each = Arrays.copyOf(each, 2 * size);
      }
      System.arraycopy(each, at, each, at + 1, size - at);
      each[at] = (long) number << UNIT_BITS;
      size++;
    }

    int size() {
      return size;
    }

    /** Puts all of it into a row of cells, from one on. */
    void into(long[] cells, int from) {
      System.arraycopy(each, 0, cells, from, size);
    }

    Takes takes() {
      return new Takes(Arrays.copyOf(each, size));
    }
  }
}
