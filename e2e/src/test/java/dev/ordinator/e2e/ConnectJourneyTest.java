package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import com.microsoft.playwright.Locator;
import dev.ordinator.standins.Market;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A new system's first hour: a marketplace from nothing to live, and the guard at its door. */
@ExtendWith(Stage.class)
class ConnectJourneyTest {
  private static final Locator.GetByTextOptions EXACTLY =
      new Locator.GetByTextOptions().setExact(true);

  @Test
  void aMarketplaceIsConnectedFromNothingToLiveAndAWipeOutIsStopped() {
    Market market = Stage.world().standIns().market();
    market.place(market.generator().of("CN-1", "NL", "TOOL-J", 1));
    market.place(market.generator().of("CN-2", "DE", "SMOKER_L", 1));
    try (Desk mara = Stage.desk("mara")) {
      connect(mara, market);
      matchTheOneThatIsUnmatched(mara);
      goLive(mara);
      stopTheWipeOut(mara);
    }
  }

  private static void connect(Desk mara, Market market) {
    mara.go("/channels");
    mara.click("Connect a channel…");
    mara.field("Name").fill("Kestrel North");
    mara.field("Short code").fill("north");
    mara.field("Number prefix").fill("KN-");
    mara.isAccessible();
    mara.click("Begin");
    assertThat(mara.page().locator("dialog")).hasCount(0); // until then the page behind it is inert

    mara.seesHeading("Connecting Kestrel North");
    mara.field("Address").fill(market.url());
    mara.field("Our name there").fill(Market.CLIENT_ID);
    mara.field("Secret or key").fill("not the secret");
    mara.click("Try it");
    mara.sees("answered 401");
    mara.field("Secret or key").fill(Market.CLIENT_SECRET);
    mara.isAccessible();
    mara.click("Try it");
    mara.sees("It lets us in");

    mara.sees("offer_accepted: a price was agreed");
    mara.page().reload(); // left, and taken up again
    mara.sees("offer_accepted: a price was agreed");
    mara.isAccessible();
    mara.click("Keep that");
    mara.field("Listings are matched by").selectOption("GTIN");
    mara.isAccessible();
    mara.click("Keep that");

    mara.page().getByLabel("without a match").check();
    assertThat(mara.row("Smoker, large, with guard")).containsText("none yet");
    mara.click("On to the preview");
    assertThat(mara.row("CN-2")).containsText("not matched: Smoker, large, with guard");
    mara.isAccessible();
    mara.click("Connect, listening only");
    assertThat(mara.row("Kestrel North")).containsText("listens only");
  }

  private static void matchTheOneThatIsUnmatched(Desk mara) {
    mara.go("/channels?c=NORTH&tab=listings&unmatched=1");
    assertThat(mara.row("Smoker, large, with guard")).containsText("1 order");
    mara.row("Smoker, large, with guard").getByText("Match").click();
    mara.sees("same SKU but for its dashes");
    mara.page().locator("dialog input[value=SMOKER-L]").check();
    mara.page().locator("dialog").getByText("Match", EXACTLY).click();
    assertThat(mara.row("Smoker, large, with guard")).hasCount(0);
  }

  private static void goLive(Desk mara) {
    mara.click("Tell it…");
    mara.click("Tell it from now on");
    assertThat(mara.row("Kestrel North")).not().containsText("listens only");
    mara.click("Stock feed");
    mara.click("Tell it what is in stock");
    mara.sees("it is the first push to this channel");
    mara.isAccessible();
    mara.click("Let it through");
    mara.sees("let through by Mara");
  }

  private static void stopTheWipeOut(Desk mara) {
    var db = Stage.world().db();
    try {
      db.update(STOCK_LEVEL).set(STOCK_LEVEL.SAFETY, 1_000_000L).execute();
      mara.sees("live listings to zero");
      assertThat(mara.row("Kestrel North")).containsText("stock is held");
      mara.click("Refuse");
      mara.sees("refused by Mara");
    } finally {
      db.update(STOCK_LEVEL).set(STOCK_LEVEL.SAFETY, 0L).execute();
    }
  }
}
