package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The morning: what is stuck, cleared in place with the keys. */
@ExtendWith(Stage.class)
class TodayJourneyTest {

  @Test
  void snagsAreClearedInPlaceWithoutTheMouse() {
    ShopOrder.ShipTo nowhere =
        new ShopOrder.ShipTo("Geertje Noord", "Turfkade 3", "", "Assen", "NL");
    Stage.world().shop().place(Sample.order("TD1", "NECTAR-OLD", 1));
    Stage.world().shop().place(Sample.order("TD2", "BRUSH", 1, nowhere, "paid", ""));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/today");
      assertThat(mara.page().getByLabel("Snags").locator("li").first()).isVisible();
      showEach(mara);
      assertThat(snag(mara, "Geertje Noord")).containsText("the postcode is missing");
      mara.isAccessible();

      reach(mara, "Listing of NECTAR-OLD");
      mara.press("e");
      mara.field("SKU").fill("NO-SUCH");
      mara.press("Enter");
      mara.sees("no item has the SKU");
      mara.isAccessible();
      mara.field("SKU").fill("BRUSH");
      mara.press("Enter");
      mara.sees("its orders go on");
      assertThat(snag(mara, "Listing of NECTAR-OLD")).hasCount(0);

      reach(mara, "Geertje Noord");
      mara.press("e");
      mara.field("Postcode").fill("94");
      mara.press("Enter");
      mara.sees("is not a postcode of NL");
      mara.field("Postcode").fill("9401 CM");
      mara.press("Enter");
      mara.sees("Address corrected");
      assertThat(snag(mara, "Geertje Noord")).hasCount(0);
    }
  }

  @Test
  void eachStopOfTheSummedTrackOpensItsOrders() {
    Stage.world().shop().place(Sample.order("TD3", "BRUSH", 1));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/today");
      mara.page().locator("a[href*='stage=RELEASED']").click();
      mara.seesHeading("open orders");
      mara.sees("Stage RELEASED");
    }
  }

  /** Snags of which there are many of a cause stand behind one row. */
  private static void showEach(Desk desk) {
    while (desk.page().getByText("Show each").count() > 0) {
      desk.click("Show each");
    }
  }

  private static Locator snag(Desk desk, String text) {
    return desk.page()
        .getByLabel("Snags")
        .locator("li:not(:has([aria-expanded]))")
        .filter(new Locator.FilterOptions().setHasText(text));
  }

  /** Moves up to the first with k, then down with j until the snag is the current one. */
  private static void reach(Desk desk, String text) {
    Locator snag = snag(desk, text);
    assertThat(snag).isVisible();
    Locator first = desk.page().getByLabel("Snags").locator("li").first();
    for (int i = 0; i < 50 && !"true".equals(first.getAttribute("aria-current")); i++) {
      desk.press("k");
    }
    for (int i = 0; i < 50 && !"true".equals(snag.getAttribute("aria-current")); i++) {
      desk.press("j");
    }
    assertThat(snag).hasAttribute("aria-current", "true");
  }
}
