package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A supplier says what it offers, and that is offered on. */
@ExtendWith(Stage.class)
class SuppliersJourneyTest {

  @Test
  void aFileIsSeenTakenAndItsOffersCanBeOfferedOnTheMarket() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/suppliers");
      mara.isAccessible();
      mara.click("Add a supplier");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("Name").fill("Lindenhof Wax");
      dialog.getByLabel("Short code").fill("linden");
      mara.press("Enter");
      mara.seesHeading("What Lindenhof Wax offers us");
      mara.sees("It offers nothing yet");
      mara.click("Read a file of offers");
      mara.field("The supplier’s file")
          .setInputFiles(
              new FilePayload(
                  "offers.csv",
                  "text/csv",
                  "code,title,gtin,price,available\nW1,Wax melter,,64.00,9\nW2,Wax cutter,,x,2\n"
                      .getBytes(StandardCharsets.UTF_8)));
      assertThat(dialog).containsText("1 row can’t be read");
      assertThat(dialog).containsText("‘x’ is not a number");
      mara.isAccessible();
      mara.click("Take it");
      assertThat(mara.row("Wax melter")).containsText("none yet");

      mara.go("/channels?c=MARKET&tab=offers");
      mara.field("What is offered").selectOption("offers of Lindenhof Wax");
      assertThat(mara.row("LINDEN-W1")).containsText("9");
      mara.isAccessible();
    }
  }
}
