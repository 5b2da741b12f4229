package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import java.time.LocalDate;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Who can ship where, how fast, at what cost? */
@ExtendWith(Stage.class)
class NetworkJourneyTest {

  @Test
  void theTableFollowsTheWeightAndANodeIsClosedAndOpenedAgain() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.seesHeading("5 nodes send to 4 zones");
      mara.isAccessible();
      Locator home = mara.page().locator("tbody tr").first();
      assertThat(home).containsText("◆");
      mara.field("Its weight in kilograms").fill("25");
      mara.press("Tab");
      // Canal Row: 3.15 and nine steps of 0.95, handling 2.30
      assertThat(home).containsText("14.00");

      mara.click("Close Ferry Lane…");
      Locator dialog = mara.page().locator("dialog");
      String day = LocalDate.now().plusDays(300).toString();
      dialog.getByLabel("To", exactly()).fill(day);
      dialog.getByLabel("From", exactly()).fill(day);
      dialog.getByLabel("Why", exactly()).fill("the street is dug up");
      assertThat(dialog).containsText("Nothing waits there to leave then");
      mara.isAccessible();
      mara.press("Enter");
      assertThat(dialog).hasCount(0);
      mara.sees("the street is dug up");
      mara.isAccessible();
      mara.click("Open it then");
      assertThat(mara.page().getByText("the street is dug up")).hasCount(0);
    }
  }

  @Test
  void aLaneIsDearerAndAZoneIsMadeOnScreen() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.click("By what Ferry Lane sends to home");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByText("DUNLIN PARCEL").click();
      Locator rates = dialog.getByLabel("Rates:");
      assertThat(rates).hasValue(Pattern.compile("^\\d+ 3\\.15"));
      rates.fill("2 kg 3.15");
      mara.click("Keep");
      mara.sees("Each line of the rates is a weight in grams and a price");
      mara.isAccessible();
      rates.fill("30000 3.99");
      mara.click("Keep");
      mara.sees("sends so to home from now on");
      mara.press("Escape");
      assertThat(dialog).hasCount(0);
      // handling 2.30
      assertThat(mara.button("By what Ferry Lane sends to home")).containsText("6.29");
      mara.click("Undo");
      assertThat(mara.button("By what Ferry Lane sends to home")).not().containsText("6.29");

      mara.click("New zone…");
      dialog.getByLabel("Its code").fill("ISLES");
      dialog.getByLabel("A country a line").fill("Holland");
      mara.click("Keep");
      mara.sees("two letters, such as NL");
      dialog.getByLabel("A country a line").fill("NL 1791\nNL 8881");
      mara.isAccessible();
      mara.click("Keep");
      mara.sees("isles is so from now on");
      mara.click("What is in isles");
      assertThat(dialog.getByLabel("A country a line")).hasValue("NL 1791\nNL 8881");
    }
    Stage.world().db().execute("delete from zone_match where postcode in ('1791', '8881')");
    Stage.world().db().execute("delete from zone where code = 'ISLES'");
  }

  @Test
  void aNodeWorksOtherwiseAndOneDayHasAnotherCapacity() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.click("How Ferry Lane works");
      Locator dialog = mara.page().locator("dialog");
      String day = LocalDate.now().plusDays(200).toString();
      dialog.getByLabel("Day", exactly()).fill(day);
      dialog.getByLabel("Consignments on it").fill("7");
      dialog.getByText("Add", new Locator.GetByTextOptions().setExact(true)).click();
      assertThat(dialog.locator("li")).containsText("7");
      mara.isAccessible();
      dialog.getByLabel("is as usual").click();
      assertThat(dialog).containsText("Every day is as usual");
      dialog.getByLabel("Workdays", exactly()).fill("MON-FUN");
      mara.click("Keep");
      mara.sees("is not a weekday");
      dialog.getByLabel("Workdays", exactly()).fill("mon-sat");
      mara.click("Keep");
      assertThat(dialog).hasCount(0);
      mara.sees("Ferry Lane works so from now on");
      // that of another may still stand above it
      mara.page().getByText("works so from now on").locator("..").getByText("Undo").click();
      mara.sees("It works as before");
      mara.click("Files…");
      assertThat(mara.page().locator("dialog")).containsText("All there is");
      mara.isAccessible();
    }
  }

  @Test
  void aNodeTakesThePublicHolidaysOfItsCountry() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.click("Holidays of Ferry Lane");
      Locator dialog = mara.page().locator("dialog");
      int year = LocalDate.now().getYear() + 2;
      dialog.getByLabel("Year").selectOption(String.valueOf(year));
      dialog.getByText("public holidays of").click();
      assertThat(dialog).containsText("New Year");
      mara.isAccessible();
      mara.click("1 Jan %d is a working day".formatted(year));
      mara.click("Keep");
      assertThat(dialog).hasCount(0);
      mara.sees("Ferry Lane does not work on");
      mara.click("Undo");
      mara.sees("as before");
    }
  }

  @Test
  void routingIsStoppedForAChannelAndGoesOn() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/network");
      mara.click("Stop routing…");
      Locator dialog = mara.page().locator("dialog");
      // of a channel that no other journey takes orders from
      dialog.getByLabel("What").selectOption("channel GUILD");
      dialog.getByLabel("Why").fill("their catalogue is wrong");
      mara.isAccessible();
      mara.press("Enter");
      assertThat(dialog).hasCount(0);
      mara.sees("their catalogue is wrong");
      mara.isAccessible();
      mara.go("/today");
      mara.sees("their catalogue is wrong");
      mara.click("Route again");
      assertThat(mara.page().getByText("their catalogue is wrong")).hasCount(0);
    }
  }

  private static Locator.GetByLabelOptions exactly() {
    return new Locator.GetByLabelOptions().setExact(true);
  }
}
