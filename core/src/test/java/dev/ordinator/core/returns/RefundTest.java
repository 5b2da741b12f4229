package dev.ordinator.core.returns;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.money.Money;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RefundTest {

  @Test
  void oneOfThreeUnitsThatCostTenTogetherIsItsShareAndTheLastTakesWhatRemains() {
    Bought.Line line = new Bought.Line("1", 3, eur(1000), 0, eur(0));
    assertThat(refundOne(line)).isEqualTo(eur(333));
    assertThat(refundOne(new Bought.Line("1", 3, eur(1000), 1, eur(333)))).isEqualTo(eur(334));
    assertThat(refundOne(new Bought.Line("1", 3, eur(1000), 2, eur(667)))).isEqualTo(eur(333));
  }

  @Test
  void aRestockingFeeIsKeptBackAndShippingPaidBackAsFarAsChosen() {
    Refund refund =
        Refund.of(
            bought(eur(500), List.of(new Bought.Line("1", 2, eur(4000), 0, eur(0)))),
            new Refund.Asked(Map.of("1", 1L), eur(200), eur(0), eur(150)));
    assertThat(refund.total()).isEqualTo(eur(2050));
    assertThat(refund.lines()).containsExactly(Map.entry("1", eur(2000)));
  }

  @Test
  void itGoesBackTheWayItCameInProportion() {
    Bought bought =
        new Bought(
            List.of(new Bought.Line("1", 1, eur(10000), 0, eur(0))),
            eur(0),
            eur(0),
            eur(0),
            List.of(
                new Bought.Tender("card", eur(7500), eur(0)),
                new Bought.Tender("voucher", eur(2500), eur(2500)),
                new Bought.Tender("credit", eur(2500), eur(0))));
    Refund refund = Refund.of(bought, new Refund.Asked(Map.of("1", 1L), eur(0), eur(0), eur(0)));
    assertThat(refund.tenders()).isEqualTo(Map.of("card", eur(7500), "credit", eur(2500)));
  }

  @Test
  void forCancelledUnitsTheirPartIsOwedUntilItWasPaidBackAndNeverMoreThanCameIn() {
    List<Bought.Line> lines = List.of(new Bought.Line("1", 3, eur(3000), 1, eur(1000)));
    Bought all =
        new Bought(
            lines,
            eur(0),
            eur(0),
            eur(0),
            List.of(new Bought.Tender("card", eur(3000), eur(1000))));
    assertThat(Refund.owedFor(Map.of("1", 3L), all)).isEqualTo(eur(2000));
    assertThat(Refund.owedFor(Map.of("1", 1L), all)).as("it is paid back").isEqualTo(eur(0));
    assertThat(Refund.owedFor(Map.of(), all)).isEqualTo(eur(0));
    Bought little =
        new Bought(
            lines,
            eur(0),
            eur(0),
            eur(0),
            List.of(new Bought.Tender("card", eur(1500), eur(1000))));
    assertThat(Refund.owedFor(Map.of("1", 3L), little)).isEqualTo(eur(500));
  }

  @Test
  void whatWasKeptAsAFeeWasNotPaidTooMuch() {
    Bought bought =
        new Bought(
            List.of(new Bought.Line("1", 2, eur(2000), 1, eur(1000))),
            eur(0),
            eur(0),
            eur(150),
            List.of(new Bought.Tender("card", eur(2000), eur(850))));
    assertThat(bought.left()).isEqualTo(eur(1150));
    assertThat(bought.excess()).isEqualTo(eur(0));
  }

  @Test
  void moreThanWasBoughtPaidOrCapturedIsRefused() {
    List<Bought.Line> lines = List.of(new Bought.Line("1", 2, eur(4000), 1, eur(2000)));
    assertRefused(bought(eur(500), lines), Map.of("1", 2L), 0, 0, "1 units can be refunded");
    assertRefused(bought(eur(500), lines), Map.of("7", 1L), 0, 0, "line 7 was not bought");
    assertRefused(bought(eur(500), lines), Map.of(), 501, 0, "only 5.00 EUR of the shipping");
    assertRefused(bought(eur(500), lines), Map.of(), 0, 0, "nothing is left");
    assertRefused(bought(eur(500), lines), Map.of("1", 1L), 0, 2000, "nothing is left");
    assertRefused(bought(eur(500), lines), Map.of("1", 1L), 0, -1, "negative");
    Bought unpaid =
        new Bought(
            lines, eur(500), eur(0), eur(0), List.of(new Bought.Tender("card", eur(0), eur(0))));
    assertRefused(unpaid, Map.of("1", 1L), 0, 0, "more than the 0.00 EUR that came in");
  }

  @Test
  void whatWasPaidTooMuchIsPaidBackThoughItBelongsToNoLine() {
    Bought bought =
        new Bought(
            List.of(new Bought.Line("1", 1, eur(1000), 0, eur(0))),
            eur(500),
            eur(0),
            eur(0),
            List.of(new Bought.Tender("card", eur(2500), eur(0))));
    assertThat(bought.excess()).isEqualTo(eur(1000));
    Refund refund = Refund.of(bought, new Refund.Asked(Map.of(), eur(0), eur(1000), eur(0)));
    assertThat(refund.total()).isEqualTo(eur(1000));
    assertThat(refund.tenders()).isEqualTo(Map.of("card", eur(1000)));
    assertThatThrownBy(
            () -> Refund.of(bought, new Refund.Asked(Map.of(), eur(0), eur(1001), eur(0))))
        .hasMessageContaining("only 10.00 EUR was paid too much");
  }

  /**
   * Whatever is refunded in whatever steps: parts add up, nothing more than came in, and all of it
   * in the end.
   */
  @Test
  void inAnyStepsALineIsPaidBackExactly() {
    for (long seed = 0; seed < 500; seed++) {
      Random random = new Random(seed);
      long units = 1 + random.nextInt(9);
      long paid = units + random.nextInt(100_000);
      long shipping = random.nextInt(1_000);
      Map<String, Long> back = new HashMap<>();
      long first = random.nextLong(paid + shipping + 1);
      List<Bought.Tender> tenders =
          List.of(
              new Bought.Tender("a", eur(first), eur(0)),
              new Bought.Tender("b", eur(paid + shipping - first), eur(0)));
      long unitsBack = 0;
      long lineBack = 0;
      long shippingBack = 0;
      while (unitsBack < units) {
        long some = 1 + random.nextLong(units - unitsBack);
        long ofShipping = random.nextLong(shipping - shippingBack + 1);
        List<Bought.Tender> now = new ArrayList<>();
        tenders.forEach(t ->
            now.add(new Bought.Tender(t.id(), t.captured(), eur(back.getOrDefault(t.id(), 0L)))));
        Refund refund =
            Refund.of(
                new Bought(
                    List.of(new Bought.Line("1", units, eur(paid), unitsBack, eur(lineBack))),
                    eur(shipping),
                    eur(shippingBack),
                    eur(0),
                    now),
                new Refund.Asked(Map.of("1", some), eur(ofShipping), eur(0), eur(0)));
        refund.tenders().forEach((t, amount) -> back.merge(t, amount.minor(), Long::sum));
        assertThat(refund.tenders().values().stream().mapToLong(Money::minor).sum())
            .as("seed %d", seed)
            .isEqualTo(refund.total().minor());
        unitsBack += some;
        lineBack += refund.lines().values().iterator().next().minor();
        shippingBack += ofShipping;
        for (Bought.Tender tender : tenders) {
          assertThat(back.getOrDefault(tender.id(), 0L))
              .as("seed %d, tender %s", seed, tender.id())
              .isLessThanOrEqualTo(tender.captured().minor());
        }
      }
      assertThat(lineBack).as("seed %d", seed).isEqualTo(paid);
    }
  }

  private static Money refundOne(Bought.Line line) {
    return Refund.of(
            bought(eur(0), List.of(line)),
            new Refund.Asked(Map.of("1", 1L), eur(0), eur(0), eur(0)))
        .total();
  }

  private static void assertRefused(
      Bought bought, Map<String, Long> units, long shipping, long fee, String why) {
    assertThatThrownBy(
            () -> Refund.of(bought, new Refund.Asked(units, eur(shipping), eur(0), eur(fee))))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(why);
  }

  private static Bought bought(Money shipping, List<Bought.Line> lines) {
    return new Bought(
        lines, shipping, eur(0), eur(0), List.of(new Bought.Tender("card", eur(9999), eur(0))));
  }

  private static Money eur(long minor) {
    return Money.of(minor, "EUR");
  }
}
