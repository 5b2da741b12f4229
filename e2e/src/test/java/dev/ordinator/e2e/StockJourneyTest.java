package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What do we have, and who waits for it? */
@ExtendWith(Stage.class)
class StockJourneyTest {
  private static final String SHORT = "FO-DEEP-WAX-5";

  @Test
  void aShortItemShowsWhoWaitsAndAReceiptLetsThemGoOn() {
    Stage.world().shop().place(Sample.order("SJ1", SHORT, 9));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock?short=1");
      assertThat(mara.row(SHORT)).containsText("9 wait");
      mara.isAccessible();
      mara.row(SHORT).click();
      assertThat(mara.page().locator("aside")).containsText("wait");
      mara.isAccessible();

      mara.click("Count or receive");
      mara.page().getByText("counted").click();
      mara.field("Units counted").fill("0");
      mara.press("Enter");
      mara.sees("0 on hand now");
      mara.click("Count or receive");
      mara.field("Units received").fill("20");
      mara.press("Enter");
      mara.sees("20 on hand now");
      assertThat(mara.page().locator("aside")).containsText("9");
      mara.sees("Nothing is short");
    }
  }

  @Test
  void whatIsExpectedIsNotedMovedAndReceived() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("HB-SHAL-CED");
      mara.row("HB-SHAL-CED").click();
      mara.sees("Nothing of it is on its way");
      mara.click("Expect some…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Units").fill("40");
      dialog.getByLabel("Due").fill(LocalDate.now().plusDays(5).toString());
      dialog.getByLabel("From").fill("Oakum Joinery");
      mara.isAccessible();
      mara.click("Note it");
      assertThat(dialog).hasCount(0);
      Locator item = mara.page().locator("aside");
      assertThat(item).containsText("Can be promised");
      item.getByText("Oakum Joinery").click();
      mara.isAccessible();
      mara.field("Comes on").fill(LocalDate.now().plusDays(9).toString());
      mara.click("Moved");
      mara.field("Units that came").fill("40");
      mara.click("Received");
      mara.sees("40 units received");
      mara.sees("Nothing of it is on its way");
    }
  }

  @Test
  void itemsAreFoundByNameAndNothingFoundSaysHow() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("extractor");
      assertThat(mara.row("EX-3M")).isVisible();
      assertThat(mara.rows().filter(new Locator.FilterOptions().setHasText("BRUSH"))).hasCount(0);
      mara.field("Find items").fill("no such thing");
      mara.sees("No item is like that");
    }
  }
}
