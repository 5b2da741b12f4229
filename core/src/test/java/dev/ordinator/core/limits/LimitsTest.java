package dev.ordinator.core.limits;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LimitsTest {
  @ParameterizedTest
  @CsvSource({"12.50, 12.50", "-3, -3", "1.25E2, 125", "0.30000000000000004, 0.30000000000000004"})
  void numbersAreReadAsTheyAre(String text, String number) {
    assertThat(Limits.decimal(text)).isEqualByComparingTo(number);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1e999999999",
        "1e-999999999",
        "1e999",
        "1e-99",
        "1234567890123456789",
        "12,5",
        "1_000",
        "0x10",
        "NaN",
        "Infinity",
        "١٢",
        "",
        "."
      })
  void whatIsNoNumberOrTooLargeOneIsRefusedBeforeAnythingIsDoneWithIt(String text) {
    assertThatThrownBy(() -> Limits.decimal(text)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void daysFarOffAreNotBelieved() {
    assertThat(Limits.holds(LocalDate.of(2026, 12, 1))).isTrue();
    assertThat(Limits.holds(LocalDate.of(20261, 12, 1))).isFalse();
    assertThat(Limits.holds(LocalDate.of(202, 12, 1))).isFalse();
  }
}
