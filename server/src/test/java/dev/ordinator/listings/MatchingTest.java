package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Which of our items a listing is, and what follows when that was said wrongly. */
class MatchingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void oneOfAListingCanBeSeveralUnitsOfAnItem() {
    here.world().shop().place(Sample.order("M1", "CASE-OF-12", 2));
    here.awaitMark("M1", "unmatched listing");
    assertThat(match("CASE-OF-12", "match", "TOOL-J", 0)).isEqualTo(422);
    assertThat(match("CASE-OF-12", "match", "TOOL-J", 12)).isEqualTo(204);
    JsonNode row = here.awaitStage("M1", "RELEASED");
    assertThat(row.path("units").asLong()).as("two cases of twelve").isEqualTo(24);
  }

  @Test
  void aWrongMatchIsCorrectedAndWhatIsNotReleasedBeginsAnew() {
    here.world().shop().place(Sample.order("M2", "ODD", 1, Sample.order("x").shipTo(), "paid", ""));
    here.awaitMark("M2", "unmatched listing");
    assertThat(match("ODD", "match", "BRUSH", 1)).isEqualTo(204);
    here.awaitStage("M2", "RELEASED");
    here.world()
        .shop()
        .place(Sample.order("M3", "ODD", 1, Sample.order("x").shipTo(), "unpaid", ""));
    here.awaitMark("M3", "payment awaited");

    JsonNode effect = here.mara().read("/api/listings/" + listing("ODD") + "/rematch");
    assertThat(effect.path("anew").asInt()).isEqualTo(1);
    assertThat(effect.path("released").asInt()).isEqualTo(1);
    assertThat(match("ODD", "rematch", "NO-SUCH", 1)).isEqualTo(422);
    assertThat(match("ODD", "rematch", "TOOL-J", 1)).isEqualTo(200);
    await("the waiting order has the right item").until(() -> sku("M3").equals("TOOL-J"));
    assertThat(sku("M2")).as("its node is at work on it").isEqualTo("BRUSH");
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatIsMostLikelyIsMatchedInOneGoOrNotAtAll() {
    here.world().shop().place(Sample.order("M6", "SMOKER_L", 1));
    here.world().shop().place(Sample.order("M7", "HIVE TOOL?", 1));
    here.awaitMark("M6", "unmatched listing");
    here.awaitMark("M7", "unmatched listing");
    JsonNode likeliest = here.mara().read("/api/listings/likeliest?channel=" + web()).get(0);
    assertThat(likeliest.path("listingId").asLong()).isEqualTo(listing("SMOKER_L"));
    assertThat(likeliest.path("suggestion").path("sku").asString()).isEqualTo("SMOKER-L");
    assertThat(likeliest.path("suggestion").path("percent").asInt()).isEqualTo(90);
    Map<String, Object> good = Map.of("listing", listing("SMOKER_L"), "sku", "SMOKER-L");
    Map<String, Object> bad = Map.of("listing", listing("HIVE TOOL?"), "sku", "NO-SUCH");
    assertThat(
            here.mara()
                .post("/api/listings/matches", Map.of("matches", List.of(good, bad)))
                .status())
        .isEqualTo(422);
    assertThat(here.order("M6").path("marks").toString()).contains("unmatched");
    assertThat(here.mara().post("/api/listings/matches", Map.of("matches", List.of(good))).status())
        .isEqualTo(204);
    here.awaitStage("M6", "RELEASED");
  }

  @Test
  void theMatchTableGoesOutAsCsvAndComesBackFilledIn() {
    here.world().shop().place(Sample.order("M4", "CSV-ONE", 1));
    here.world().shop().place(Sample.order("M5", "CSV-TWO", 1));
    here.awaitMark("M4", "unmatched listing");
    here.awaitMark("M5", "unmatched listing");
    String csv = here.mara().raw("/api/listings/csv?channel=" + web()).body();
    assertThat(csv).contains("listing-CSV-ONE,CSV-ONE,Listing of CSV-ONE,,1");
    String filled =
        csv.replace("Listing of CSV-ONE,,1", "Listing of CSV-ONE,TOOL-J,2")
            .replace("Listing of CSV-TWO,,1", "Listing of CSV-TWO,NO-SUCH,1");
    JsonNode read =
        here.mara().postText("/api/listings/csv?channel=" + web(), "text/csv", filled).body();
    assertThat(read.path("matched").asInt()).isEqualTo(1);
    assertThat(read.path("refused").toString()).contains("no item has the SKU ‘NO-SUCH’");
    here.awaitStage("M4", "RELEASED");
  }

  private static int match(String sku, String how, String ours, long each) {
    return here.mara()
        .post("/api/listings/" + listing(sku) + "/" + how, Map.of("sku", ours, "unitsEach", each))
        .status();
  }

  private static String sku(String order) {
    return here.mara()
        .read("/api/orders/" + here.order(order).path("id").asLong())
        .path("lines")
        .get(0)
        .path("sku")
        .asString("");
  }

  private static long listing(String sku) {
    return here.world()
        .db()
        .select(LISTING.ID)
        .from(LISTING)
        .where(LISTING.SKU.eq(sku))
        .fetchSingle()
        .value1();
  }

  private static long web() {
    return here.world()
        .db()
        .select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq("WEB"))
        .fetchSingle()
        .value1();
  }
}
