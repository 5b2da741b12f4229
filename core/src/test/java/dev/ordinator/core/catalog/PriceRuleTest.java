package dev.ordinator.core.catalog;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.catalog.PriceRule.Ending;
import dev.ordinator.core.catalog.PriceRule.Priced;
import dev.ordinator.core.catalog.PriceRule.Terms;
import java.util.Random;
import org.junit.jupiter.api.Test;

class PriceRuleTest {
  private static final Terms PLAIN = new Terms(0, 0);
  private static final Terms KESTREL = new Terms(2_100, 1_200);

  @Test
  void costPlusMarkupPlusAmountWithTaxRaisedToItsEnding() {
    PriceRule rule = new PriceRule(4_000, 100, Ending.NINETY_FIVE, 0);
    // 10.00 + 40 % + 1.00 = 15.00, with 21 % tax 18.15, ends with .95
    assertThat(rule.price(1_000, new Terms(2_100, 0)).price()).isEqualTo(1_895);
    assertThat(new PriceRule(4_000, 100, Ending.EXACT, 0).price(1_000, PLAIN))
        .isEqualTo(new Priced(1_500, 500, 3_333, false));
  }

  @Test
  void endingsRaiseAndNeverLower() {
    for (Ending ending : Ending.values()) {
      for (long price = 0; price < 1_000; price++) {
        assertThat(ending.raise(price)).as("%s of %d", ending, price).isBetween(price, price + 99);
        assertThat(ending.raise(ending.raise(price))).isEqualTo(ending.raise(price));
      }
    }
    assertThat(Ending.NINETY_NINE.raise(1_000)).isEqualTo(1_099);
    assertThat(Ending.NINETY_NINE.raise(1_099)).isEqualTo(1_099);
    assertThat(Ending.TENTH.raise(1_001)).isEqualTo(1_010);
  }

  @Test
  void theFloorMakesItDearerAndNoDearerThanItMust() {
    Random random = new Random(7);
    for (int i = 0; i < 20_000; i++) {
      PriceRule rule =
          new PriceRule(
              random.nextInt(8_000),
              random.nextInt(300),
              Ending.values()[random.nextInt(Ending.values().length)],
              random.nextInt(5_000));
      Terms terms = new Terms(random.nextInt(2_700), random.nextInt(2_000));
      long cost = random.nextInt(50_000);
      Priced priced = rule.price(cost, terms);
      assertThat(priced.marginHundredths())
          .as("case %d: %s, %s, cost %d", i, rule, terms, cost)
          .isGreaterThanOrEqualTo(priced.price() == 0 ? 0 : rule.floorHundredths());
      assertThat(rule.ending().raise(priced.price())).isEqualTo(priced.price());
      PriceRule floorless = new PriceRule(rule.markupHundredths(), rule.plus(), rule.ending(), 0);
      long step = rule.ending() == Ending.EXACT ? 1 : rule.ending() == Ending.TENTH ? 10 : 100;
      long cheaper = priced.price() - step;
      if (priced.raised() && cheaper >= 0) {
        // a cent's rounding may go either way
        assertThat(PriceRule.earned(cheaper, cost, terms).margin() * 10_000)
            .as("case %d: one step cheaper breaks the floor", i)
            .isLessThan(terms.net(cheaper) * rule.floorHundredths() + 20_000);
      }
      assertThat(priced.price()).isGreaterThanOrEqualTo(Math.min(priced.price(), floorless.plus()));
    }
  }

  @Test
  void whatTheChannelKeepsAndTheTaxAreNotEarned() {
    Priced priced = PriceRule.earned(1_895, 1_000, KESTREL);
    // 18.95 without tax 15.66, less 12 % of 18.95, less 10.00
    assertThat(priced.margin()).isEqualTo(1_566 - 227 - 1_000);
    assertThat(priced.marginHundredths()).isEqualTo(339 * 10_000 / 1_566);
  }

  @Test
  void aFloorThatNoPriceKeepsIsSaid() {
    PriceRule greedy = new PriceRule(0, 0, Ending.EXACT, 9_000);
    assertThatThrownBy(() -> greedy.price(1_000, new Terms(2_100, 1_500)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("no price keeps that margin");
  }
}
