package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
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
  void anOrdersRowsAreItsOptionsTheCheapestFirst() {
    for (int o = 0; o < orders.size(); o++) {
      assertThat(options(table, o, o)).containsExactlyInAnyOrderElementsOf(orders.get(o));
      assertThat(options(table, o, o)).isSortedAccordingTo(Comparator.comparingLong(Option::value));
      int last = orders.get(o).size() - 1;
      assertThat(table.name(table.named(o, last))).isEqualTo(last);
    }
  }

  @Test
  void aPartKeepsTheOptionsThatAreKeptUnderTheirNames() {
    int[] some = {3, 17, 5, 39};
    OptionTable part = table.only(some, option -> table.value(option) % 3 > 0);
    OptionTable less = part.only(new int[] {2, 1}, option -> part.value(option) % 3 > 1);
    assertThat(part.orders()).isEqualTo(4);
    assertThat(options(part, 1, 17)).hasSameElementsAs(kept(17, 1));
    assertThat(options(part, 3, 39)).hasSameElementsAs(kept(39, 1));
    assertThat(options(less, 0, 5)).as("of the part's third").hasSameElementsAs(kept(5, 2));
    assertThat(options(less, 1, 17)).as("of the part's second").hasSameElementsAs(kept(17, 2));
  }

  @Test
  void eachOrderTakesWhatIsChargedLeast() {
    double[] charge = random.doubles(THINGS, 0, 300).toArray();
    double[] taken = new double[THINGS];
    double sum = 0;
    double[] expected = new double[THINGS];
    for (List<Option> order : orders) {
      Option least =
          order.stream().min(Comparator.comparingDouble(o -> charged(o, charge))).orElseThrow();
      sum += charged(least, charge);
      for (int thing = 0; thing < THINGS; thing++) {
        expected[thing] += least.takes().of(thing);
      }
    }
    assertThat(table.take(charge, taken)).isCloseTo(sum, within(0.001));
    assertThat(taken).isEqualTo(expected);
  }

  @Test
  void whatIsNotCountedIsLeftOut() {
    OptionTable even = table.numbered(thing -> thing % 2 == 0 ? thing / 2 : -1);
    for (int o = 0; o < orders.size(); o++) {
      for (int i = 0; i < orders.get(o).size(); i++) {
        Takes takes = orders.get(o).get(even.name(even.first(o) + i)).takes();
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
    int row = table.first(1) - 1;
    Option option = orders.get(0).get(table.name(row));
    long[] left = new long[THINGS];
    for (long take : option.takes().each()) {
      assertThat(table.fits(row, left)).isFalse();
      left[Takes.what(take)] = Takes.units(take);
    }
    assertThat(table.fits(row, left)).isTrue();
  }

  /** The options that a table has of an order, by their names. */
  private List<Option> options(OptionTable some, int at, int order) {
    List<Option> found = new ArrayList<>();
    for (int row = some.first(at); row < some.first(at + 1); row++) {
      Option option = orders.get(order).get(some.name(row));
      assertRow(some, row, option);
      found.add(option);
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
    assertThat(table.takes(row)).isEqualTo(takes.each().length);
    for (int t = 0; t < takes.each().length; t++) {
      assertThat(table.what(row, t)).isEqualTo(Takes.what(takes.each()[t]));
      assertThat(table.units(row, t)).isEqualTo(Takes.units(takes.each()[t]));
    }
    double[] charge = new double[THINGS];
    Arrays.setAll(charge, thing -> 10 * thing);
    assertThat(table.charged(row, charge)).isEqualTo(charged(option, charge));
  }

  private static double charged(Option option, double[] charge) {
    double charged = option.value();
    for (int thing = 0; thing < THINGS; thing++) {
      charged += charge[thing] * option.takes().of(thing);
    }
    return charged;
  }
}
