package dev.ordinator.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MoneyTest {
  @Test
  void readsDecimalsIntoMinorUnitsOfTheCurrency() {
    assertThat(Money.parse("12.5", "EUR").minor()).isEqualTo(1250);
    assertThat(Money.parse("12.500", "EUR").minor()).isEqualTo(1250);
    assertThat(Money.parse("1200", "JPY").minor()).isEqualTo(1200);
    assertThat(Money.parse("-0.01", "EUR")).hasToString("-0.01 EUR");
  }

  @ParameterizedTest
  @ValueSource(strings = {"12.345", "abc", "", "1e99", "0.001"})
  void refusesWhatIsNoExactAmount(String text) {
    assertThatIllegalArgumentException()
        .isThrownBy(() -> Money.parse(text, "EUR"))
        .withMessageContaining(text);
  }

  @Test
  void differentCurrenciesDoNotAddUp() {
    assertThatIllegalArgumentException()
        .isThrownBy(() -> Money.of(1, "EUR").plus(Money.of(1, "CHF")));
  }

  @Test
  void theLargestRemaindersGetWhatIsLeft() {
    assertThat(Shares.split(100, 1, 1, 1)).containsExactly(34, 33, 33);
    assertThat(Shares.split(10, 5, 3, 2)).containsExactly(5, 3, 2);
    assertThat(Shares.split(-100, 1, 1, 1)).containsExactly(-34, -33, -33);
    assertThat(Shares.split(7, 0, 0)).containsExactly(4, 3);
  }

  @Test
  void partsAlwaysAddUpToTheWhole() {
    Random random = new Random(20261124);
    for (int round = 0; round < 5_000; round++) {
      long total = random.nextLong(-1_000_000_000L, 1_000_000_000L);
      long[] weights =
          random.longs(1 + random.nextInt(9), 0, 1L << (1 + random.nextInt(50))).toArray();
      long[] parts = Shares.split(total, weights);
      assertThat(Arrays.stream(parts).sum()).as("round %d", round).isEqualTo(total);
      double sum = Arrays.stream(weights).asDoubleStream().sum();
      for (int i = 0; i < parts.length && sum > 0; i++) {
        double exact = total * (weights[i] / sum);
        assertThat((double) parts[i])
            .as("round %d: no part is a unit or more off", round)
            .isBetween(exact - 1.001, exact + 1.001);
      }
    }
  }
}
