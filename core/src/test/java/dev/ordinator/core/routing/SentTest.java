package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.catalog.Item;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** What is sent, through many gifts that are taken back, last first or in any order. */
class SentTest {
  private static final int SOURCES = 5;

  /** Two of its lines ask for the same. */
  private static final List<OrderDemand.Line> LINES =
      List.of(line("L1", "MUG"), line("L2", "BOWL"), line("L3", "MUG"));

  private final Random random = new Random(53);
  private final Basket basket = new Basket(LINES, new Policy(1, 1, 1, 1, 5_000));
  private final Sent sent = new Sent(basket, SOURCES);
  private final List<Given> given = new ArrayList<>();

  private record Given(int source, int line, long units) {}

  @Test
  void sumsAreOfWhatIsGivenAndNotTakenBack() {
    for (int move = 0; move < 5_000; move++) {
      if (random.nextInt(SOURCES * LINES.size()) >= given.size()) {
        giveAny();
      } else {
        Given back = given.remove(random.nextInt(given.size()));
        sent.take(back.source(), back.line());
      }
      assertThat(senders()).isEqualTo(List.copyOf(expected().keySet()));
      expected()
          .forEach((s, units) -> {
            assertThat(sent.sends(s)).isTrue();
            assertThat(sent.units(s)).isEqualTo(units);
            assertThat(sent.unitsByItem(s)).containsExactly(units[0] + units[2], units[1]);
          });
      assertThat(sent.all()).containsExactly(of("MUG"), of("BOWL"));
      assertThat(sent.allUnits()).isEqualTo(of("MUG") + of("BOWL"));
    }
  }

  @Test
  void whatIsTakenBackLastFirstLeavesNothing() {
    Deque<Given> stack = new ArrayDeque<>();
    for (int some = 0; some < SOURCES * LINES.size(); some++) {
      stack.push(giveAny());
    }
    assertThat(sent.consignments()).isEqualTo(SOURCES);
    while (!stack.isEmpty()) {
      Given back = stack.pop();
      sent.take(back.source(), back.line());
    }
    assertThat(sent.consignments()).isZero();
    assertThat(sent.all()).containsOnly(0);
  }

  /** Some of a line from a source that sends none of it. */
  private Given giveAny() {
    List<Given> possible = new ArrayList<>();
    for (int s = 0; s < SOURCES; s++) {
      for (int l = 0; l < LINES.size(); l++) {
        int source = s;
        int line = l;
        if (given.stream().noneMatch(g -> g.source() == source && g.line() == line)) {
          possible.add(new Given(s, l, 1 + random.nextInt(9)));
        }
      }
    }
    Given some = possible.get(random.nextInt(possible.size()));
    sent.give(some.source(), some.line(), some.units());
    given.add(some);
    return some;
  }

  /** Units by line, by those that send some, in listed order. */
  private TreeMap<Integer, long[]> expected() {
    TreeMap<Integer, long[]> bySource = new TreeMap<>();
    for (Given some : given) {
      bySource.computeIfAbsent(some.source(), s -> new long[LINES.size()])[some.line()] +=
          some.units();
    }
    return bySource;
  }

  private long of(String sku) {
    return given.stream()
        .filter(g -> LINES.get(g.line()).item().sku().equals(sku))
        .mapToLong(Given::units)
        .sum();
  }

  private List<Integer> senders() {
    List<Integer> senders = new ArrayList<>();
    for (int c = 0; c < sent.consignments(); c++) {
      senders.add(sent.sender(c));
    }
    return senders;
  }

  private static OrderDemand.Line line(String id, String sku) {
    return new OrderDemand.Line(id, new Item(sku, 100, 100, null, Set.of()), 100);
  }
}
