package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Market;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** One story of a feed, in its order: the first push is held, changes go, a wipe-out is stopped. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class FeedTest {
  private static final String SKU = "TOOL-J";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeAll
  static void listingsAreKnown() {
    await("the market's listings are all in: a pull fetches them first")
        .until(() ->
            here.world()
                .db()
                .fetchExists(
                    CHANNEL, CHANNEL.ID.eq(id()).and(CHANNEL.LAST_SUCCESS_AT.isNotNull())));
  }

  @Test
  @Order(1)
  void nothingIsToldBeforeAPersonHasLetTheFirstPushThrough() {
    assertThat(market().told().pushes()).isZero();
    setFeeds(true);
    JsonNode hold = awaitHold();
    assertThat(hold.path("reasons").asString()).contains("first push");
    JsonNode line = line(hold, SKU);
    assertThat(line.path("before").isNull()).isTrue();
    assertThat(line.path("after").asLong()).isEqualTo(available());
    assertThat(market().told().pushes()).isZero();

    assertThat(post("let-through")).isEqualTo(204);
    assertThat(market().told().quantities()).containsEntry(listing(), available());
    assertThat(post("let-through")).as("there is nothing to let through now").isEqualTo(409);
  }

  @Test
  @Order(2)
  void onlyWhatChangedIsTold() {
    int pushes = market().told().pushes();
    adjust(-3);
    await("the market knows").until(() -> market().told().quantity(listing()) == available());
    assertThat(market().told().pushes()).isEqualTo(pushes + 1);
  }

  @Test
  @Order(3)
  void aRuleIsSeenBeforeItIsSetAndThenHolds() {
    Map<String, Object> rule = new HashMap<>();
    rule.put("basis", "AVAILABLE");
    rule.put("withinDays", 0);
    rule.put("buffer", 10);
    rule.put("sharePercent", 50);
    rule.put("cap", null);
    rule.put("soldOut", "STOP");
    rule.put("oversellTo", 0);
    rule.put("offered", true);
    Map<String, Object> change = new HashMap<>();
    change.put("which", Map.of("search", SKU, "listings", List.of(listingId())));
    change.put("rule", rule);
    change.put("preview", true);
    JsonNode effect = here.mara().post(path("rules"), change).body().path("effects").get(0);
    long offered = (available() - 10) / 2;
    assertThat(effect.path("before").asLong()).isEqualTo(available());
    assertThat(effect.path("after").asLong()).isEqualTo(offered);
    assertThat(market().told().quantities()).containsEntry(listing(), available());

    rule.put("offered", false);
    JsonNode stopped = here.mara().post(path("rules"), change).body().path("effects").get(0);
    assertThat(stopped.path("after").asLong()).isZero();
    rule.put("offered", true);

    change.put("preview", false);
    assertThat(here.mara().post(path("rules"), change).status()).isEqualTo(200);
    await("it is told").until(() -> market().told().quantity(listing()) == offered);
  }

  @Test
  @Order(4)
  void aWipeOutIsStoppedAndCanBeRefusedForGood() {
    Map<String, Long> before = market().told().quantities();
    here.world()
        .db()
        .update(STOCK_LEVEL)
        .set(STOCK_LEVEL.SAFETY, STOCK_LEVEL.ON_HAND.plus(1_000))
        .execute();
    JsonNode hold = awaitHold();
    assertThat(hold.path("reasons").asString()).contains("live listings to zero");
    assertThat(market().told().quantities()).isEqualTo(before);
    assertThat(post("refuse")).isEqualTo(204);
    adjust(1); // the feed looks again, and still has nothing to say
    await("the feed has looked again").until(FeedTest::hasLookedSince);
    assertThat(here.mara().read(path("")).path("hold").isNull()).as("refused is refused").isTrue();
    assertThat(market().told().quantities()).isEqualTo(before);

    here.world().db().update(STOCK_LEVEL).set(STOCK_LEVEL.SAFETY, 0L).execute();
    adjust(4);
    await("when all is well again it goes on")
        .until(() -> market().told().quantity(listing()) == (available() - 10) / 2);
  }

  @Test
  @Order(5)
  void whoWaitsForAListingIsToldOnceWhenItIsBack() {
    String join = path("waiting/" + listingId());
    assertThat(here.mara().post(join, Map.of("email", "nobody")).status()).isEqualTo(422);
    for (int i = 0; i < 2; i++) {
      assertThat(here.mara().post(join, Map.of("email", "ilse@buyer.example")).status())
          .isEqualTo(204);
    }
    safety(100_000);
    await("it is sold out").until(() -> market().told().quantity(listing()) == 0);
    safety(0);
    await("it is back").until(() -> market().told().quantity(listing()) > 0);
    safety(100_000);
    await("it is sold out again").until(() -> market().told().quantity(listing()) == 0);
    safety(0);
    await("it is back again").until(() -> market().told().quantity(listing()) > 0);
    assertThat(
            here.world().standIns().mailbox().mails().stream()
                .filter(m -> m.to().contains("ilse@buyer.example"))
                .toList())
        .hasSize(1);
  }

  @Test
  @Order(6)
  void aChannelThatOnlyListensIsToldNothing() {
    setFeeds(false);
    int pushes = market().told().pushes();
    adjust(7);
    await("the feed would have looked by now").until(FeedTest::hasLookedSinceOrIsOff);
    assertThat(market().told().pushes()).isEqualTo(pushes);
    assertThat(here.world().shop().told().pushes()).as("nor was the shop, ever").isZero();
  }

  private static boolean hasLookedSince() {
    var then = lastLook();
    await("another look").until(() -> !lastLook().equals(then));
    return true;
  }

  /** Two rounds of the job pass; a feed that is off leaves no trace of having looked. */
  private static boolean hasLookedSinceOrIsOff() {
    here.world().shop().place(Sample.order("after", SKU, 1));
    here.awaitStage("after", "RELEASED");
    return true;
  }

  private static Instant lastLook() {
    return here.world()
        .db()
        .select(CHANNEL.LAST_FEED_AT)
        .from(CHANNEL)
        .where(CHANNEL.ID.eq(id()))
        .fetchSingle()
        .value1();
  }

  private static JsonNode awaitHold() {
    await("a push is held").until(() -> !here.mara().read(path("")).path("hold").isNull());
    return here.mara().read(path("")).path("hold");
  }

  private static JsonNode line(JsonNode hold, String sku) {
    return hold.path("lines")
        .valueStream()
        .filter(l -> l.path("sku").asString().equals(sku))
        .findFirst()
        .orElseThrow();
  }

  private static void setFeeds(boolean feeds) {
    JsonNode card = here.mara().read("/api/channels/" + id());
    Map<String, Object> patch = new HashMap<>();
    patch.put("version", card.path("version").asInt());
    patch.put("feeds", feeds);
    assertThat(here.mara().change("PATCH", "/api/channels/" + id(), patch).status()).isEqualTo(200);
  }

  private static long id() {
    return here.world()
        .db()
        .select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq("MARKET"))
        .fetchSingle()
        .value1();
  }

  private static String path(String rest) {
    return "/api/channels/" + id() + "/feed" + (rest.isEmpty() ? "" : "/" + rest);
  }

  private static int post(String what) {
    return here.mara().post(path(what), "").status();
  }

  private static String listing() {
    return here.world()
        .db()
        .select(LISTING.EXTERNAL_ID)
        .from(LISTING)
        .where(LISTING.CHANNEL_ID.eq(id()))
        .and(LISTING.SKU.eq(SKU))
        .fetchSingle()
        .value1();
  }

  private static long listingId() {
    return here.world()
        .db()
        .select(LISTING.ID)
        .from(LISTING)
        .where(LISTING.CHANNEL_ID.eq(id()))
        .and(LISTING.SKU.eq(SKU))
        .fetchSingle()
        .value1();
  }

  /** Over the nodes from which we send; counted here in Java, for the feed does it in SQL. */
  private static long available() {
    return here
        .world()
        .db()
        .select(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.SAFETY)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .where(ITEM.SKU.eq(SKU))
        .and(NODE.KIND.ne("CHANNEL_DEPOT"))
        .fetch()
        .stream()
        .mapToLong(r -> Math.max(0, r.value1() - r.value2() - r.value3()))
        .sum();
  }

  private static void adjust(long units) {
    here.world()
        .bean(StockLedger.class)
        .adjust(item(), node(), units, StockLedger.Reason.COUNT, "Joss", "");
  }

  private static void safety(long units) {
    here.world()
        .db()
        .update(STOCK_LEVEL)
        .set(STOCK_LEVEL.SAFETY, units)
        .where(STOCK_LEVEL.ITEM_ID.eq(item()))
        .execute();
  }

  private static long item() {
    return here.world()
        .db()
        .select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(SKU))
        .fetchSingle()
        .value1();
  }

  private static long node() {
    return here.world()
        .db()
        .select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq("STW"))
        .fetchSingle()
        .value1();
  }

  private static Market market() {
    return here.world().standIns().market();
  }
}
