package dev.ordinator.core.orders;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Currency;
import org.junit.jupiter.api.Test;

class ProceedsTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 26);

  @Test
  void taxAndWhatTheChannelKeepsAreNotOurs() {
    // 120.00 with 20.00 tax; 12.5 % of 120.00 and 0.35 stay with the channel
    assertThat(new Proceeds(pounds(12_000), pounds(2_000), 1_250, pounds(35)).net())
        .isEqualTo(pounds(12_000 - 2_000 - 1_500 - 35));
  }

  @Test
  void aFeeIsRoundedAndThatOfWhatGoesBackTheSameWay() {
    assertThat(new Proceeds(pounds(50), pounds(0), 100, pounds(0)).net()).isEqualTo(pounds(49));
    assertThat(new Proceeds(pounds(49), pounds(0), 100, pounds(0)).net()).isEqualTo(pounds(49));
    assertThat(new Proceeds(pounds(-50), pounds(0), 100, pounds(0)).net()).isEqualTo(pounds(-49));
  }

  @Test
  void goodsArePaidInTheCurrencyThatTheRateLeadsTo() {
    ExchangeRate rate =
        new ExchangeRate(
            Currency.getInstance("GBP"), Currency.getInstance("EUR"), new BigDecimal("1.2"), DAY);
    assertThat(
            new Proceeds(pounds(10_000), pounds(0), 0, pounds(0))
                .less(Money.of(7_500, "EUR"), rate))
        .isEqualTo(Money.of(4_500, "EUR"));
  }

  private static Money pounds(long minor) {
    return Money.of(minor, "GBP");
  }
}
