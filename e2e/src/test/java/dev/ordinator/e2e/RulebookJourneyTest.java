package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.max;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import dev.ordinator.stock.LevelDays;
import dev.ordinator.testing.Sample;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Why does it decide so, and what if it decided otherwise? */
@ExtendWith(Stage.class)
class RulebookJourneyTest {

  /** The journeys share one world: what was tried here decides nothing elsewhere. */
  @AfterAll
  static void backToTheFirstEdition() {
    var mara = Stage.world().visitor("mara");
    int changes =
        mara.post("/api/rulebook/editions/1/draft", "")
            .body()
            .path("draft")
            .path("changes")
            .asInt();
    mara.post("/api/rulebook/draft/live", Map.of("changes", changes, "note", "as it was"));
  }

  @Test
  void aRuleIsWrittenByKeyboardSeenForWhatItWouldMeetAndMadeLive() {
    Stage.world().shop().place(Sample.order("RL1", "BRUSH", 1));
    Stage.released("RL1");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/rulebook");
      mara.isAccessible();
      mara.press("n");
      Locator rule = mara.page().locator("form");
      rule.getByLabel("With what").fill("NL, BE");
      mara.press("Tab");
      rule.getByLabel("Tag").fill("low-lands");
      mara.press("Tab");
      assertThat(rule).containsText("would have met");
      rule.getByLabel("Its name").fill("Low lands");
      mara.isAccessible();
      mara.press("Control+Enter");
      mara.seesHeading("draft");
      assertThat(current(mara))
          .containsText("destination country is one of NL, BE, tag it low-lands");

      // a rule that it leaves nothing to do is pointed out
      mara.press("d");
      mara.sees("“Low lands” written again");
      mara.press("e");
      rule.getByLabel("What is done").selectOption("take off the tag");
      rule.getByLabel("Tag").fill("low-lands");
      mara.press("Control+Enter");
      assertThat(rules(mara)).containsText("Can never decide: whenever it holds");
      mara.isAccessible();
      mara.press("Delete");
      mara.sees("taken out");
      assertThat(rules(mara)).not().containsText("Can never decide");

      part(mara, "Differences").click();
      mara.sees("+ added");
      mara.click("Make it live…");
      Locator dialog = mara.page().locator("dialog");
      dialog.getByLabel("What it changes, and why").fill("the low lands are told apart");
      mara.isAccessible();
      mara.press("Enter");
      assertThat(dialog).hasCount(0);
      mara.seesHeading("live");
    }
    Stage.world().shop().place(Sample.order("RL2", "BRUSH", 1));
    long id = Stage.released("RL2");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/orders/" + id + "?pile=ALL&tab=timeline");
      mara.sees("tagged “low-lands”");
    }
  }

  @Test
  void anExpressionIsWrittenWithWhatIsWrongInItShown() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/rulebook");
      assertThat(rules(mara).locator("li").nth(1)).isVisible();
      mara.press("n");
      Locator rule = mara.page().locator("form");
      rule.getByLabel("Without it").first().click();
      rule.getByText("and an expression…").click();
      rule.locator("textarea").fill("country != 'NL' && total > 5");
      assertThat(rule).containsText("Line 1, column 20");
      mara.isAccessible();
      rule.locator("textarea").fill("country != 'NL' && value > 5");
      assertThat(rule).containsText("Sound.");
      rule.getByLabel("Tag").fill("abroad");
      rule.getByLabel("Its name").fill("From abroad");
      mara.press("Control+Enter");
      mara.seesHeading("draft");
      assertThat(rules(mara)).containsText("country != 'NL' && value > 5, tag it abroad");
      mara.click("Throw the draft away");
      mara.seesHeading("live");
    }
  }

  @Test
  void rulesMoveByKeysAndALadderThatForbidsSplittingIsDrawn() {
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/rulebook");
      assertThat(rules(mara).locator("li").nth(1)).isVisible();
      // what leads to another view does nothing to the rule that is selected
      mara.press("j", "g", "d");
      mara.sees("Due board");
      mara.press("g", "r");
      mara.seesHeading("live");
      assertThat(rules(mara).locator("li").nth(1)).isVisible();
      mara.press("j", "Alt+ArrowDown");
      mara.seesHeading("draft");
      assertThat(rules(mara).locator("li").nth(1)).hasAttribute("aria-current", "true");
      part(mara, "Ladders").click();
      mara.click("Another ladder…");
      Locator ladder = mara.page().locator("form");
      ladder.getByLabel("Its name").fill("Whole parcels only");
      ladder.getByLabel("Name of rung 1").fill("One node for all of it");
      mara.isAccessible();
      mara.click("Keep");
      mara.sees("Ladder “Whole parcels only”");
      mara.isAccessible();
      mara.click("Throw the draft away");
      mara.seesHeading("live");
      part(mara, "Editions").click();
      mara.sees("the first edition");
      mara.isAccessible();
    }
  }

  @Test
  void aLadderIsRehearsedAndTheDifferenceIsRead() {
    Stage.world().bean(LevelDays.class).keepToday();
    Stage.world()
        .shop()
        .place(Sample.order("RL3", "GLOVE-NIT-7", mostAtOneNode("GLOVE-NIT-7") + 1));
    Stage.released("RL3");
    try (Desk mara = Stage.desk("mara")) {
      mara.go("/rulebook?tab=rehearsal");
      mara.sees("Change a rule or a ladder first");
      mara.isAccessible();
      part(mara, "Ladders").click();
      mara.click("Change “Everyday”");
      Locator ladder = mara.page().locator("form");
      for (int rung = 1; rung <= 4; rung++) {
        ladder.getByLabel("Consignments, rung " + rung).fill("1");
      }
      mara.click("Keep");
      mara.seesHeading("draft");

      part(mara, "Rehearsal").click();
      mara.click("Rehearse");
      mara.seesHeading("orders otherwise");
      assertThat(mara.row("nothing could be sent of")).containsText("+ 1");
      mara.isAccessible();
      mara.page()
          .locator("table")
          .last()
          .locator("tbody tr")
          .filter(new Locator.FilterOptions().setHasText("nothing could be sent"))
          .getByRole(AriaRole.BUTTON)
          .focus();
      mara.press("Enter");
      mara.sees("As it was decided");
      mara.sees("No node can");
      mara.isAccessible();
      mara.page().reload();
      mara.sees("As it was decided");
      mara.click("Throw it away");
      mara.sees("A rehearsal says what the draft would have made");
      mara.click("Throw the draft away");
      mara.seesHeading("live");
    }
  }

  private static long mostAtOneNode(String sku) {
    return Stage.world()
        .db()
        .select(max(STOCK_LEVEL.ON_HAND.minus(STOCK_LEVEL.ALLOCATED)))
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .where(ITEM.SKU.eq(sku))
        .fetchSingle()
        .value1();
  }

  private static Locator part(Desk desk, String name) {
    return desk.page().getByRole(AriaRole.TAB).filter(new Locator.FilterOptions().setHasText(name));
  }

  private static Locator rules(Desk desk) {
    return desk.page().locator("main ol").first();
  }

  private static Locator current(Desk desk) {
    return desk.page().locator("main li[aria-current=true]");
  }
}
