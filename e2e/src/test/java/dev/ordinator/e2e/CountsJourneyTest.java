package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Is what is on record what is there? */
@ExtendWith(Stage.class)
class CountsJourneyTest {
  @Test
  void aRowOfBinsIsWalkedByKeysAndADearDifferenceIsSeenByAManager() {
    try (Desk mara = Stage.desk("mara");
        Desk joss = Stage.desk("joss")) {
      mara.go("/stock");
      mara.click("Counts");
      mara.sees("Nothing was ever counted by list");
      mara.click("New count…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Bins that begin with").fill("C-0");
      dialog.getByLabel("Differences worth more").fill("50");
      mara.isAccessible();
      mara.click("Make the list");
      mara.seesHeading("Stillwater, bins C-0");

      joss.link("Counts").click();
      joss.link("Stillwater, bins C-0").click();
      joss.seesHeading("Stillwater, bins C-0");
      Locator fields = joss.page().locator("input[data-units]");
      joss.isAccessible();
      fields.first().fill("0");
      joss.press("Enter");
      assertThat(fields.nth(1)).isFocused();
      joss.sees("counted by Joss");
      joss.click("Let in what was counted: 1 place");
      joss.sees("▲ to be seen");

      mara.page().reload();
      mara.isAccessible();
      mara.click("Refuse it");
      mara.sees("✕ refused");
      mara.click("Close, 8 places uncounted");
      mara.sees("closed by Mara");
    }
  }

  @Test
  void goodsGoIntoQuarantineAndTheLedgerSaysWhy() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("GRIP");
      mara.row("GRIP").click();
      Locator item = mara.page().locator("aside");
      item.getByText("Move…").first().click();
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Units").fill("2");
      dialog.getByLabel("As").selectOption("QUARANTINE");
      dialog.getByLabel("Why *").fill("handles crack");
      mara.isAccessible();
      mara.press("Enter");
      assertThat(dialog).hasCount(0);
      assertThat(item).containsText("✕ in quarantine");
      item.getByText("Mara").first().click();
      mara.seesHeading("Stock ledger");
      mara.sees("handles crack");
      mara.isAccessible();
    }
  }

  @Test
  void variantsFoldIntoTheirFamilyAndAViewIsKept() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock?category=clothing");
      Locator family = mara.page().locator("button[aria-expanded]").getByText("JACK");
      assertThat(mara.row("JACK-XL")).hasCount(0);
      family.click();
      assertThat(mara.row("JACK-XL")).isVisible();
      mara.isAccessible();
      mara.click("Keep this view…");
      mara.page().locator("dialog").getByLabel("Its name").fill("Clothing");
      mara.press("Enter");
      mara.sees("‘Clothing’ is kept");
      assertThat(mara.page().locator("dialog")).hasCount(0);
      mara.go("/stock");
      mara.field("Saved views").selectOption("Clothing");
      assertThat(mara.field("Category")).hasValue("clothing");
      mara.click("Forget it");
      mara.sees("‘Clothing’ is forgotten");
    }
  }
}
