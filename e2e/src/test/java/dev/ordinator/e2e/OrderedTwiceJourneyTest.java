package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Somebody pressed a button twice, or meant it. */
@ExtendWith(Stage.class)
class OrderedTwiceJourneyTest {

  @Test
  void bothOrdersStandBesideEachOtherAndOneIsCancelled() {
    place("TJ1");
    place("TJ2");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders?pile=ALL");
      mara.row("70.00").first().click();
      Locator order = mara.page().locator("aside");
      assertThat(order).containsText("within hours");
      mara.press("e");
      Locator dialog = mara.page().locator("dialog");
      assertThat(dialog.getByRole(AriaRole.REGION)).hasCount(2);
      assertThat(dialog).containsText("7 × Listing of TOOL-J");
      mara.isAccessible();
      dialog.getByText("Cancel ").last().click();
      assertThat(dialog).hasCount(0);
      assertThat(mara.row("70.00")).hasCount(1);
      assertThat(order).not().containsText("within hours");
    }
  }

  private static void place(String id) {
    ShopOrder order = Sample.order(id, "TOOL-J", 7);
    Stage.world().shop().place(order.by("twice@buyer.example"));
  }
}
