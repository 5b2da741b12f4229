package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.standins.Made;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** An item is offered on the market, with its margin seen first, and keeps to its rule. */
@ExtendWith(Stage.class)
class OffersJourneyTest {

  @Test
  void theMarginIsSeenAsTheRuleIsTypedAndPricesArePushedWhenSomebodySaysSo() {
    var market = Stage.world().standIns().market();
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=MARKET&tab=offers&search=HB-DEEP-CED");
      var row =
          mara.page()
              .locator("tbody tr")
              .filter(new Locator.FilterOptions().setHasText("HB-DEEP-CED"));
      assertThat(row).containsText(".95");
      mara.isAccessible();
      String before = row.textContent();
      mara.field("Markup in per cent").fill("150");
      assertThat(row).not().hasText(before);
      mara.field("Least margin in per cent").fill("70");
      assertThat(row).containsText("▲");
      mara.field("Least margin in per cent").fill("10");
      mara.click("Keep this rule");
      mara.sees("Kept.");
      mara.field("Title of HB-DEEP-CED").fill("Deep body of cedar");
      mara.page().getByLabel("Select Hive body, deep, cedar").check();
      mara.click("Offer 1 item");
      mara.sees("1 item offered as drafts");
      Assertions.assertThat(market.made().offers())
          .extracting(Made.Offer::title, Made.Offer::draft)
          .containsExactly(Assertions.tuple("Deep body of cedar", true));

      mara.page().getByLabel("also what can’t be offered").check();
      mara.field("Cost of HB-DEEP-CED").fill("99.00");
      mara.page().keyboard().press("Tab");
      mara.sees("1 listing would be changed now");
      mara.isAccessible();
      mara.click("Push 1 change");
      mara.sees("1 listing changed");
      assertThat(mara.page().getByText("1 listing would be changed now")).hasCount(0);
    }
  }
}
