package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.random.RandomGenerator;
import org.junit.jupiter.api.Test;

/** Who holds what, through many exchanges. */
class HoldingsTest {
  private static final int ORDERS = 30;
  private static final int THINGS = 8;

  private final Random random = new Random(43);
  private final List<List<Option>> orders = RandomOptions.of(ORDERS, THINGS, random);
  private final OptionTable table = new OptionTable(orders);

  private final long[] have = random.longs(THINGS, 20, 40).toArray();

  /** Nobody has anything at first. */
  private final Holdings held = new Holdings(table, first(), have.clone());

  @Test
  void whoHoldsAThingIsWhoseOptionTakesIt() {
    for (int move = 0; move < 500; move++) {
      exchange();
      for (int thing = 0; thing < THINGS; thing++) {
        long left = have[thing];
        TreeSet<Integer> holders = new TreeSet<>();
        for (int o = 0; o < ORDERS; o++) {
          long units = option(o).takes().of(thing);
          left -= units;
          if (units > 0) {
            holders.add(o);
          }
        }
        assertThat(held.left(thing)).isEqualTo(left);
        assertThat(all(thing, holders.size())).isEqualTo(holders);
      }
    }
  }

  @Test
  void whatWasMarkedIsFoundAgain() {
    int[] marked = first();
    held.mark();
    for (int move = 0; move < 2_000; move++) {
      exchange();
      if (random.nextInt(100) == 0) {
        held.mark();
        Arrays.setAll(marked, held::of);
      }
      assertThat(held.marked()).isEqualTo(marked);
    }
  }

  private int[] first() {
    int[] first = new int[ORDERS];
    Arrays.setAll(first, table::first);
    return first;
  }

  /** Some order has another option from now on. */
  private void exchange() {
    int o = random.nextInt(ORDERS);
    int some = random.nextInt(table.first(o), table.first(o + 1));
    held.free(held.of(o));
    held.use(some);
    held.set(o, some);
  }

  private Option option(int order) {
    return orders.get(order).get(table.name(held.of(order)));
  }

  /** Each that may be drawn. */
  private TreeSet<Integer> all(int thing, int holders) {
    TreeSet<Integer> drawn = new TreeSet<>();
    for (int n = 0; n < holders; n++) {
      int nth = n;
      drawn.add(
          held.anyHolder(
              thing,
              new RandomGenerator() {
                @Override
                public long nextLong() {
                  throw new UnsupportedOperationException();
                }

                @Override
                public int nextInt(int bound) {
                  assertThat(bound).as("holders of %d", thing).isEqualTo(holders);
                  return nth;
                }
              }));
    }
    return drawn;
  }
}
