package dev.ordinator.core.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.stock.Atp.Commitment;
import dev.ordinator.core.stock.Atp.Supply;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import org.junit.jupiter.api.Test;

class AtpTest {
  @Test
  void whatIsPromisedForALaterDayIsNotPromisedAgainForAnEarlierOne() {
    Atp atp = Atp.of(10, List.of(new Supply(5, 20, 100, 0)), List.of(new Commitment(3, 8)), 30);
    assertThat(atp.at(0)).as("eight of the ten are spoken for on day 3").isEqualTo(2);
    assertThat(atp.at(5)).isEqualTo(22);
    assertThat(atp.promise(2)).hasValue(0);
    assertThat(atp.promise(3)).hasValue(5);
    assertThat(atp.promise(23)).isEmpty();
  }

  @Test
  void anUncertainSupplyCountsInPartAndAssumedLate() {
    Atp atp = Atp.of(0, List.of(new Supply(5, 9, 50, 2)), List.of(), 30);
    assertThat(atp.at(6)).isZero();
    assertThat(atp.at(7)).isEqualTo(4);
    assertThat(Atp.of(0, List.of(new Supply(-4, 9, 100, 1)), List.of(), 30).promise(9))
        .as("what is overdue is counted from today, and late all the same")
        .hasValue(1);
  }

  @Test
  void whatIsOwedAlreadyComesFirst() {
    Atp atp = Atp.of(-5, List.of(new Supply(2, 8, 100, 0)), List.of(), 10);
    assertThat(atp.at(0)).isZero();
    assertThat(atp.at(2)).isEqualTo(3);
  }

  @Test
  void promisesEqualAnExhaustiveSearch() {
    Random random = new Random(11);
    for (int i = 0; i < 5_000; i++) {
      int days = 1 + random.nextInt(12);
      long free = random.nextInt(20) - 4;
      List<Supply> supplies = new ArrayList<>();
      List<Commitment> commitments = new ArrayList<>();
      for (int n = random.nextInt(4); n > 0; n--) {
        supplies.add(
            new Supply(
                random.nextInt(14) - 2,
                random.nextInt(15),
                random.nextInt(101),
                random.nextInt(3)));
        commitments.add(new Commitment(random.nextInt(14) - 2, random.nextInt(9)));
      }
      Atp atp = Atp.of(free, supplies, commitments, days);
      for (long quantity = 1; quantity < 25; quantity++) {
        assertThat(atp.promise(quantity))
            .as("case %d, %d units", i, quantity)
            .isEqualTo(searched(free, supplies, commitments, days, quantity));
      }
    }
  }

  /** The first day on which a further commitment of that many leaves no later day below zero. */
  private static OptionalInt searched(
      long free, List<Supply> supplies, List<Commitment> commitments, int days, long quantity) {
    for (int day = 0; day < days; day++) {
      boolean fits = true;
      for (int later = day; later < days; later++) {
        long there = free;
        for (Supply s : supplies) {
          there +=
              Math.max(0, s.day()) + s.slipDays() <= later
                  ? s.quantity() * s.confidencePercent() / 100
                  : 0;
        }
        for (Commitment c : commitments) {
          there -= c.day() <= later ? c.quantity() : 0;
        }
        fits &= there >= quantity;
      }
      if (fits) {
        return OptionalInt.of(day);
      }
    }
    return OptionalInt.empty();
  }
}
