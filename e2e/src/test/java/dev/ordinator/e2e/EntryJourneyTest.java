package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Coming in, and what each role finds there. */
@ExtendWith(Stage.class)
class EntryJourneyTest {

  @Test
  void aWrongPasswordIsExplainedAndTheRightOneEnters() {
    try (Desk somebody = Desk.visitor(Stage.browser(), Stage.world().address())) {
      somebody.isAccessible();
      somebody.field("Log-in name").fill("mara");
      somebody.field("Password").fill("not this");
      somebody.click("Enter");
      somebody.sees("The name is unknown or the password is wrong.");
      somebody.logIn("mara");
      somebody.click("log out");
      assertThat(somebody.field("Log-in name")).isVisible();
    }
  }

  @Test
  void theReaderSeesEverythingAndIsOfferedNothing() {
    Stage.world().shop().place(Sample.order("EJ1", "NEVER-SOLD", 1));
    try (Desk vera = Stage.desk("vera")) {
      vera.go("/today");
      vera.sees("Listing of NEVER-SOLD");
      assertThat(vera.button("Match")).hasCount(0);
      vera.go("/channels");
      vera.sees("Brackenholt web shop");
      assertThat(vera.button("Pull now")).hasCount(0);
      vera.list("/orders?pile=ALL");
      vera.press("j");
      assertThat(vera.tab("Timeline")).isVisible();
      assertThat(vera.button("Note")).hasCount(0);
    }
  }

  @Test
  void thePaletteAndTheKeysLeadEverywhere() {
    try (Desk mara = Stage.desk("mara")) {
      mara.press("g", "s");
      mara.seesHeading("items");
      mara.press("g", "d");
      mara.sees("Due board");
      mara.isAccessible();
      mara.press("Control+k");
      mara.page().keyboard().type("stuck");
      mara.press("Enter");
      mara.seesHeading("open orders");
      assertThat(mara.page().locator("dialog[open]")).hasCount(0); // keys belong to it until then
      mara.press("Shift+?");
      mara.sees("do the first thing suggested");
      mara.isAccessible();
    }
  }
}
