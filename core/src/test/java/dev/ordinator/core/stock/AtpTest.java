package dev.ordinator.core.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.stock.Atp.Commitment;
import dev.ordinator.core.stock.Atp.RunningOut;
import dev.ordinator.core.stock.Atp.Supply;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
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
    assertThat(Atp.of(0, List.of(new Supply(-1, 9, 100, 1)), List.of(), 30).promise(1))
        .as("nobody knows when what is overdue comes")
        .isEmpty();
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

  @Test
  void whatRunsOutIsPromisedUntilItsDayAndNoLonger() {
    List<RunningOut> lots = List.of(new RunningOut(3, 10), new RunningOut(20, 5));
    Atp atp = Atp.of(15, lots, List.of(), List.of(), 30);
    assertThat(atp.at(0)).isEqualTo(15);
    assertThat(atp.at(3)).isEqualTo(15);
    assertThat(atp.at(4)).isEqualTo(5);
    assertThat(atp.at(21)).isZero();
    Atp spoken = Atp.of(15, lots, List.of(), List.of(new Commitment(5, 4)), 30);
    assertThat(spoken.at(0)).as("four of what lasts are spoken for").isEqualTo(11);
    assertThat(spoken.at(4)).isEqualTo(1);
    Atp kept = Atp.of(6, lots, List.of(), List.of(), 30);
    assertThat(kept.at(0)).as("nine are kept for safety or others").isEqualTo(6);
    assertThat(kept.at(4)).isEqualTo(5);
  }

  @Test
  void promisesOfWhatRunsOutEqualTheBestMatchingOfUnitsToNeeds() {
    Random random = new Random(23);
    for (int i = 0; i < 2_000; i++) {
      int days = 2 + random.nextInt(7);
      List<RunningOut> lots = new ArrayList<>();
      List<Supply> supplies = new ArrayList<>();
      List<Commitment> commitments = new ArrayList<>();
      for (int n = random.nextInt(4); n > 0; n--) {
        lots.add(new RunningOut(random.nextInt(days + 2), random.nextInt(4)));
        supplies.add(new Supply(random.nextInt(days + 1), random.nextInt(4), 100, 0));
        commitments.add(new Commitment(random.nextInt(days), random.nextInt(4)));
      }
      long free = lots.stream().mapToLong(RunningOut::quantity).sum() + random.nextInt(4);
      Atp atp = Atp.of(free, lots, supplies, commitments, days);
      for (int day = 0; day < days; day++) {
        assertThat(atp.at(day))
            .as("case %d, day %d: %s %s %s %s", i, day, free, lots, supplies, commitments)
            .isEqualTo(matched(free, lots, supplies, commitments, days, day));
      }
    }
  }

  /** When a unit is there and when it is needed, first and last day. */
  private record Span(int from, int to) {
    boolean meets(Span other) {
      return from <= other.to && other.from <= to;
    }
  }

  /** How many more needs of a day can be matched with units if all that are due are. */
  private static long matched(
      long free,
      List<RunningOut> lots,
      List<Supply> supplies,
      List<Commitment> commitments,
      int days,
      int day) {
    List<Span> units = new ArrayList<>();
    long lasting = free;
    for (RunningOut lot : lots) {
      units.addAll(Collections.nCopies((int) lot.quantity(), new Span(0, lot.lastDay())));
      lasting -= lot.quantity();
    }
    units.addAll(Collections.nCopies((int) lasting, new Span(0, days)));
    supplies.forEach(
        s -> units.addAll(Collections.nCopies((int) s.quantity(), new Span(s.day(), days))));
    List<Span> needs = new ArrayList<>();
    commitments.forEach(c ->
        needs.addAll(
            Collections.nCopies((int) c.quantity(), new Span(c.day(), Math.max(day, c.day())))));
    long more = 0;
    while (fits(units, needs)) {
      needs.add(new Span(day, day));
      more++;
    }
    return Math.max(0, more - 1);
  }

  /** Kuhn's algorithm: whether each need can have a unit of its own. */
  private static boolean fits(List<Span> units, List<Span> needs) {
    int[] needOf = new int[units.size()];
    Arrays.fill(needOf, -1);
    for (int need = 0; need < needs.size(); need++) {
      if (!give(need, units, needs, needOf, new boolean[units.size()])) {
        return false;
      }
    }
    return true;
  }

  private static boolean give(
      int need, List<Span> units, List<Span> needs, int[] needOf, boolean[] tried) {
    for (int unit = 0; unit < units.size(); unit++) {
      if (!tried[unit] && units.get(unit).meets(needs.get(need))) {
        tried[unit] = true;
        if (needOf[unit] < 0 || give(needOf[unit], units, needs, needOf, tried)) {
          needOf[unit] = need;
          return true;
        }
      }
    }
    return false;
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
              s.day() >= 0 && s.day() + s.slipDays() <= later
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
