package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Is each connection healthy, and what could it not do by itself? */
@ExtendWith(Stage.class)
class ChannelsJourneyTest {

  @Test
  void aMessageThatCouldNotBeReadIsCorrectedAndTakenIn() {
    Stage.world().shop().place(Sample.order("CJ1", "BRUSH", 0));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=WEB&tab=refused");
      assertThat(mara.row("CJ1")).containsText("lines[0].quantity");
      mara.row("CJ1").getByText("Correct").click();
      mara.isAccessible();
      var message = mara.page().locator("dialog textarea");
      message.fill(message.inputValue().replaceAll("\"quantity\"\\s*:\\s*0", "\"quantity\": 2"));
      mara.click("Take it in");
      assertThat(mara.row("CJ1")).hasCount(0);
      mara.list("/orders?pile=ALL");
      mara.press("/");
      mara.page().keyboard().type("CJ1");
      assertThat(mara.found()).hasCount(1);
    }
  }

  @Test
  void aConnectionCanBePausedMadeToListenOnlyAndPulledByHand() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?c=WEB");
      mara.isAccessible();
      mara.click("Pause");
      assertThat(mara.row("Brackenholt web shop")).containsText("paused");
      mara.click("Go on");
      mara.click("Listen only");
      assertThat(mara.row("Brackenholt web shop")).containsText("listens only");
      mara.click("Tell it…");
      mara.sees("From now on it is told");
      mara.click("Tell it from now on");
      assertThat(mara.row("Brackenholt web shop")).not().containsText("listens only");
      mara.click("Pull now");
      mara.sees("Pulling now");
      mara.click("What was said");
      assertThat(mara.row("/api/orders?after=")).containsText("200");
    }
  }

  @Test
  void wordingsAreTaughtAndForgottenAndTheMatchTableIsSearched() {
    try (Desk mara = Stage.desk("mara")) {
      Stage.world().shop().place(Sample.order("CJ2", "BRUSH", 1));
      mara.go("/channels?c=WEB");
      mara.field("Find listings").fill("Listing of BRUSH");
      assertThat(mara.row("listing-BRUSH")).containsText("by SKU");
      mara.click("Wordings");
      mara.field("The channel’s wording").fill("Carrier pigeon");
      mara.click("Add");
      assertThat(mara.row("Carrier pigeon")).isVisible();
      mara.row("Carrier pigeon").getByText("Forget").click();
      assertThat(mara.row("Carrier pigeon")).hasCount(0);
      mara.click("Carriers");
      mara.sees("takes any name");
      mara.isAccessible();
    }
  }

  @Test
  void connectionsAreWalkedThroughFromTheKeyboard() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels");
      mara.seesHeading("Brackenholt web shop");
      mara.press("j");
      mara.seesHeading("Kestrel Market");
      mara.press("j", "k", "k");
      mara.seesHeading("Brackenholt web shop");
    }
  }
}
