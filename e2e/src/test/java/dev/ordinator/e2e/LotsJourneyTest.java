package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.SelectOption;
import dev.ordinator.testing.Sample;
import java.time.Instant;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What came with the delivery, and who got the lot that is recalled? */
@ExtendWith(Stage.class)
class LotsJourneyTest {
  @Test
  void aDeliveryWithAShortLineIsScannedInByLot() {
    expect("SYRUP-2", 5, "PO-7001");
    expect("BOOK-YEAR", 3, "PO-7001");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.click("A delivery came…");
      Locator dialog = mara.page().locator("dialog");
      String delivery =
          dialog
              .locator("option", new Locator.LocatorOptions().setHasText("PO-7001"))
              .textContent()
              .strip();
      dialog.getByLabel("Which").selectOption(new SelectOption().setLabel(delivery));
      Locator scanner = dialog.getByLabel("Scan what you unpack");
      for (int i = 0; i < 3; i++) {
        scanner.fill("8712340051209");
        scanner.press("Enter");
      }
      assertThat(dialog).containsText("SYRUP-2: 3 of 5");
      scanner.fill("HB-DEEP-PIN");
      scanner.press("Enter");
      assertThat(dialog).containsText("‘HB-DEEP-PIN’ is not expected with it");
      dialog.getByLabel("Damaged units of SYRUP-2").fill("1");
      dialog.getByLabel("Good units of BOOK-YEAR").fill("3");
      assertThat(dialog).containsText("▼ 1 unit short");
      dialog.getByText("no more of it comes").click();
      mara.isAccessible();
      mara.click("Take in 7 units");
      assertThat(dialog.getByRole(AriaRole.ALERT)).containsText("say which lot it is of");
      dialog.getByLabel("Lot of SYRUP-2").fill("S-2026-11");
      dialog.getByLabel("SYRUP-2 may be used until").fill(LocalDate.now().plusDays(400).toString());
      mara.click("Take in 7 units");
      mara.sees("7 units taken in at Stillwater");
      assertThat(dialog).hasCount(0);
      mara.field("Find items").fill("S-2026-11");
      assertThat(mara.rows()).hasCount(1);
      mara.row("SYRUP-2").click();
      Locator item = mara.page().locator("aside");
      assertThat(item).containsText("S-2026-11");
      assertThat(item).containsText("✕ damaged");
      assertThat(item).containsText("Nothing of it is on its way");
      mara.isAccessible();
    }
  }

  @Test
  void aRecalledLotIsTakenBackAndItsOrdersAreKnown() {
    Stage.world().shop().place(Sample.order("LJ1", "MITE-TH", 2));
    await("it holds some")
        .until(() ->
            Stage.world()
                .db()
                .fetchExists(
                    SALES_ORDER,
                    SALES_ORDER.EXTERNAL_ID.eq("LJ1").and(SALES_ORDER.STAGE.eq("RELEASED"))));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/stock");
      mara.field("Find items").fill("MITE-TH");
      mara.row("MITE-TH").click();
      Locator item = mara.page().locator("aside");
      Locator held =
          item.locator("tr").filter(new Locator.FilterOptions().setHasText("MITETH2604"));
      held.getByRole(AriaRole.BUTTON).first().click();
      Locator dialog = mara.page().locator("dialog");
      assertThat(dialog).containsText("1 order would");
      assertThat(dialog).containsText("buyer-LJ1@buyer.example");
      mara.isAccessible();
      dialog.getByLabel("Why it may not be sold").fill("strips of the wrong strength");
      mara.click("Recall the lot");
      assertThat(dialog).containsText("Recalled");
      assertThat(dialog).containsText("in quarantine");
      dialog.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Close")).click();
      assertThat(item).containsText("✕ recalled");
      assertThat(mara.row("MITE-TH")).isVisible();
    }
  }

  private static void expect(String sku, long units, String number) {
    var db = Stage.world().db();
    db.insertInto(EXPECTED_SUPPLY)
        .set(
            EXPECTED_SUPPLY.ITEM_ID,
            db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1())
        .set(
            EXPECTED_SUPPLY.NODE_ID,
            db.select(NODE.ID).from(NODE).where(NODE.CODE.eq("STW")).fetchSingle().value1())
        .set(EXPECTED_SUPPLY.SUPPLIER, "Meadow Seeds")
        .set(EXPECTED_SUPPLY.NUMBER, number)
        .set(EXPECTED_SUPPLY.QUANTITY, units)
        .set(EXPECTED_SUPPLY.DUE, LocalDate.now().plusDays(2))
        .set(EXPECTED_SUPPLY.NOTED_BY, "Mara")
        .set(EXPECTED_SUPPLY.NOTED_AT, Instant.now())
        .execute();
  }
}
