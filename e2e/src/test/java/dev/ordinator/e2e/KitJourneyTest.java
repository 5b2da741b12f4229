package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Kits: put together, written, chosen. */
@ExtendWith(Stage.class)
class KitJourneyTest {

  @Test
  void aKitShowsWhatLimitsItAndIsPutTogether() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock?search=HIVE-KIT");
      mara.row("HIVE-KIT").click();
      Locator item = mara.page().locator("aside");
      assertThat(item).containsText("Kit of 6 components");
      assertThat(item).containsText("runs out first");
      mara.isAccessible();
      mara.click("Put together or take apart");
      mara.isAccessible();
      mara.page().locator("dialog").getByLabel("Kits").fill("2");
      mara.press("Enter");
      mara.sees("2 kits put together");
      assertThat(item).containsText("assemble, Stillwater");
      assertThat(item).containsText("put together 2 × HIVE-KIT");

      mara.click("Put together or take apart");
      mara.page().locator("dialog").getByLabel("Kits").fill("9000");
      mara.press("Enter");
      mara.sees("that no order holds");
    }
  }

  @Test
  void anItemBecomesAKitAndWhatIsWrongIsSaidAtItsRow() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock?search=BOOK-RECORD");
      mara.row("BOOK-RECORD").click();
      mara.click("Make it a kit");
      Locator dialog = mara.page().locator("dialog");
      component(dialog, 0).fill("BOOK-YEAR");
      component(dialog, 1).fill("NO-SUCH-THING");
      mara.isAccessible();
      mara.click("Save");
      mara.sees("no item has the SKU ‘NO-SUCH-THING’");
      component(dialog, 1).fill("TOOL-J");
      mara.click("Save");
      mara.sees("BOOK-RECORD is a kit");
      assertThat(mara.page().locator("aside")).containsText("Kit of 2 components");
      mara.click("Change the kit");
      mara.click("No kit any more");
      mara.sees("BOOK-RECORD is no longer a kit");
    }
  }

  @Test
  void aSizeThatTheOrderDoesNotSayIsChosenAndItGoesOn() {
    Stage.world().shop().place(Sample.order("KJ1", "FIRST-YEAR", 1));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders?pile=STUCK");
      mara.row("choice open").click();
      mara.sees("the order does not say which: Size");
      mara.press("e");
      mara.sees("Size of");
      mara.isAccessible();
      mara.page().locator("dialog").locator("input[value=SUIT-CLS-L]").check();
      mara.press("Enter");
      mara.sees("Chosen; the order goes on");
      Locator order = mara.page().locator("aside");
      assertThat(order).containsText("SUIT-CLS-L");
      assertThat(order).not().containsText("Choice open");
    }
  }

  private static Locator component(Locator dialog, int row) {
    return dialog.getByLabel("Component", new Locator.GetByLabelOptions().setExact(true)).nth(row);
  }
}
