package dev.ordinator.publishing;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Made;
import dev.ordinator.standins.Market;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor.Answer;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Items offered on a channel, and a channel's listings taken in as items. */
class PublishingTest {
  private static final Map<String, Object> RULE =
      Map.of(
          "markupHundredths", 10_000,
          "plus", 50,
          "ending", "NINETY_FIVE",
          "floorHundredths", 1_000,
          "country", "NL");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeAll
  static void listingsAreKnown() {
    await("the market's listings are all in")
        .until(() ->
            here.world()
                .db()
                .fetchExists(
                    CHANNEL, CHANNEL.ID.eq(market()).and(CHANNEL.LAST_SUCCESS_AT.isNotNull())));
  }

  @Test
  void anItemIsSeenWithItsMarginOfferedAndKeptAtItsPrice() {
    String sku = notListed();
    JsonNode line = preview(RULE, sku);
    assertThat(line.path("verdict").asString()).isEqualTo("NEW");
    long price = line.path("price").asLong();
    assertThat(price % 100).isEqualTo(95);
    assertThat(line.path("marginHundredths").asLong()).isGreaterThanOrEqualTo(1_000);
    assertThat(keepRule(RULE).status()).isEqualTo(200);
    Map<String, Object> wish =
        Map.of("sku", sku, "title", "From the apiary", "price", price, "published", false);
    speak(false);
    assertThat(offer(wish).status()).as("a connection that only listens").isEqualTo(409);
    assertThat(stand().made().offers()).isEmpty();
    speak(true);
    assertThat(offer(wish).body().get(0).path("problem").asString()).isEmpty();
    assertThat(offer(wish).body().get(0).path("problem").asString()).isEmpty();

    Made.Offer made = stand().made().offers().getFirst();
    assertThat(stand().made().offers()).as("told twice, made once").hasSize(1);
    assertThat(made.title()).isEqualTo("From the apiary");
    assertThat(made.draft()).isTrue();
    assertThat(made.text()).isNotEmpty();
    assertThat(preview(RULE, sku).path("verdict").asString()).isEqualTo("OFFERED");
    assertThat(
            here.world()
                .db()
                .fetchExists(
                    LISTING, LISTING.EXTERNAL_ID.eq(made.ref()).and(LISTING.ITEM_ID.isNotNull())))
        .as("the match is made with it")
        .isTrue();

    long cost = line.path("cost").asLong();
    here.mara().change("PUT", path("/cost"), Map.of("sku", sku, "cost", cost * 2));
    JsonNode change = here.mara().read(path("")).path("changes").get(0);
    assertThat(change.path("before").asLong()).isEqualTo(price);
    assertThat(change.path("after").asLong()).isGreaterThan(price);
    assertThat(stand().made().offers().getFirst().price())
        .as("nothing is pushed before somebody says so")
        .isEqualTo(made.price());
    List<Long> which = List.of(change.path("listingId").asLong());
    assertThat(here.mara().post(path("/prices"), Map.of("listings", which)).status())
        .isEqualTo(200);
    assertThat(stand().made().offers().getFirst().price())
        .isEqualTo("%d.95".formatted(change.path("after").asLong() / 100));
    assertThat(here.mara().read(path("")).path("changes")).isEmpty();
    here.mara().post(path("/state"), Map.of("listings", which, "published", true));
    assertThat(stand().made().offers().getFirst().draft()).isFalse();

    String ended = "/api/stock/items/" + itemOf(sku) + "/ended";
    assertThat(here.mara().change("PUT", ended, Map.of("ended", true)).status()).isEqualTo(204);
    JsonNode withdrawn = here.mara().read(path("")).path("changes").get(0);
    assertThat(withdrawn.path("withdraw").asBoolean()).isTrue();
    assertThat(stand().made().offers().getFirst().draft()).as("not before it is said").isFalse();
    here.mara().post(path("/prices"), Map.of("listings", which));
    assertThat(stand().made().offers().getFirst().draft()).isTrue();
    assertThat(here.mara().read(path("")).path("changes")).isEmpty();
    assertThat(
            here.mara()
                .post(path("/preview"), Map.of("rule", RULE, "search", sku))
                .body()
                .toString())
        .as("it is not offered again")
        .doesNotContain("\"" + sku + "\"");
  }

  @Test
  void aSuppliersOfferBecomesAnItemAndItsListing() {
    long supplier =
        here.mara()
            .read("/api/suppliers")
            .valueStream()
            .filter(s -> s.path("code").asString().equals("QUILL"))
            .findFirst()
            .orElseThrow()
            .path("id")
            .asLong();
    String look = path("/preview");
    Map<String, Object> asked = Map.of("rule", RULE, "search", "candle", "supplier", supplier);
    JsonNode line = here.mara().post(look, asked).body().get(0);
    assertThat(line.path("sku").asString()).isEqualTo("QUILL-QC-101");
    assertThat(line.path("available").asLong()).isEqualTo(120);
    assertThat(line.path("cost").asLong()).isEqualTo(480);
    assertThat(keepRule(RULE).status()).isEqualTo(200);
    speak(true);
    Map<String, Object> wish =
        Map.of(
            "offer", line.path("offer").asLong(),
            "sku", line.path("sku").asString(),
            "title", "A pair of candles",
            "price", line.path("price").asLong(),
            "published", true);
    assertThat(offer(wish).body().get(0).path("problem").asString()).isEmpty();
    assertThat(stand().made().offers().stream().map(Made.Offer::sku)).contains("QUILL-QC-101");
    var item =
        here.world()
            .db()
            .select(ITEM.COST, ITEM.SUPPLIER_CODE)
            .from(ITEM)
            .where(ITEM.SKU.eq("QUILL-QC-101"))
            .fetchSingle();
    assertThat(item.value1()).isEqualTo(480);
    assertThat(item.value2()).isEqualTo("QC-101");
    JsonNode now = here.mara().post(look, asked).body().get(0);
    assertThat(now.path("verdict").asString()).as("matched with it").isEqualTo("OFFERED");
  }

  private static long itemOf(String sku) {
    return here.world()
        .db()
        .select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(sku))
        .fetchSingle()
        .value1();
  }

  @Test
  void whatCanNotBeOfferedSaysWhy() {
    String sku =
        here.world()
            .db()
            .select(ITEM.SKU)
            .from(ITEM)
            .where(ITEM.CATEGORY.eq("clothing"))
            .limit(1)
            .fetchSingle()
            .value1();
    Map<String, Object> greedy =
        Map.of(
            "markupHundredths", 0,
            "plus", 0,
            "ending", "EXACT",
            "floorHundredths", 9_500,
            "country", "NL");
    assertThat(preview(greedy, sku).path("why").asString()).contains("no price keeps");
    assertThat(
            here.mara()
                .change(
                    "PUT",
                    path("/rule"),
                    Map.of(
                        "markupHundredths", -1,
                        "plus", 0,
                        "ending", "EXACT",
                        "floorHundredths", 0,
                        "country", "NL"))
                .status())
        .isEqualTo(422);
    assertThat(
            here.mara().read("/api/channels/" + channel("CLUBS")).path("takesListings").asBoolean())
        .as("files can't be offered anything")
        .isFalse();
  }

  @Test
  void aChannelsListingsBecomeItemsWithPriceAndPictures() {
    long listing =
        here.world()
            .db()
            .insertInto(LISTING)
            .set(LISTING.CHANNEL_ID, market())
            .set(LISTING.EXTERNAL_ID, "KO-STRANGE")
            .set(LISTING.SKU, "STRANGE-1")
            .set(LISTING.TITLE, "Something of theirs")
            .set(LISTING.PRICE, 1_995L)
            .set(LISTING.CURRENCY, "EUR")
            .set(LISTING.PICTURES, "[\"https://pictures.kestrel.example/1.jpg\"]")
            .set(LISTING.FIRST_SEEN, Instant.now())
            .returningResult(LISTING.ID)
            .fetchSingle()
            .value1();
    Map<String, Object> wish = Map.of("listings", List.of(listing));
    assertThat(here.mara().post("/api/listings/take-in", wish).body().path("items").asInt())
        .isEqualTo(1);
    var item =
        here.world()
            .db()
            .select(ITEM.NAME, ITEM.LIST_PRICE, ITEM.PICTURES)
            .from(ITEM)
            .where(ITEM.SKU.eq("STRANGE-1"))
            .fetchSingle();
    assertThat(item.value1()).isEqualTo("Something of theirs");
    assertThat(item.value2()).isEqualTo(1_995);
    assertThat(item.value3()).contains("pictures.kestrel.example");
    assertThat(here.mara().post("/api/listings/take-in", wish).body().path("items").asInt())
        .as("it has one now")
        .isZero();
  }

  private static JsonNode preview(Map<String, Object> rule, String sku) {
    return here.mara().post(path("/preview"), Map.of("rule", rule, "search", sku)).body().get(0);
  }

  private static Answer keepRule(Map<String, Object> rule) {
    return here.mara().change("PUT", path("/rule"), rule);
  }

  private static Answer offer(Map<String, Object> wish) {
    return here.mara().post(path(""), Map.of("lines", List.of(wish)));
  }

  /** An item that the market has no listing of, and that can be had. */
  private static String notListed() {
    return here.mara()
        .post(path("/preview"), Map.of("rule", RULE, "search", ""))
        .body()
        .valueStream()
        .filter(l -> l.path("verdict").asString().equals("NEW"))
        .findFirst()
        .orElseThrow()
        .path("sku")
        .asString();
  }

  private static void speak(boolean yes) {
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.WRITES_BACK, yes)
        .set(CHANNEL.FEEDS, false)
        .where(CHANNEL.ID.eq(market()))
        .execute();
  }

  private static Market stand() {
    return here.world().standIns().market();
  }

  private static String path(String rest) {
    return "/api/channels/" + market() + "/publishing" + rest;
  }

  private static long market() {
    return channel("MARKET");
  }

  private static long channel(String code) {
    return here.world()
        .db()
        .select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq(code))
        .fetchSingle()
        .value1();
  }
}
