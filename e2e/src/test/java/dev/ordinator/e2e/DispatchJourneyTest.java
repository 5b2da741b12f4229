package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import dev.ordinator.testing.Sample;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What leaves when? */
@ExtendWith(Stage.class)
class DispatchJourneyTest {

  @Test
  void theDueBoardNarrowsTheListAndTheKeysLeadToTheBenchAndBack() {
    Stage.world().shop().place(Sample.order("DJ1", "EX-4E", 1));
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/dispatch?node=STW");
      mara.isAccessible();
      mara.page()
          .getByLabel(Pattern.compile("Stillwater, (today|tomorrow|later): [1-9]"))
          .first()
          .click();
      assertThat(mara.page()).hasURL(Pattern.compile(".*due=(TODAY|TOMORROW|LATER).*"));
      assertThat(mara.row("Stillwater")).isVisible();

      mara.press("j", "k");
      mara.press("Enter");
      assertThat(mara.field("Scan each unit")).isFocused();
      mara.press("Escape");
      assertThat(mara.field("Consignment number")).isVisible();
    }
  }

  @Test
  void whatIsNotThereIsRefusedAndGoesElsewhere() {
    Stage.world().shop().place(Sample.order("DJ2", "SMOKER-L", 1));
    try (Desk mara = Stage.desk("mara")) {
      mara.list("/dispatch");
      mara.rows().first().click();
      mara.press("Enter");
      mara.click("Can’t fill it");
      Locator dialog = mara.page().locator("dialog");
      mara.isAccessible();
      mara.click("Refuse it");
      assertThat(dialog.getByRole(AriaRole.ALERT)).containsText("say what of it");
      dialog.getByLabel(Pattern.compile("Units of ")).first().fill("1");
      mara.click("Refuse it");
      mara.sees("is refused; its order is routed elsewhere");
      assertThat(mara.field("Consignment number")).isVisible();
    }
  }

  @Test
  void anUnknownSlipIsSaidAtOnce() {
    try (Desk joss = Stage.desk("joss")) {
      joss.field("Consignment number").fill("BW-0-0");
      joss.press("Enter");
      joss.sees("BW-0-0");
      assertThat(joss.page().getByRole(AriaRole.ALERT)).containsText("BW-0-0");
    }
  }
}
