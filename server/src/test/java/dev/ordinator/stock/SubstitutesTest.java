package dev.ordinator.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.Substitutes.Price;
import dev.ordinator.stock.Substitutes.Substitute;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How dear an item may be that is sent in place of one at 10.00. */
class SubstitutesTest {
  @ParameterizedTest
  @CsvSource({
    "ANY, 0, 99999, true",
    "SAME, 0, 1000, true",
    "SAME, 0, 999, false",
    "CHEAPER, 0, 999, true",
    "CHEAPER, 0, 1000, false",
    "NO_DEARER, 0, 1000, true",
    "NO_DEARER, 0, 1001, false",
    "UP_TO, 10, 1100, true",
    "UP_TO, 10, 1101, false",
  })
  void fitsByItsPriceRule(Price price, int percent, long listPrice, boolean fits) {
    assertThat(new Substitute(1, "B", "b", listPrice, price, percent).fits(1000)).isEqualTo(fits);
  }
}
