package dev.ordinator.rates;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** What is asked about before it becomes a rate, and how a wrong one is put right. */
class ExchangeRatesTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static final LocalDate TODAY = LocalDate.now(ZoneId.of("Europe/Amsterdam"));

  @Test
  void whatCanBeNoRateIsRefusedWithItsPlace() {
    assertThat(refused("NOK", TODAY.plusDays(3), "0.0850")).isEqualTo("day");
    assertThat(refused("EUR", TODAY, "1")).as("our own currency").isEqualTo("currency");
    assertThat(refused("NOK", LocalDate.of(1, 1, 1), "0.0850")).isEqualTo("day");
    assertThat(field(here.mara().change("PUT", "/api/rates/NOK/" + TODAY, Map.of("sure", true))))
        .isEqualTo("rate");
    assertThat(refused("NOK", TODAY, "0")).isEqualTo("rate");
    assertThat(refused("NOK", TODAY, "1E+999999999")).isEqualTo("rate");
    assertThat(refused("NOK", TODAY, "1E+2147483647")).isEqualTo("rate");
    assertThat(field(read("NOK,%s,0.0850\nNOK,%1$s,0.0851\n".formatted(TODAY), false)))
        .as("a day twice")
        .isEqualTo("row 3");
    assertThat(field(read("XYZ,%s,0.0850\n".formatted(TODAY), false))).isEqualTo("row 2");
    assertThat(known("NOK")).isZero();
  }

  @Test
  void aRateFarFromTheLastIsTakenWhenAPersonSaysThatItIsRight() {
    assertThat(read("HUF,%s,0.0025\n".formatted(TODAY.minusDays(2)), false).status())
        .isEqualTo(200);
    String upsideDown = "HUF,%s,400\n".formatted(TODAY.minusDays(1));
    assertThat(field(read(upsideDown, false))).isEqualTo("leap");
    assertThat(known("HUF")).isEqualTo(1);
    assertThat(read(upsideDown, true).status()).isEqualTo(200);
    assertThat(known("HUF")).isEqualTo(2);
  }

  @Test
  void aDecimalCommaIsReadAsOneAndAWrongRateIsCorrectedAndDeleted() {
    assertThat(
            here.mara()
                .postText(
                    "/api/rates",
                    "text/csv",
                    "sep=;\nday;currency;rate\n%s;CZK;0,0402\n".formatted(TODAY.minusDays(3)))
                .status())
        .isEqualTo(200);
    assertThat(rate("CZK")).isEqualTo("0.0402");
    String path = "/api/rates/CZK/" + TODAY.minusDays(3);
    assertThat(here.mara().change("PUT", path, Map.of("rate", 0.0412, "sure", false)).status())
        .isEqualTo(204);
    assertThat(rate("CZK")).isEqualTo("0.0412");
    assertThat(here.mara().change("DELETE", path, Map.of()).status()).isEqualTo(204);
    assertThat(here.mara().change("DELETE", path, Map.of()).status()).isEqualTo(404);
    assertThat(known("CZK")).isZero();
  }

  @Test
  void whatAPersonCorrectedStandsAgainstWhatIsPublished() {
    LocalDate day = TODAY.minusDays(5);
    publish(day);
    String path = "/api/rates/SEK/" + day;
    assertThat(here.mara().change("DELETE", path, Map.of()).status())
        .as("it would come again")
        .isEqualTo(409);
    assertThat(here.mara().change("PUT", path, Map.of("rate", 0.09, "sure", false)).status())
        .isEqualTo(204);
    publish(day);
    assertThat(rate("SEK", day)).isEqualTo("0.09");
  }

  private static void publish(LocalDate day) {
    here.world()
        .bean(ExchangeRates.class)
        .keepPublished(
            List.of(
                new ExchangeRates.DayRate(
                    "SEK", day, new BigDecimal("0.0880"), ExchangeRates.PUBLISHED)));
  }

  private static String refused(String currency, LocalDate day, String rate) {
    return field(
        here.mara()
            .change(
                "PUT",
                "/api/rates/" + currency + "/" + day,
                Map.of("rate", new BigDecimal(rate), "sure", true)));
  }

  private static String field(Visitor.Answer answer) {
    assertThat(answer.status()).isEqualTo(422);
    return answer.body().path("field").asString();
  }

  private static Visitor.Answer read(String rows, boolean sure) {
    return here.mara()
        .postText("/api/rates?sure=" + sure, "text/csv", "currency,day,rate\n" + rows);
  }

  private static int known(String currency) {
    return here.mara().read("/api/rates/" + currency).size();
  }

  private static String rate(String currency) {
    return rate(currency, TODAY.minusDays(3));
  }

  private static String rate(String currency, LocalDate day) {
    return here.mara()
        .read("/api/rates/" + currency)
        .valueStream()
        .filter(r -> r.path("day").asString().equals(day.toString()))
        .findFirst()
        .orElseThrow()
        .path("rate")
        .decimalValue()
        .stripTrailingZeros()
        .toPlainString();
  }
}
