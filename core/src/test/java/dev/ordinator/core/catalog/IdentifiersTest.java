package dev.ordinator.core.catalog;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import dev.ordinator.core.dispatch.Sscc;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class IdentifiersTest {
  /** The worked example of the GS1 General Specifications, section 7.9.1. */
  @Test
  void theCheckDigitFollowsTheStandardsExample() {
    assertThat(Gs1.checkDigit("37610425002123456")).isEqualTo('9');
    assertThat(new Sscc("376104250021234569").digits()).hasSize(18);
  }

  @Test
  void aWrongDigitAnywhereIsNoticed() {
    String good = Gtin.withCheckDigit("400638133393").digits();
    assertThat(good).isEqualTo("4006381333931");
    for (int i = 0; i < good.length(); i++) {
      char other = good.charAt(i) == '9' ? '0' : (char) (good.charAt(i) + 1);
      String bad = good.substring(0, i) + other + good.substring(i + 1);
      assertThatIllegalArgumentException().isThrownBy(() -> new Gtin(bad));
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "123", "40063813339310000", "4006381333x31"})
  void aGtinHasItsLengthAndDigitsOnly(String text) {
    assertThatIllegalArgumentException().isThrownBy(() -> new Gtin(text));
  }

  @Test
  void ssccsCarryPrefixAndSerial() {
    assertThat(Sscc.of("8712345", 42).digits()).startsWith("08712345").contains("00000004");
    assertThatIllegalArgumentException().isThrownBy(() -> Sscc.of("8712345", 1_000_000_000L));
  }
}
