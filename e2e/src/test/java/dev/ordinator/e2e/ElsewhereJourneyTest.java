package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The manager knows better than the rulebook. */
@ExtendWith(Stage.class)
class ElsewhereJourneyTest {

  /** The journeys share one world: whatever happened here, orders go on at once elsewhere. */
  @AfterAll
  static void ordersAreRoutedAtOnce() {
    Map<String, @Nullable Integer> none = new HashMap<>();
    none.put("minutes", null);
    Stage.world().visitor("mara").change("PUT", "/api/routing/times/WEB", none);
  }

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

  @Test
  void aChannelsOrdersWaitForTheirBatchAndSomeAreRoutedTogetherAtOnce() {
    receive("BRUSH");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=WEB&tab=terms");
      mara.field("Its orders are routed").selectOption("together, every 60 minutes");
      mara.sees("routed together every 60 minutes");
      mara.isAccessible();
      ShopOrder.ShipTo to =
          new ShopOrder.ShipTo("Wanda Batch", "Lindepad 12", "1012 AB", "Amsterdam", "NL");
      for (String id : List.of("EL5", "EL6")) {
        Stage.world().shop().place(Sample.order(id, "BRUSH", 1, to, "paid", "Home delivery"));
      }
      TestWorld.await("both wait").until(() -> waiting("WEB") == 2);
      mara.go("/network");
      mara.sees("2 orders wait");
      mara.list("/orders?pile=ALL&buyer=Wanda");
      assertThat(mara.rows()).hasCount(2);
      mara.press("j", "x", "j", "x");
      mara.sees("2 orders selected");
      mara.click("Route together…");
      Locator dialog = mara.page().locator("dialog");
      assertThat(dialog).containsText("2 orders would be sent");
      mara.isAccessible();
      dialog.getByText("Route them").click();
      mara.sees("2 orders routed");
      assertThat(dialog).hasCount(0);
      Stage.released("EL5");
      Stage.released("EL6");
      mara.go("/channels?c=WEB&tab=terms");
      mara.field("Its orders are routed").selectOption("each at once, when it is approved");
      mara.sees("routed each at once");
    }
  }

  private static int waiting(String channel) {
    return Stage.world()
        .visitor("mara")
        .read("/api/routing/times")
        .valueStream()
        .filter(t -> t.path("channel").asString().equals(channel))
        .mapToInt(t -> t.path("waiting").asInt())
        .sum();
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
