package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A buyer is paid back. */
@ExtendWith(Stage.class)
class RefundJourneyTest {

  @Test
  void whatGoesBackIsSeenBeforeItIsAskedForAndTheShopIsTold() {
    Stage.world().shop().place(Sample.order("RJ1", "TOOL-J", 3));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders?pile=ALL");
      mara.row("30.00").click();
      Locator order = mara.page().locator("aside");
      mara.click("Pay back…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Units of Listing of TOOL-J to pay back").fill("2");
      assertThat(dialog).containsText("20.00 goes back by card");
      dialog.getByLabel("Kept back for restocking").fill("1.50");
      assertThat(dialog).containsText("18.50 goes back by card");
      mara.isAccessible();
      dialog.getByLabel("Why").fill("came scratched");
      mara.click("Pay back 18.50");
      assertThat(order).containsText("paid back");
      assertThat(order).containsText("came scratched, 1.50 kept back");
      assertThat(order).containsText("part refunded");
      mara.click("Pay back…");
      dialog.getByLabel("Units of Listing of TOOL-J to pay back").fill("2");
      assertThat(dialog).containsText("1 units can be refunded");
    }
  }
}
