package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The buyer changes the order when the store has it already. */
@ExtendWith(Stage.class)
class AmendmentJourneyTest {

  @Test
  void theDifferenceIsSeenAndTheirsIsTaken() {
    Stage.world().shop().place(Sample.order("AJ1", "BRUSH", 1));
    long id = Stage.released("AJ1");
    Stage.world()
        .shop()
        .change(
            "AJ1",
            o -> {
              ShopOrder.Line l = o.lines().getFirst();
              return o.withLines(
                  List.of(
                      new ShopOrder.Line(
                          l.id(),
                          l.productId(),
                          l.sku(),
                          l.gtin(),
                          l.title(),
                          4,
                          l.unitPrice(),
                          "0.00")));
            });
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders/" + id + "?pile=ALL");
      mara.sees("Changed in the channel");
      mara.press("e");
      assertThat(mara.page().locator("dialog")).containsText("1 × Listing of BRUSH at 10.00 EUR");
      assertThat(mara.page().locator("dialog")).containsText("4 × Listing of BRUSH at 10.00 EUR");
      mara.isAccessible();
      mara.click("Take theirs");
      mara.sees("Changed; it is routed anew");
      assertThat(mara.page().getByText("Changed in the channel")).hasCount(0);
      mara.tab("Timeline").click();
      mara.sees("Taken back from");
    }
  }
}
