package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.options.ColorScheme;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.io.IOException;
import java.nio.file.Files;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Where is it, and what is this pile? */
@ExtendWith(Stage.class)
class OrdersJourneyTest {
  private static final int UNPAID = 4;

  @BeforeAll
  static void placeOrders() {
    for (int i = 0; i < UNPAID; i++) {
      ShopOrder.ShipTo to =
          new ShopOrder.ShipTo("Lotte Vos " + i, "Rietlaan " + i, "2000", "Antwerpen", "BE");
      Stage.world().shop().place(Sample.order("OJ" + i, "TOOL-J", 1, to, "unpaid", ""));
    }
    TestWorld.await("all are in")
        .until(() ->
            Stage.world()
                    .visitor("mara")
                    .read("/api/orders/count?country=BE&pile=UNPAID")
                    .path("orders")
                    .asInt()
                == UNPAID);
  }

  @Test
  void aPileIsFilteredWalkedThroughAndDealtWithFromTheKeyboard() {
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/orders?pile=UNPAID");
      mara.press("f");
      mara.field("Filter by").selectOption("country");
      mara.field("Value").fill("be");
      mara.press("Enter");
      assertThat(mara.rows()).hasCount(UNPAID);
      mara.isAccessible();

      mara.press("j", "x", "j", "x");
      mara.sees("2 orders selected");
      mara.click("Hold…");
      mara.field("Reason").fill("asks for an invoice");
      mara.press("Enter");
      mara.sees("2 orders held");
      mara.go("/orders?pile=STUCK&country=BE");
      assertThat(mara.page().getByText("asks for an invoice")).hasCount(2);
      mara.click("Undo");
      assertThat(mara.page().getByText("asks for an invoice")).hasCount(0);
    }
  }

  @Test
  void theAddressHoldsTheWholeStateAndBackAndReloadKeepIt() {
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/orders?pile=UNPAID&country=BE");
      mara.press("j");
      mara.tab("Timeline").click();
      mara.sees("Order received");
      mara.click("Open ↵");
      assertThat(mara.button("Beside the list Esc")).isVisible();
      mara.isAccessible();
      mara.page().reload();
      mara.sees("Order received");
      assertThat(mara.button("Beside the list Esc")).isVisible();
      mara.press("Escape", "Escape");
      assertThat(mara.page()).hasURL(Pattern.compile(".*#/orders\\?.*country=BE.*"));
      assertThat(mara.rows()).hasCount(UNPAID);
    }
  }

  @Test
  void anOrderIsApprovedByHandAndItsReasonsAreOneKeyAway() {
    ShopOrder.ShipTo to =
        new ShopOrder.ShipTo("Karl Voss", "Birkenweg 2", "20095", "Hamburg", "DE");
    Stage.world().shop().place(Sample.order("OJ-DE", "TOOL-J", 1, to, "unpaid", ""));
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/orders?pile=UNPAID&country=DE");
      mara.press("j");
      assertThat(mara.button("Approve e")).isVisible();
      mara.press("e");
      mara.sees("Approved; it goes on");
      assertThat(mara.button("Approve e")).isHidden();
      mara.press("e");
      mara.sees("rung");
      assertThat(mara.row("Stillwater")).isVisible();
      mara.isAccessible();
    }
  }

  @Test
  void thePileLeavesAsCsvAndTheFindFieldGoesToOneOrder() throws IOException {
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/orders?pile=ALL&country=BE");
      assertThat(mara.row("Lotte Vos")).isVisible();
      Download csv = mara.page().waitForDownload(() -> mara.link("CSV").click());
      Assertions.assertThat(Files.readString(csv.path())).contains("Lotte Vos 0", "Lotte Vos 3");
      mara.press("/");
      mara.page().keyboard().type("Lotte Vos 2");
      assertThat(mara.found()).hasCount(1);
      mara.press("Enter");
      assertThat(mara.page().locator("aside")).containsText("Lotte Vos 2");
    }
  }

  @Test
  void itFitsSmallAndLargeScreens() {
    for (int width : new int[] {1024, 1920}) {
      try (Desk mara =
          Desk.of(Stage.browser(), Stage.world().address(), "mara", width, 720, ColorScheme.DARK)) {
        mara.list("/orders?pile=ALL&country=BE");
        mara.press("j");
        assertThat(mara.page().locator("aside h2")).isInViewport();
        Assertions.assertThat(
                (Boolean) mara.page().evaluate("document.body.scrollWidth <= innerWidth"))
            .as("nothing sticks out at %d", width)
            .isTrue();
      }
    }
  }
}
