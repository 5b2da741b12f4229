package dev.ordinator.core.routing;

import java.util.Arrays;
import java.util.random.RandomGenerator;
import java.util.stream.IntStream;

/** Which option of a table each order has, and who has some of what is shared. */
final class Holdings {
  private final OptionTable table;
  private final int[] option;
  private final long[] left;

  /** By number, what is held of it: slots of orders, one for each thing that an order has. */
  private final int[][] held;

  private final int[] holding;

  /** Each order has as many slots; two to the power of this. */
  private final int slotBits;

  /** By slot, where in the list of what is held of something it stands. */
  private final int[] place;

  /** Orders that were given another option since it was marked, and what they had before. */
  private int[] changed = new int[64];

  private int[] had = new int[64];
  private int changes;

  /**
   * @param first what each order has at first
   * @param have by number; it is changed
   */
  Holdings(OptionTable table, int[] first, long[] have) {
    int orders = first.length;
    this.table = table;
    this.option = new int[orders];
    this.left = have;
    this.held = new int[have.length][2];
    this.holding = new int[have.length];
    int most = IntStream.range(0, table.first(orders)).map(table::takes).max().orElse(0);
    this.slotBits = Integer.SIZE - Integer.numberOfLeadingZeros(most);
    this.place = new int[orders << slotBits];
    for (int o = 0; o < orders; o++) {
      hold(o, first[o]);
      use(first[o]);
    }
  }

  int of(int order) {
    return option[order];
  }

  /** What they have now can be gone back to: it is {@link #marked}. */
  void mark() {
    changes = 0;
  }

  /**
   * What each order had when it was marked.
   *
   * @return by order
   */
  int[] marked() {
    int[] marked = option.clone();
    for (int change = changes - 1; change >= 0; change--) {
      marked[changed[change]] = had[change];
    }
    return marked;
  }

  long left(int number) {
    return left[number];
  }

  int anyHolder(int number, RandomGenerator random) {
    return held[number][random.nextInt(holding[number])] >> slotBits;
  }

  boolean fits(int some) {
    return table.fits(some, left);
  }

  /** What an option takes is left to others no more. */
  void use(int some) {
    table.use(some, left);
  }

  /** What an option takes is left again. */
  void free(int some) {
    table.free(some, left);
  }

  /** An order has another option from now on; what is left is not changed by it. */
  void set(int order, int some) {
    if (changes == changed.length) {
      changed = Arrays.copyOf(changed, 2 * changes);
      had = Arrays.copyOf(had, 2 * changes);
    }
    changed[changes] = order;
    had[changes++] = option[order];
    for (int t = 0; t < table.takes(option[order]); t++) {
      int number = table.what(option[order], t);
      int gap = place[(order << slotBits) + t];
      int last = held[number][--holding[number]];
      held[number][gap] = last;
      place[last] = gap;
    }
    hold(order, some);
  }

  private void hold(int order, int some) {
    option[order] = some;
    for (int t = 0; t < table.takes(some); t++) {
      int number = table.what(some, t);
      if (holding[number] == held[number].length) {
        held[number] = Arrays.copyOf(held[number], 2 * holding[number]);
      }
      int slot = (order << slotBits) + t;
      place[slot] = holding[number];
      held[number][holding[number]++] = slot;
    }
  }
}
