package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import dev.ordinator.testing.Sample;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Is the connection healthy, and what could it not do by itself? */
@ExtendWith(Stage.class)
class ChannelsJourneyTest {

  @Test
  void aMessageThatCouldNotBeReadIsCorrectedAndTakenIn() {
    Stage.world().shop().place(Sample.order("CJ1", "BRUSH", 0));
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels?tab=refused");
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
  void theConnectionCanBePausedMadeToListenOnlyAndPulledByHand() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/channels");
      mara.isAccessible();
      mara.click("Pause");
      mara.sees("1 of 1 connection need a look");
      mara.click("Go on");
      mara.click("Listen only");
      mara.sees("nothing is written to this channel");
      mara.click("Speak again");
      mara.sees("All well");
      mara.click("Pull now");
      mara.sees("Pulling now");
    }
  }

  @Test
  void aServiceWordingIsTaughtAndTheMatchTableIsSearched() {
    try (Desk mara = Stage.desk("mara")) {
      Stage.world().shop().place(Sample.order("CJ2", "BRUSH", 1));
      mara.go("/channels");
      mara.field("Find listings").fill("Listing of BRUSH");
      assertThat(mara.row("listing-BRUSH")).containsText("by SKU");
      mara.click("Service wordings");
      mara.sees("Home delivery");
    }
  }
}
