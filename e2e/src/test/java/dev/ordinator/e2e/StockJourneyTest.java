package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.FilePayload;
import dev.ordinator.testing.Sample;
import java.nio.charset.StandardCharsets;
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
      mara.sees("on hand now");
      mara.click("Count or receive");
      mara.field("Units received").fill("20");
      mara.field("Lot").fill("W-2026-11");
      mara.press("Enter");
      mara.sees("20 of lot W-2026-11 taken in");
      assertThat(mara.page().locator("aside")).containsText("9");
      mara.sees("Nothing is short");
    }
  }

  @Test
  void whatIsExpectedIsNotedAndMovedOnceItIsSeenWhoWaits() {
    Stage.world().shop().place(Sample.order("SJ2", "HB-SHAL-CED", 180));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("HB-SHAL-CED");
      assertThat(mara.row("HB-SHAL-CED")).containsText("180 wait");
      mara.row("HB-SHAL-CED").click();
      mara.sees("Nothing of it is on its way");
      mara.click("Expect some…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Units").fill("200");
      dialog.getByLabel("Due").fill(LocalDate.now().plusDays(5).toString());
      dialog.getByLabel("From").fill("Oakum Joinery");
      mara.isAccessible();
      mara.click("Note it");
      assertThat(dialog).hasCount(0);
      Locator item = mara.page().locator("aside");
      assertThat(item).containsText("Can be promised");
      item.locator("button[aria-expanded]").click();
      mara.isAccessible();
      mara.field("Comes on").fill(LocalDate.now().plusDays(9).toString());
      assertThat(item).containsText("1 order waits for it; 1 would be sent on another day");
      mara.isAccessible();
      mara.click("Moved");
      assertThat(item).containsText("1 order waits for it:");
      mara.field("Units that came").fill("200");
      mara.click("Received");
      mara.sees("200 units received");
      mara.sees("Nothing of it is on its way");
    }
  }

  @Test
  void aFileOfItemsIsSeenRowByRowAndWhatIsGoodOfItTaken() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.click("Files…");
      Locator dialog = mara.page().locator("dialog");
      mara.field("A file to take in")
          .setInputFiles(
              new FilePayload(
                  "items.csv",
                  "text/csv",
                  "Artikelnummer,name,price\nPEN-1,Queen marking pen,4.50\nBRUSH,,x\n"
                      .getBytes(StandardCharsets.UTF_8)));
      assertThat(dialog).containsText("Say which column holds the sku");
      mara.isAccessible();
      dialog.getByLabel("sku *").selectOption("Artikelnummer");
      assertThat(dialog).containsText("✕ refused 1");
      assertThat(dialog).containsText("‘x’ is not a number");
      mara.isAccessible();
      mara.click("Take what is good: 1 change");
      mara.sees("1 change taken in, 1 row left out");
      assertThat(dialog).hasCount(0);
      mara.field("Find items").fill("PEN-1");
      assertThat(mara.row("Queen marking pen")).isVisible();
    }
  }

  @Test
  void someIsSetAsideAndKeptBack() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("HB-DEEP-PIN");
      mara.row("HB-DEEP-PIN").click();
      Locator item = mara.page().locator("aside");
      mara.click("Set some aside…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByText("a customer").click();
      dialog.getByLabel("The customer’s mail address").fill("club@bees.example");
      dialog.getByLabel("Units").fill("5");
      mara.isAccessible();
      mara.click("Set aside");
      assertThat(item).containsText("customer club@bees.example, Stillwater");
      mara.click("Limits of HB-DEEP-PIN at Stillwater");
      dialog.getByLabel("Kept back").fill("3");
      mara.press("Enter");
      mara.sees("HB-DEEP-PIN at Stillwater: limits changed");
      mara.isAccessible();
      mara.click("Release");
      assertThat(item).containsText("None of it is set aside for anybody");
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
