package dev.ordinator.core.money;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Currency;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RoundingTest {
  private static final LocalDate DAY = LocalDate.of(2026, 12, 1);

  @Test
  void aHalfGoesAwayFromZeroSoThatARefundRoundsAsItsPaymentDid() {
    assertThat(Rounding.minor(new BigDecimal("2.5"))).isEqualTo(3);
    assertThat(Rounding.minor(new BigDecimal("-2.5"))).isEqualTo(-3);
    assertThat(Rounding.share(5, 1, 2)).isEqualTo(3);
    assertThat(Rounding.share(-5, 1, 2)).isEqualTo(-3);
    Random random = new Random(5);
    for (int i = 0; i < 1_000; i++) {
      Money amount = Money.of(random.nextInt(1_000_000), "EUR");
      TaxRate rate = new TaxRate(random.nextInt(10_001));
      assertThat(rate.within(amount.times(-1))).isEqualTo(rate.within(amount).times(-1));
      assertThat(rate.on(amount.times(-1))).isEqualTo(rate.on(amount).times(-1));
    }
  }

  @Test
  void amountsOfCurrenciesWithOtherDecimalsAreConvertedThereAndBack() {
    ExchangeRate yen =
        new ExchangeRate(
            Currency.getInstance("JPY"),
            Currency.getInstance("EUR"),
            new BigDecimal("0.0061"),
            DAY);
    assertThat(yen.convert(Money.of(1_000, "JPY"))).isEqualTo(Money.of(610, "EUR"));
    assertThat(yen.convertBack(Money.of(610, "EUR"))).isEqualTo(Money.of(1_000, "JPY"));
    ExchangeRate dinar =
        new ExchangeRate(
            Currency.getInstance("KWD"), Currency.getInstance("EUR"), new BigDecimal("2.95"), DAY);
    assertThat(dinar.convertBack(Money.of(295, "EUR"))).isEqualTo(Money.of(1_000, "KWD"));
  }
}
