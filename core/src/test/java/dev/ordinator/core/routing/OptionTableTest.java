package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Rows say what the options say that they were made of. */
class OptionTableTest {
  private static final int THINGS = 12;

  private final Random random = new Random(41);
  private final List<List<Option>> orders = RandomOptions.of(40, THINGS, random);
  private final OptionTable table = new OptionTable(orders);

  @Test
  void aRowHasTheValueAndTheTakesOfItsOption() {
    for (int o = 0; o < orders.size(); o++) {
      for (int i = 0; i < orders.get(o).size(); i++) {
        assertRow(table, table.first(o) + i, orders.get(o).get(i));
      }
    }
  }

  @Test
  void aPartKeepsTheOptionsThatAreKeptUnderTheirNames() {
    int[] some = {3, 17, 5, 39};
    OptionTable part = table.only(some, option -> table.value(option) % 3 > 0);
    OptionTable less = part.only(new int[] {2, 1}, option -> part.value(option) % 3 > 1);
    assertThat(part.orders()).isEqualTo(4);
    assertThat(options(part, 1)).isEqualTo(kept(17, 1));
    assertThat(options(part, 3)).isEqualTo(kept(39, 1));
    assertThat(options(less, 0)).as("of the part's third").isEqualTo(kept(5, 2));
    assertThat(options(less, 1)).as("of the part's second").isEqualTo(kept(17, 2));
  }

  @Test
  void whatIsNotCountedIsLeftOut() {
    OptionTable even = new OptionTable(orders, thing -> thing % 2 == 0 ? thing / 2 : -1);
    for (int o = 0; o < orders.size(); o++) {
      for (int i = 0; i < orders.get(o).size(); i++) {
        Takes takes = orders.get(o).get(i).takes();
        long[] counted = new long[THINGS / 2];
        for (int t = 0; t < even.takes(even.first(o) + i); t++) {
          counted[even.what(even.first(o) + i, t)] += even.units(even.first(o) + i, t);
        }
        for (int thing = 0; thing < counted.length; thing++) {
          assertThat(counted[thing]).isEqualTo(takes.of(2 * thing));
        }
      }
    }
  }

  @Test
  void anOptionFitsIfThereIsEnoughOfAllItTakes() {
    Option option = orders.get(0).getLast();
    int row = table.first(1) - 1;
    long[] left = new long[THINGS];
    for (int t = 0; t < option.takes().what().length; t++) {
      assertThat(table.fits(row, left)).isFalse();
      left[option.takes().what()[t]] = option.takes().units()[t];
    }
    assertThat(table.fits(row, left)).isTrue();
  }

  /** The options that a table has of an order, by their names in the whole. */
  private List<Option> options(OptionTable some, int order) {
    List<Option> all = orders.stream().flatMap(List::stream).toList();
    List<Option> found = new ArrayList<>();
    for (int row = some.first(order); row < some.first(order + 1); row++) {
      assertRow(some, row, all.get(some.name(row)));
      found.add(all.get(some.name(row)));
    }
    return found;
  }

  private List<Option> kept(int order, int above) {
    return orders.get(order).stream()
        .filter(option -> option.value() % 3 > 0 && option.value() % 3 >= above)
        .toList();
  }

  private static void assertRow(OptionTable table, int row, Option option) {
    Takes takes = option.takes();
    assertThat(table.value(row)).isEqualTo(option.value());
    assertThat(table.takes(row)).isEqualTo(takes.what().length);
    for (int t = 0; t < takes.what().length; t++) {
      assertThat(table.what(row, t)).isEqualTo(takes.what()[t]);
      assertThat(table.units(row, t)).isEqualTo(takes.units()[t]);
    }
    double[] charge = new double[THINGS];
    Arrays.setAll(charge, thing -> 10 * thing);
    double charged = option.value();
    for (int thing = 0; thing < THINGS; thing++) {
      charged += charge[thing] * takes.of(thing);
    }
    assertThat(table.charged(row, charge)).isEqualTo(charged);
  }
}
