package dev.ordinator.core.orders;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ServiceWords.Entry;
import dev.ordinator.core.orders.ServiceWords.How;
import dev.ordinator.core.stock.StockLevel;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class OrdersTest {
  private static LineProgress line(long... q) {
    return new LineProgress(q[0], q[1], q[2], q[3], q[4], q[5]);
  }

  @Test
  void theStageIsTheFurthestThatEveryOpenUnitHasReached() {
    assertThat(Stage.of(false, List.of(line(2, 0, 0, 0, 0, 0)))).isEqualTo(Stage.RECEIVED);
    assertThat(Stage.of(true, List.of(line(2, 1, 0, 0, 0, 0)))).isEqualTo(Stage.APPROVED);
    assertThat(Stage.of(true, List.of(line(2, 2, 0, 0, 0, 0)))).isEqualTo(Stage.ROUTED);
    assertThat(Stage.of(true, List.of(line(2, 2, 2, 1, 1, 0), line(1, 1, 1, 1, 0, 0))))
        .isEqualTo(Stage.RELEASED);
    assertThat(Stage.of(true, List.of(line(2, 2, 2, 2, 2, 1)))).isEqualTo(Stage.SHIPPED);
    assertThat(Stage.of(true, List.of(line(2, 2, 2, 2, 2, 2)))).isEqualTo(Stage.DELIVERED);
  }

  @Test
  void cancelledUnitsDoNotHoldTheStageBack() {
    LineProgress cancelled = line(0, 0, 0, 0, 0, 0);
    assertThat(Stage.of(true, List.of(cancelled, line(1, 1, 1, 1, 1, 1))))
        .isEqualTo(Stage.DELIVERED);
    assertThat(Stage.of(true, List.of(cancelled))).isEqualTo(Stage.CANCELLED);
  }

  @Test
  void unitsCannotOvertakeThemselves() {
    assertThatIllegalArgumentException().isThrownBy(() -> line(1, 0, 1, 0, 0, 0));
    assertThatIllegalArgumentException().isThrownBy(() -> line(1, 2, 0, 0, 0, 0));
  }

  @ParameterizedTest
  @CsvSource({
    "WHEN_PAID,PAID,true",
    "WHEN_PAID,AUTHORISED,false",
    "WHEN_PAID,ON_DELIVERY,true",
    "WHEN_AUTHORISED,AUTHORISED,true",
    "WHEN_AUTHORISED,UNPAID,false",
    "BY_HAND,PAID,false"
  })
  void paymentDecidesApproval(ApprovalPolicy policy, PaymentState payment, boolean approved) {
    assertThat(policy.approves(payment)).isEqualTo(approved);
  }

  @Test
  void anAddressNamesEachPartThatIsWrong() {
    assertThat(new Address("Ilse", "Weg 1", "1012 AB", "Amsterdam", "NL").problems()).isEmpty();
    assertThat(new Address("", "Weg 1", "", "Gent", "BE").problems())
        .extracting(Address.Problem::part)
        .containsExactly("name", "postcode");
    assertThat(new Address("A", "B", "12", "C", "DE").problems())
        .singleElement()
        .satisfies(p -> assertThat(p.message()).contains("‘12’").contains("DE"));
    assertThat(new Address("A", "B", "1", "C", "Netherlands").problems())
        .extracting(Address.Problem::part)
        .containsExactly("country");
    assertThat(new Address("A", "B", "any thing", "C", "IS").problems())
        .as("a country without a known pattern takes any postcode")
        .isEmpty();
  }

  @Test
  void theClosestWordingDecidesTheLevelAndAnUnknownOneNever() {
    ServiceWords words =
        new ServiceWords(
            List.of(
                new Entry(How.CONTAINS, "express", ServiceLevel.EXPRESS),
                new Entry(How.BEGINS_WITH, "Home", ServiceLevel.STANDARD),
                new Entry(How.EXACT, "Express (slow)", ServiceLevel.STANDARD)));
    assertThat(words.level("Next-day EXPRESS")).contains(ServiceLevel.EXPRESS);
    assertThat(words.level("home delivery")).contains(ServiceLevel.STANDARD);
    assertThat(words.level("express (slow)")).contains(ServiceLevel.STANDARD);
    assertThat(words.level("By swallow")).isEmpty();
    assertThat(words.level(" ")).contains(ServiceLevel.STANDARD);
  }

  @Test
  void whatIsAllocatedOrKeptSafeIsNotAvailable() {
    assertThat(new StockLevel(10, 3, 2, 0, 0).available()).isEqualTo(5);
    assertThat(new StockLevel(10, 3, 2, 4, 0).available()).isEqualTo(1);
    assertThat(new StockLevel(10, 3, 2, 4, 0).availableTo(3)).isEqualTo(4);
    assertThat(new StockLevel(3, 2, 5, 0, 0).available()).isZero();
    assertThat(new StockLevel(69, 0, 0, 0, 28).available()).as("28 last too short").isEqualTo(41);
    assertThatIllegalArgumentException().isThrownBy(() -> new StockLevel(3, 4, 0, 0, 0));
  }
}
