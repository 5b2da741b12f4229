package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A buyer sends something back. */
@ExtendWith(Stage.class)
class ReturnsJourneyTest {

  @Test
  void aReturnIsOpenedCalledOffAndOpenedAgainInspectedAndPaidBack() {
    long order = sent("ZJ1", 3);
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders/" + order);
      mara.click("Comes back…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("that come back").fill("2");
      dialog.getByLabel("Why").selectOption("UNWANTED");
      dialog.getByLabel("In the buyer’s words").fill("one is enough");
      mara.isAccessible();
      mara.click("Open a return of 2 units");
      mara.sees("The return is open");
      Locator inspector = mara.page().locator("aside");
      assertThat(inspector).containsText("○ to come");
      mara.click("Undo");
      assertThat(inspector).containsText("× called off");
      inspector.getByText("RMA-").click();

      Locator sheet = mara.page().getByLabel("Return RMA-");
      assertThat(sheet).containsText("one is enough");
      mara.click("Open again");
      Locator restock = sheet.getByLabel("Restock:");
      assertThat(restock).hasValue("2");
      restock.fill("1");
      sheet.getByLabel("Scrap:").fill("2");
      assertThat(sheet).containsText("Only 2 of");
      sheet.getByLabel("Scrap:").fill("1");
      mara.isAccessible();
      sheet.getByLabel("Scrap:").blur();
      mara.press("e");
      mara.sees("2 units booked in at");
      assertThat(sheet).containsText("came, owed");
      assertThat(mara.views()).containsText("Returns 1");

      // what came back whole is owed, until somebody says otherwise
      assertThat(sheet).containsText("20.00 goes back by card");
      sheet.getByLabel("Kept back for restocking").fill("2.50");
      assertThat(sheet).containsText("17.50 goes back by card");
      mara.isAccessible();
      sheet.getByLabel("Why").fill("sent back");
      mara.click("Pay back 17.50");
      assertThat(sheet).containsText("● paid back");
      assertThat(sheet).containsText("17.50");

      mara.go("/returns?pile=ENDED");
      assertThat(mara.row("RMA-")).containsText("paid back");
      mara.isAccessible();
      mara.press("j");
      assertThat(sheet).containsText("What came");
    }
  }

  private static long sent(String ref, long units) {
    Stage.world().shop().place(Sample.order(ref, "TOOL-J", units));
    long id = Stage.released(ref);
    Packer.packAndHandOver(Stage.world(), id);
    return id;
  }
}
