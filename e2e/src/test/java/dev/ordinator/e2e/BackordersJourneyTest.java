package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import dev.ordinator.standins.Mailbox.Mail;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Who waits for what, until when; and who gets it when it comes. */
@ExtendWith(Stage.class)
class BackordersJourneyTest {
  private static final String SHORT = "EX-4E";
  private static final String SCARCE = "GLOVE-LEA-12";

  /** Whatever happened, others find routing as it was. */
  @AfterAll
  static void routingGoesOn() {
    Stage.world().db().execute("delete from routing_pause");
    Stage.world()
        .db()
        .execute(
            "update sales_order set next_step_at = utc_timestamp(3) where next_step = 'ROUTE'");
    Visitor mara = Stage.world().visitor("mara");
    for (String sku : List.of(SHORT, SCARCE)) {
      mara.post(
          "/api/stock/items/" + item(sku) + "/adjustments",
          Map.of(
              "nodeId",
              stillwater(),
              "reason",
              "RECEIPT",
              "change",
              60,
              "note",
              "for all of them"));
    }
    TestWorld.await("nobody waits any more")
        .until(() -> waiting(SHORT) == 0 && waiting(SCARCE) == 0);
  }

  @Test
  void somebodyIsPutInFrontAndABuyerCancelsByTheLinkWhenItSlips() {
    Stage.world().scrapAll(SHORT);
    for (String id : new String[] {"BJ1", "BJ2", "BJ3"}) {
      Stage.world().shop().place(Sample.order(id, SHORT, 4));
    }
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock?search=" + SHORT);
      assertThat(mara.row(SHORT)).containsText("12 wait");
      mara.row(SHORT).click();
      mara.click("Expect some…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Units").fill("8");
      dialog.getByLabel("Due").fill(LocalDate.now().plusDays(6).toString());
      dialog.getByLabel("From").fill("Oakum Joinery");
      mara.click("Note it");
      assertThat(dialog).hasCount(0);

      mara.press("g", "b");
      mara.seesHeading("orders wait for");
      mara.isAccessible();
      mara.row("extractor, 4 frames, electric").click();
      Locator queue = mara.page().getByLabel("Queue");
      Locator rows = queue.locator("tbody tr");
      assertThat(rows).hasCount(3);
      assertThat(rows.nth(1)).containsText("A");
      assertThat(rows.nth(2)).containsText("no day");
      mara.isAccessible();

      // the last is taken and moved up by keys, seen first
      rows.nth(2).click();
      mara.press("Alt+ArrowUp");
      assertThat(queue).containsText("from place 3 to 2");
      assertThat(queue).containsText("1 other later");
      mara.isAccessible();
      mara.press("Enter");
      mara.sees("is moved");
      assertThat(rows.nth(2)).containsText("no day");

      // the supply slips: promises break, and their buyers are asked
      mara.go("/stock?search=" + SHORT);
      mara.row(SHORT).click();
      mara.page().locator("aside button[aria-expanded]").click();
      mara.field("Comes on").fill(LocalDate.now().plusDays(20).toString());
      mara.click("Moved");
      mara.go("/backorders/promises");
      assertThat(mara.rows().first()).isVisible();
      String first = mara.rows().first().locator("a").first().textContent().strip();
      mara.field("Choose " + first).check();
      mara.isAccessible();
      mara.click("Ask the buyer");
      mara.sees("asked");
      Page buyer = mara.page().context().newPage();
      buyer.navigate(Stage.world().address() + link("buyer-" + externalId(first) + "@"));
      buyer.getByText("Cancel what is missing").click();
      assertThat(buyer.locator("h1")).hasText("Thank you");
      buyer.close();
      mara.go("/orders?pile=ALL&buyer=Ilse");
      mara.sees("cancelled");
    }
  }

  @Test
  void aRunIsSeenWithAnotherOrderOfServiceGivenOutAndTakenBack() {
    Stage.world().scrapAll(SCARCE);
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.click("Stop routing…");
      mara.field("Why").fill("a run first");
      mara.press("Enter");
      mara.sees("No order is routed until you say so");
      long item = item(SCARCE);
      Stage.world()
          .bean(StockLedger.class)
          .adjust(item, stillwater(), 5, StockLedger.Reason.RECEIPT, "test", "");
      for (String id : new String[] {"BR1", "BR2"}) {
        Stage.world().shop().place(Sample.order(id, SCARCE, 4));
      }
      mara.go("/orders?pile=OPEN&stage=APPROVED&buyer=Ilse");
      assertThat(mara.rows().nth(1)).isVisible();
      mara.go("/backorders/runs");
      mara.click("New run…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByText("Which lines").click();
      dialog.getByLabel("SKU from").fill(SCARCE);
      dialog.getByLabel("SKU to").fill(SCARCE);
      dialog.getByLabel("route who got something").uncheck();
      dialog.getByLabel("note who got nothing").uncheck();
      mara.isAccessible();
      mara.click("See who gets what");
      Locator run = mara.page().getByLabel("Run", new Page.GetByLabelOptions().setExact(true));
      assertThat(run).containsText("would go to 2 orders");
      assertThat(run).containsText("1 order gets less than it asks for");
      mara.isAccessible();

      mara.click("Otherwise…");
      dialog.getByLabel("oldest counts more").click();
      dialog.getByLabel("Orders get").selectOption("a part, if there is no more");
      mara.click("See who gets what");
      assertThat(run).containsText("5 of 8 units would go");
      mara.click("Give it out");
      assertThat(run).containsText("5 of 8 units went");
      mara.click("Take it back");
      assertThat(run).containsText("had gone");
      mara.isAccessible();
    }
  }

  private static String link(String to) {
    TestWorld.await("the letter came")
        .until(
            () -> Stage.world().standIns().mailbox().mails().stream().anyMatch(m -> asks(m, to)));
    String text =
        Stage.world().standIns().mailbox().mails().stream()
            .filter(m -> asks(m, to))
            .findFirst()
            .orElseThrow()
            .text();
    return text.substring(text.indexOf("/answer/")).split("\\s", 2)[0];
  }

  private static boolean asks(Mail mail, String to) {
    return mail.to().contains(to) && mail.text().contains("/answer/");
  }

  private static long item(String sku) {
    return Stage.world()
        .db()
        .fetchSingle("select id from item where sku = ?", sku)
        .get(0, Long.class);
  }

  private static String externalId(String number) {
    return Stage.world()
        .db()
        .fetchSingle("select external_id from sales_order where number = ?", number)
        .get(0, String.class);
  }

  private static int waiting(String sku) {
    return Stage.world()
        .db()
        .fetchSingle(
            "select count(*) from backorder where closed_at is null and item_id = ?", item(sku))
        .get(0, Integer.class);
  }

  private static long stillwater() {
    return Stage.world()
        .db()
        .fetchSingle("select id from node where code = 'STW'")
        .get(0, Long.class);
  }
}
