package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.SelectOption;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** One web order, from the shop's page to the buyer's door, each at their own screen. */
@ExtendWith(Stage.class)
class StoryTest {
  private static final String BUYER = "Wilhelmina Kastelein";

  @Test
  void anOrderPlacedInTheShopIsPackedByJossAndFollowedByMaraUntilItIsDelivered() {
    try (Desk mara = Stage.desk("mara");
        BrowserContext buyer = Stage.browser().profile(1280, 800, ColorScheme.LIGHT)) {
      mara.go("/orders");
      Page shop = buyer.newPage();
      String order = placeOrder(shop);

      // it comes in, is routed and released by itself, and appears without a reload
      mara.row(BUYER).click();
      mara.sees("Stillwater · 2 units");
      mara.tab("Why here").click();
      mara.sees("rung 1 of 4");
      mara.tab("Timeline").click();
      mara.sees("Released to Stillwater");

      packAndHandOver(mara.page().locator("aside h2").first().textContent() + "-1");

      // Mara's screen follows by itself; the shop has the tracking number, the buyer has mail
      assertThat(mara.page().locator("aside svg").first())
          .hasAttribute("aria-label", Pattern.compile("Stillwater, 2 units: delivered"));
      mara.tab("Parcels").click();
      mara.sees("delivered, Amsterdam, NL");
      shop.navigate(Stage.world().shop().url() + "/orders/" + order);
      assertThat(shop.getByText("On its way with").first()).isVisible();
      shop.navigate("http://127.0.0.1:" + Stage.world().standIns().mailbox().port() + "/");
      assertThat(shop.getByText("Your order " + order + " is on its way").first()).isVisible();
    }
  }

  /** As the buyer does, on the shop's own page; gives the shop's order number. */
  private static String placeOrder(Page shop) {
    shop.navigate(Stage.world().shop().url() + "/");
    // only the warehouse, where Joss packs, has one
    String extractor =
        shop.locator("option", new Page.LocatorOptions().setHasText("3 frames, manual"))
            .getAttribute("value");
    shop.getByLabel("Item").selectOption(new SelectOption().setValue(extractor));
    shop.getByLabel("Units").fill("2");
    shop.getByLabel("Name").fill(BUYER);
    shop.getByRole(AriaRole.BUTTON).getByText("Place the order").click();
    shop.waitForURL(Pattern.compile(".*/orders/.+"));
    return shop.url().substring(shop.url().lastIndexOf('/') + 1);
  }

  private static void packAndHandOver(String consignment) {
    try (Desk joss = Stage.desk("joss")) {
      assertThat(joss.views()).containsText("Dispatch");
      assertThat(joss.views()).not().containsText("Orders");
      joss.field("Consignment number").fill(consignment);
      joss.press("Enter");
      joss.field("Scan each unit").fill("TOOL-J");
      joss.press("Enter");
      joss.sees("does not belong in this parcel");
      joss.isAccessible();
      for (int unit = 1; unit <= 2; unit++) {
        joss.field("Scan each unit").fill("EX-3M");
        joss.press("Enter");
        joss.sees(unit == 2 ? "everything is in: close the parcel" : "EX-3M: 1 of 2");
      }
      joss.press("Enter"); // the empty field: what comes next
      joss.sees("is ready to print");
      assertThat(joss.link("Packing slip")).isVisible();
      joss.page().getByRole(AriaRole.BUTTON).getByText("Hand over to").click();
      joss.sees("has it");
    }
  }
}
