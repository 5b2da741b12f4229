package dev.ordinator.core.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.stock.Atp.Supply;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** When those who wait are served. */
class SupplyQueueTest {
  private static final int DAYS = 30;

  @Test
  void eachWaitsForTheSupplyThatReachesThem() {
    Atp supply =
        Atp.of(2, List.of(new Supply(5, 4, 100, 0), new Supply(9, 10, 50, 1)), List.of(), DAYS);
    assertThat(SupplyQueue.days(supply, List.of(2L, 3L, 1L, 2L, 9L)))
        .containsExactly(
            OptionalInt.of(0),
            OptionalInt.of(5),
            OptionalInt.of(5),
            OptionalInt.of(10),
            OptionalInt.empty());
  }

  @Test
  void itEqualsServingThemDayByDayAndALaterSupplyServesNobodySooner() {
    for (long seed = 0; seed < 1_000; seed++) {
      Random random = new Random(seed);
      List<Supply> supplies = new ArrayList<>();
      for (int i = random.nextInt(4); i >= 0; i--) {
        supplies.add(new Supply(random.nextInt(20), random.nextInt(9), 100, random.nextInt(3)));
      }
      long free = random.nextInt(5);
      List<Long> needs = random.longs(1 + random.nextInt(6), 1, 6).boxed().toList();
      List<OptionalInt> days = SupplyQueue.days(Atp.of(free, supplies, List.of(), DAYS), needs);
      assertThat(days).as("seed %d", seed).isEqualTo(served(free, supplies, needs));

      List<Supply> slipped = new ArrayList<>(supplies);
      Supply first = slipped.removeFirst();
      slipped.add(new Supply(first.day() + 4, first.quantity(), 100, first.slipDays()));
      List<OptionalInt> after = SupplyQueue.days(Atp.of(free, slipped, List.of(), DAYS), needs);
      for (int i = 0; i < needs.size(); i++) {
        assertThat(after.get(i).orElse(DAYS)).isGreaterThanOrEqualTo(days.get(i).orElse(DAYS));
      }
    }
  }

  /** Each day what came goes to who is first, who keeps it until there is enough. */
  private static List<OptionalInt> served(long free, List<Supply> supplies, List<Long> needs) {
    List<OptionalInt> days = new ArrayList<>();
    long there = free;
    for (int day = 0; day < DAYS; day++) {
      int today = day;
      there +=
          supplies.stream().filter(s -> s.countedFrom() == today).mapToLong(Supply::quantity).sum();
      while (days.size() < needs.size() && there >= needs.get(days.size())) {
        there -= needs.get(days.size());
        days.add(OptionalInt.of(day));
      }
    }
    while (days.size() < needs.size()) {
      days.add(OptionalInt.empty());
    }
    return days;
  }
}
