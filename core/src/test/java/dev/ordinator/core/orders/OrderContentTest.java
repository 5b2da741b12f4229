package dev.ordinator.core.orders;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.orders.OrderContent.Account;
import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.OrderContent.Line;
import dev.ordinator.core.orders.OrderContent.Part;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;

class OrderContentTest {
  private static final Address HOME =
      new Address("Ilse Verbruggen", "Lindepad 12", "1012 AB", "Amsterdam", "NL");
  private static final Line SMOKER = new Line("1", "L1", "Smoker", 2, "10.00 EUR", "", "0.00 EUR");
  private static final Line BRUSH = new Line("2", "L2", "Brush", 1, "5.00 EUR", "", "0.00 EUR");

  @Test
  void nothingIsDifferentBetweenTwoEqualVersions() {
    assertThat(order(HOME, SMOKER, BRUSH).changesTo(order(HOME, SMOKER, BRUSH))).isEmpty();
  }

  @Test
  void eachChangeSaysWhatItWasAndWhatItIs() {
    Address moved = new Address("Ilse Verbruggen", "Molenkade 3", "1012 AB", "Amsterdam", "NL");
    Line more = new Line("1", "L1", "Smoker", 3, "10.00 EUR", "", "0.00 EUR");
    assertThat(order(HOME, SMOKER).changesTo(order(moved, more)))
        .containsExactly(
            new Change(
                Part.ADDRESS,
                "",
                "address",
                "Lindepad 12, 1012 AB Amsterdam, NL",
                "Molenkade 3, 1012 AB Amsterdam, NL"),
            new Change(
                Part.LINE_QUANTITY,
                "1",
                "Smoker",
                "2 × Smoker at 10.00 EUR",
                "3 × Smoker at 10.00 EUR"));
  }

  @Test
  void linesThatCameOrWentAreNamedAlsoWhenAllUnitsWereCancelled() {
    Line noBrush = new Line("2", "L2", "Brush", 0, "5.00 EUR", "", "0.00 EUR");
    assertThat(order(HOME, SMOKER, BRUSH).changesTo(order(HOME, SMOKER, noBrush)))
        .containsExactly(
            new Change(Part.LINE_REMOVED, "2", "line removed", "1 × Brush at 5.00 EUR", ""));
    assertThat(order(HOME, SMOKER).changesTo(order(HOME, SMOKER, BRUSH)))
        .containsExactly(
            new Change(Part.LINE_ADDED, "2", "line added", "", "1 × Brush at 5.00 EUR"));
  }

  @Test
  void aLineMayBecomeAnotherListing() {
    Line other = new Line("1", "L9", "Veil", 2, "10.00 EUR", "", "0.00 EUR");
    assertThat(order(HOME, SMOKER).changesTo(order(HOME, other)))
        .extracting(Change::part)
        .containsExactly(Part.LINE_LISTING);
  }

  private static OrderContent order(Address to, Line... lines) {
    return new OrderContent(
        to,
        "Home delivery",
        LocalDate.parse("2026-12-01"),
        null,
        "",
        "",
        "20.00 EUR",
        List.of(lines),
        new Account("Ilse", "ilse@buyer.example", "", "", "4.95 EUR", "0.00 EUR", "EUR"));
  }
}
