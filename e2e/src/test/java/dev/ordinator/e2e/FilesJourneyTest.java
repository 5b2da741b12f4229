package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A spreadsheet in a layout that nobody here has seen before. */
@ExtendWith(Stage.class)
class FilesJourneyTest {

  @Test
  void threeBadRowsOfTwoHundredAreCorrectedInPlaceAndTheRestIsTaken() {
    StringBuilder csv =
        new StringBuilder("Nr;Wann;Verein;Gasse;PLZ;Ort;Artikelnummer;Menge;Einzelpreis\r\n");
    for (int i = 1; i <= 200; i++) {
      String units = i == 20 ? "viele" : "1";
      String price = i == 70 ? "12,505" : "12,50";
      String town = i == 120 ? "" : "Ulm";
      csv.append(
          "FJ%03d;24.11.2026;Imkerverein Ulm;Donauweg %d;89073;%s;TOOL-J;%s;%s\r\n"
              .formatted(i, i, town, units, price));
    }
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=CLUBS");
      mara.page()
          .locator("input[type=file]")
          .setInputFiles(
              new FilePayload(
                  "bestellungen.csv",
                  "text/csv",
                  csv.toString().getBytes(Charset.forName("windows-1252"))));
      mara.sees("Which column is which?");
      mara.isAccessible();
      choose(mara, "order", "Nr");
      choose(mara, "placed", "Wann");
      choose(mara, "buyer", "Verein");
      choose(mara, "street", "Gasse");
      mara.field("Country where none is given").fill("de");
      mara.click("Check every row");

      mara.page().getByText("refused 3").first().click();
      assertThat(mara.page().locator("section tbody tr")).hasCount(3);
      assertThat(mara.row("FJ020")).containsText("quantity ‘viele’ is not a whole number");
      mara.isAccessible();
      correct(mara, "Menge, row 21", "3");
      correct(mara, "Einzelpreis, row 71", "12,50");
      correct(mara, "Ort, row 121", "Ulm");
      mara.sees("No row is like that.");
      mara.click("Take 200 good rows in");
      mara.sees("200 orders of it taken in");
      mara.click("Take it back");
      mara.sees("Taken back");
    }
  }

  @Test
  void whatAFileLeavesOpenIsAskedWithItsMeaningsAndItsSumsAreSeenBeforeAnythingIsTaken() {
    String csv =
        """
        order;buyer;street;postcode;city;country;sku;quantity;price
        FA1;Imkerverein Ulm;Donauweg 18;89073;Ulm;DE;TOOL-J;1.000;12,50
        FA2;Imkerverein Hof;Saaleweg 2;95028;Hof;DE;TOOL-J;2;1,234.50
        """;
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=CLUBS");
      mara.page()
          .locator("input[type=file]")
          .setInputFiles(
              new FilePayload("offen.csv", "text/csv", csv.getBytes(StandardCharsets.UTF_8)));
      mara.sees("Which column is which?");
      mara.click("Check every row");
      mara.sees("‘1.000’ can be read as 1 (if written like 1,234.50) or as 1000");
      mara.isAccessible();
      mara.field("Amounts look like").selectOption("1.234,50");
      mara.click("Check every row");
      mara.sees("1 order with 1,000 units");
      assertThat(mara.row("FA2")).containsText("price ‘1,234.50’ is not a number");
      mara.click("Discard");
    }
  }

  private static void choose(Desk mara, String field, String column) {
    mara.page()
        .locator("label")
        .filter(new Locator.FilterOptions().setHasText(field))
        .locator("select")
        .first()
        .selectOption(column);
  }

  private static void correct(Desk mara, String cell, String text) {
    mara.field(cell).fill(text);
    mara.press("Tab");
    assertThat(mara.page().getByLabel(cell)).hasCount(0);
  }
}
