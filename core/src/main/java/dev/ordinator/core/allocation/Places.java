package dev.ordinator.core.allocation;

import java.util.OptionalLong;

/**
 * Places in a queue, as numbers with room between them: somebody can be put between two others, and
 * nobody else has to be given another number.
 */
public final class Places {
  /** From the place of one who joins at the end to the next. */
  public static final long ROOM = 1L << 20;

  private Places() {}

  /** The place of the first in an empty queue. */
  public static long first() {
    return ROOM;
  }

  /** Behind the last. */
  public static long behind(long last) {
    return last + ROOM;
  }

  /** In front of the first; may be negative. */
  public static long before(long first) {
    return first - ROOM;
  }

  /** Between two neighbours; empty if there is no room left: number them all anew. */
  public static OptionalLong between(long front, long back) {
    if (front >= back) {
      throw new IllegalArgumentException(front + " is not in front of " + back);
    }
    long middle = front + (back - front) / 2;
    return middle > front ? OptionalLong.of(middle) : OptionalLong.empty();
  }

  /** The place of the k-th, from 0, when all are numbered anew. */
  public static long ofNth(int k) {
    return (k + 1) * ROOM;
  }
}
