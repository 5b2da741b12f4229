package dev.ordinator.core.orders;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.TaxRate;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Currency;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class ChargesTest {
  private static final TaxRate DUTCH = new TaxRate(2_100);
  private static final TaxRate DUTCH_FOOD = new TaxRate(900);

  @Test
  void taxIsFoundWithinPricesThatContainItAndPutOnThoseThatDont() {
    assertThat(DUTCH.within(eur(12_100))).isEqualTo(eur(2_100));
    assertThat(DUTCH.within(eur(999))).as("173.38 cents").isEqualTo(eur(173));
    assertThat(DUTCH.on(eur(10_000))).isEqualTo(eur(2_100));
    assertThat(new TaxRate(550).on(eur(1_000))).isEqualTo(eur(55));
    assertThat(TaxRate.NONE.within(eur(1_000))).isEqualTo(eur(0));
  }

  @Test
  void anOrdersDiscountIsSpreadByAmountAndShippingIsTaxedAsTheGoodsAre() {
    Charges charges =
        Charges.of(
            List.of(line(4_000, 2, 500, null, DUTCH), line(1_000, 1, 0, null, DUTCH_FOOD)),
            eur(850),
            eur(595),
            true);
    // 7,500 and 1,000 of 8,500
    assertThat(charges.lines().get(0).orderDiscount()).isEqualTo(eur(750));
    assertThat(charges.lines().get(1).orderDiscount()).isEqualTo(eur(100));
    assertThat(charges.lines().get(0).tax()).as("within 6,750").isEqualTo(eur(1_171));
    assertThat(charges.lines().get(1).tax()).as("within 900").isEqualTo(eur(74));
    assertThat(charges.shippingTax()).as("525 at 21 %, 70 at 9 %").isEqualTo(eur(91 + 6));
    assertThat(charges.total()).isEqualTo(eur(7_500 + 1_000 - 850 + 595));
  }

  @Test
  void shippingIsTaxedAndRoundedOnceForEachRateHoweverManyLinesThereAre() {
    List<Charges.Ordered> many = Collections.nCopies(150, line(100, 1, 0, null, DUTCH));
    assertThat(Charges.of(many, eur(0), eur(495), true).shippingTax())
        .as("21/121 of 4.95")
        .isEqualTo(eur(86));
    List<Charges.Ordered> mixed = new ArrayList<>(many);
    mixed.addAll(Collections.nCopies(150, line(100, 1, 0, null, DUTCH_FOOD)));
    assertThat(Charges.of(mixed, eur(0), eur(495), true).shippingTax())
        .as("2.48 at 21 %, 2.47 at 9 %")
        .isEqualTo(eur(43 + 20));
  }

  @Test
  void whatCostsNothingIsStillShippedForItsCharge() {
    Charges charges =
        Charges.of(
            List.of(line(0, 3, 0, null, DUTCH), line(0, 1, 0, null, DUTCH_FOOD)),
            eur(0),
            eur(400),
            true);
    assertThat(charges.total()).isEqualTo(eur(400));
    assertThat(charges.shippingTax()).as("3.00 at 21 %, 1.00 at 9 %").isEqualTo(eur(52 + 8));
  }

  @Test
  void pricesWithoutTaxGetItOnTopAndTheChannelsOwnTaxIsKept() {
    Charges charges =
        Charges.of(
            List.of(line(10_000, 1, 0, null, DUTCH), line(5_000, 1, 0, eur(7), DUTCH)),
            eur(0),
            eur(300),
            false);
    assertThat(charges.lines().get(1).tax()).isEqualTo(eur(7));
    assertThat(charges.tax()).isEqualTo(eur(2_100 + 7 + 63));
    assertThat(charges.total()).isEqualTo(eur(15_300 + 2_100 + 7 + 63));
  }

  @Test
  void aDiscountIsNeverLargerThanWhatItIsTakenFrom() {
    assertThatThrownBy(
            () -> Charges.of(List.of(line(100, 1, 101, null, DUTCH)), eur(0), eur(0), true))
        .hasMessageContaining("larger");
    assertThatThrownBy(
            () -> Charges.of(List.of(line(100, 1, 0, null, DUTCH)), eur(101), eur(0), true))
        .hasMessageContaining("larger");
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void partsAlwaysAddUpToTheWhole(long seed) {
    Random random = new Random(seed);
    String currency = List.of("EUR", "JPY", "KWD").get(random.nextInt(3));
    List<Charges.Ordered> lines = new ArrayList<>();
    long goods = 0;
    for (int i = 0; i <= random.nextInt(12); i++) {
      long price = random.nextLong(100_000);
      long quantity = 1 + random.nextLong(50);
      long discount = random.nextLong(price * quantity + 1);
      goods += price * quantity - discount;
      TaxRate rate = new TaxRate(100 * random.nextInt(30));
      lines.add(
          new Charges.Ordered(
              Money.of(price, currency), quantity, Money.of(discount, currency), null, rate));
    }
    Money discount = Money.of(random.nextLong(goods + 1), currency);
    Money shipping = Money.of(random.nextLong(5_000), currency);
    boolean withTax = random.nextBoolean();
    Charges charges = Charges.of(lines, discount, shipping, withTax);

    long amounts = charges.lines().stream().mapToLong(l -> l.amount().minor()).sum();
    assertThat(charges.lines().stream().mapToLong(l -> l.orderDiscount().minor()).sum())
        .as("seed %d", seed)
        .isEqualTo(discount.minor());
    assertThat(amounts).as("seed %d", seed).isEqualTo(goods - discount.minor());
    assertThat(charges.total().minor())
        .as("seed %d", seed)
        .isEqualTo(amounts + shipping.minor() + (withTax ? 0 : charges.tax().minor()));
    long rates = lines.stream().map(Charges.Ordered::rate).distinct().count();
    int highest = lines.stream().mapToInt(l -> l.rate().hundredths()).max().orElseThrow();
    assertThat(charges.shippingTax().minor())
        .as("seed %d: half a minor unit for each rate", seed)
        .isBetween(0L, new TaxRate(highest).on(shipping).minor() + rates);
    assertThat(charges.lines())
        .as("seed %d", seed)
        .allMatch(l -> l.amount().minor() >= 0 && l.tax().minor() <= l.amount().minor());
  }

  @Test
  void foreignAmountsAreConvertedAtTheirDaysRate() {
    LocalDate day = LocalDate.parse("2026-11-24");
    ExchangeRate francs =
        new ExchangeRate(currency("CHF"), currency("EUR"), new BigDecimal("1.0625"), day);
    assertThat(francs.convert(Money.of(10_000, "CHF"))).isEqualTo(eur(10_625));
    assertThat(francs.convert(Money.of(2, "CHF"))).as("2.125 cents").isEqualTo(eur(2));
    ExchangeRate yen =
        new ExchangeRate(currency("JPY"), currency("EUR"), new BigDecimal("0.0061"), day);
    assertThat(yen.convert(Money.of(1_000, "JPY"))).as("no minor unit there").isEqualTo(eur(610));
    assertThatThrownBy(() -> yen.convert(eur(1))).isInstanceOf(IllegalArgumentException.class);
  }

  private static IntStream seeds() {
    return IntStream.range(0, 200);
  }

  private static Currency currency(String code) {
    return Currency.getInstance(code);
  }

  private static Money eur(long cents) {
    return Money.of(cents, "EUR");
  }

  private static Charges.Ordered line(
      long price, long quantity, long discount, @Nullable Money tax, TaxRate rate) {
    return new Charges.Ordered(eur(price), quantity, eur(discount), tax, rate);
  }
}
