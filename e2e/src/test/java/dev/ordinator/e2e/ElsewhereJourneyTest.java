package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The manager knows better than the rulebook. */
@ExtendWith(Stage.class)
class ElsewhereJourneyTest {

  @Test
  void anOrderIsSentFromElsewhereAndItsGroundsAreRead() {
    receive("BRUSH");
    Stage.world().shop().place(Sample.order("EL1", "BRUSH", 1));
    long id = Stage.released("EL1");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders/" + id + "?pile=ALL&tab=why");
      Locator order = mara.page().locator("aside");
      assertThat(order).containsText("Rules that looked at it");
      String chosen = order.locator("tbody td").first().textContent().strip();
      mara.field("Without which node").selectOption("without " + chosen);
      assertThat(order).containsText("then");
      mara.isAccessible();
      mara.click("Send elsewhere…");
      Locator dialog = mara.page().locator("dialog");
      assertThat(dialog).containsText("now");
      mara.isAccessible();
      // the cheapest is chosen already
      assertThat(dialog.getByRole(AriaRole.RADIO).first()).isChecked();
      mara.field("Why").fill("its window display");
      mara.page().keyboard().press("Enter");
      assertThat(dialog).hasCount(0);
      mara.sees("by hand, Mara: “its window display”");
      mara.tab("Timeline").click();
      mara.sees("Taken back from");
    }
  }

  /** Whatever others have taken, there is enough at two nodes now. */
  private static void receive(String sku) {
    Visitor mara = Stage.world().visitor("mara");
    long item =
        mara.read("/api/stock?search=" + sku).path("items").path("rows").get(0).path("id").asLong();
    mara.read("/api/stock/nodes")
        .valueStream()
        .limit(2)
        .forEach(node ->
            mara.post(
                "/api/stock/items/" + item + "/adjustments",
                Map.of(
                    "nodeId",
                    node.path("id").asLong(),
                    "reason",
                    "RECEIPT",
                    "change",
                    50,
                    "note",
                    "")));
  }
}
