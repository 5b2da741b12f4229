package dev.ordinator.core.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.stock.LotPick.Held;
import dev.ordinator.core.stock.LotPick.Order;
import dev.ordinator.core.stock.LotPick.Rule;
import dev.ordinator.core.stock.LotPick.Taken;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Which lots a packer is sent to. */
class LotPickTest {
  private static final LocalDate TODAY = LocalDate.parse("2026-11-26");
  private static final Rule FEFO = new Rule(Order.FEFO, false, 0);

  @Test
  void whatExpiresFirstGoesFirstAndWhatCameFirstIfSoSet() {
    List<Held> lots = List.of(lot(1, 60, -10, 5), lot(2, 30, -5, 5), lot(3, 90, -20, 5));
    assertThat(LotPick.of(lots, 7, FEFO, TODAY))
        .hasValue(List.of(new Taken(2, 5), new Taken(1, 2)));
    assertThat(LotPick.of(lots, 7, new Rule(Order.FIFO, false, 0), TODAY))
        .hasValue(List.of(new Taken(3, 5), new Taken(1, 2)));
  }

  @Test
  void aLotMustLastLongEnoughAfterItArrives() {
    List<Held> lots = List.of(lot(1, 30, -5, 5), lot(2, 31, -5, 5));
    Rule month = new Rule(Order.FEFO, false, 28);
    assertThat(LotPick.of(lots, 1, month, TODAY.plusDays(2))).hasValue(List.of(new Taken(1, 1)));
    assertThat(LotPick.of(lots, 1, month, TODAY.plusDays(3))).hasValue(List.of(new Taken(2, 1)));
    assertThat(LotPick.of(lots, 1, month, TODAY.plusDays(4))).isEmpty();
    assertThat(LotPick.of(List.of(new Held(1, 1, null, TODAY, 1)), 1, month, TODAY.plusDays(900)))
        .as("what does not expire lasts")
        .isPresent();
  }

  @Test
  void oneLotIsPreferredOverTheOrderAndSeveralOverNone() {
    List<Held> lots =
        List.of(
            new Held(10, 1, TODAY.plusDays(30), TODAY, 3),
            new Held(20, 2, TODAY.plusDays(60), TODAY, 2),
            new Held(21, 2, TODAY.plusDays(60), TODAY, 4));
    Rule one = new Rule(Order.FEFO, true, 0);
    assertThat(LotPick.of(lots, 3, one, TODAY)).hasValue(List.of(new Taken(10, 3)));
    assertThat(LotPick.of(lots, 5, one, TODAY))
        .as("both bins of the second lot")
        .hasValue(List.of(new Taken(20, 2), new Taken(21, 3)));
    assertThat(LotPick.of(lots, 8, one, TODAY))
        .hasValue(List.of(new Taken(10, 3), new Taken(20, 2), new Taken(21, 3)));
  }

  @Test
  void itTakesExactlyWhatIsAskedNeverMoreThanThereIsAndSkipsNoLotThatGoesFirst() {
    for (long seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      List<Held> lots = new ArrayList<>();
      int places = 1 + random.nextInt(6);
      for (int p = 0; p < places; p++) {
        lots.add(
            new Held(
                p,
                p,
                TODAY.plusDays(random.nextInt(20)),
                TODAY.minusDays(random.nextInt(9)),
                random.nextInt(5)));
      }
      Rule rule = new Rule(Order.FEFO, random.nextInt(3) == 0, random.nextInt(10));
      long quantity = 1 + random.nextInt(8);
      long usable = lots.stream().filter(h -> lasts(h, rule)).mapToLong(Held::free).sum();
      var picked = LotPick.of(lots, quantity, rule, TODAY);
      assertThat(picked.isPresent()).as("seed %d", seed).isEqualTo(usable >= quantity);
      picked.ifPresent(taken -> verify(lots, taken, rule, quantity, random));
    }
  }

  private static void verify(
      List<Held> lots, List<Taken> taken, Rule rule, long quantity, Random random) {
    assertThat(taken.stream().mapToLong(Taken::units).sum()).isEqualTo(quantity);
    Map<Long, Long> units =
        taken.stream().collect(Collectors.toMap(Taken::place, Taken::units, Long::sum));
    units.forEach((place, n) -> {
      Held from = lots.get(place.intValue());
      assertThat(n).isBetween(1L, from.free());
      assertThat(lasts(from, rule)).isTrue();
    });
    if (!rule.oneLot()) {
      // whatever expires before the last one taken is empty now
      LocalDate last =
          units.keySet().stream()
              .map(p -> lots.get(p.intValue()).expires())
              .max(Comparator.nullsLast(Comparator.<LocalDate>naturalOrder()))
              .orElseThrow();
      lots.stream()
          .filter(h -> lasts(h, rule) && h.expires() != null && h.expires().isBefore(last))
          .forEach(h -> assertThat(units.getOrDefault(h.place(), 0L)).isEqualTo(h.free()));
    }
    List<Held> shuffled = new ArrayList<>(lots);
    Collections.shuffle(shuffled, random);
    assertThat(LotPick.of(shuffled, quantity, rule, TODAY)).hasValue(taken);
  }

  private static boolean lasts(Held h, Rule rule) {
    return h.expires() == null || !h.expires().isBefore(TODAY.plusDays(rule.minLife()));
  }

  private static Held lot(long id, int expiresIn, int came, long free) {
    return new Held(id, id, TODAY.plusDays(expiresIn), TODAY.plusDays(came), free);
  }
}
