package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.testing.Sample;
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
