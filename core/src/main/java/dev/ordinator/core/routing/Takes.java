package dev.ordinator.core.routing;

import java.util.Arrays;

/**
 * What a plan takes of what is shared.
 *
 * @param what numbers, ascending
 * @param units of each
 */
record Takes(int[] what, long[] units) {
  static final Takes NOTHING = new Takes(new int[0], new long[0]);

  /** Units of what has a number. */
  long of(int number) {
    int at = Arrays.binarySearch(what, number);
    return at < 0 ? 0 : units[at];
  }

  boolean same(Takes other) {
    return Arrays.equals(what, other.what) && Arrays.equals(units, other.units);
  }

  /** Adds up what a plan takes, bit by bit. */
  static final class Sum {
    private int[] what = new int[8];
    private long[] units = new long[8];
    private int size;

    void add(int number, long some) {
      int at = Arrays.binarySearch(what, 0, size, number);
      if (at < 0) {
        at = -at - 1;
        insert(at, number);
      }
      units[at] += some;
    }

    private void insert(int at, int number) {
      if (size == what.length) {
        what = Arrays.copyOf(what, 2 * size);
        units = Arrays.copyOf(units, 2 * size);
      }
      System.arraycopy(what, at, what, at + 1, size - at);
      System.arraycopy(units, at, units, at + 1, size - at);
      what[at] = number;
      units[at] = 0;
      size++;
    }

    Takes takes() {
      return new Takes(Arrays.copyOf(what, size), Arrays.copyOf(units, size));
    }
  }
}
