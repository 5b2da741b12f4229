package dev.ordinator.desk;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Shop;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** One web order on its way, and what stops it. */
class WebOrderJourneyTest {
  private static TestWorld world;
  private static Visitor mara;

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.started();
    mara = world.visitor("mara");
  }

  @AfterAll
  static void stop() {
    world.close();
  }

  @Test
  void aPaidOrderGoesFromTheShopToDeliveredAndEverybodyIsTold() {
    world.shop().place(Sample.order("J1", "SMOKER-L", 2));
    JsonNode released = awaitStage("J1", "RELEASED");
    long id = released.path("id").asLong();

    Packer.packAndHandOver(world, id);
    awaitStage("J1", "DELIVERED");

    await("shop and buyer are told")
        .until(() -> !shipmentsOf("J1").isEmpty() && mailsTo("J1") == 1);
    assertThat(shipmentsOf("J1"))
        .singleElement()
        .satisfies(s -> {
          assertThat(s.trackingNumbers()).hasSize(1);
          assertThat(s.trackingUrl()).endsWith(s.trackingNumbers().getFirst());
        });
    await("the timeline says so")
        .untilAsserted(() ->
            assertThat(kinds(id))
                .contains("RECEIVED", "APPROVED", "ROUTED", "ALLOCATED", "RELEASED", "PACKED")
                .contains("HANDED_OVER", "TOLD_CHANNEL", "TOLD_BUYER", "DELIVERED"));
    JsonNode decision = mara.read("/api/orders/" + id + "/decisions").get(0);
    assertThat(decision.path("chosen").asString()).isNotEmpty();
    assertThat(decision.path("considered").size()).isGreaterThanOrEqualTo(3);
    assertThat(world.bean(StockLedger.class).discrepancies()).isEmpty();
  }

  @Test
  void anUnmatchedListingMakesOneSnagAndMatchingItFreesAllItsOrders() {
    world.shop().place(Sample.order("U1", "NOBODY-KNOWS", 1));
    world.shop().place(Sample.order("U2", "NOBODY-KNOWS", 1));
    awaitMark("U2", "unmatched listing");
    awaitMark("U1", "unmatched listing");
    List<JsonNode> snags = snags("UNMATCHED_LISTING", "Listing of NOBODY-KNOWS");
    assertThat(snags)
        .singleElement()
        .satisfies(s -> assertThat(s.path("orders").asLong()).isEqualTo(2));
    long listing = snags.getFirst().path("listingId").asLong();

    Visitor.Answer wrong =
        mara.post("/api/channels/listings/" + listing + "/match", Map.of("sku", "NO-SUCH-SKU"));
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().path("field").asString()).isEqualTo("sku");

    assertThat(
            mara.post("/api/channels/listings/" + listing + "/match", Map.of("sku", "TOOL-J"))
                .status())
        .isEqualTo(204);
    awaitStage("U1", "RELEASED");
    awaitStage("U2", "RELEASED");
    assertThat(snags("UNMATCHED_LISTING", "Listing of NOBODY-KNOWS")).isEmpty();
  }

  @Test
  void anUnknownServiceWordingIsLearntOnceForAllOrders() {
    ShopOrder.ShipTo to = Sample.order("x").shipTo();
    world.shop().place(Sample.order("V1", "TOOL-J", 1, to, "paid", "By barge"));
    world.shop().place(Sample.order("V2", "TOOL-J", 1, to, "paid", "by BARGE"));
    awaitMark("V1", "unknown service");
    awaitMark("V2", "unknown service");
    JsonNode snag = snags("UNKNOWN_SERVICE", "By barge").getFirst();
    mara.post(
        "/api/channels/" + snag.path("channelId").asLong() + "/wordings",
        Map.of("how", "EXACT", "wording", "By barge", "level", "STANDARD"));
    awaitStage("V1", "RELEASED");
    awaitStage("V2", "RELEASED");
  }

  @Test
  void anIncompleteAddressWaitsForAPersonAndThenGoesOn() {
    ShopOrder.ShipTo to = new ShopOrder.ShipTo("Harm Bos", "Veenweg 8", "", "Zwolle", null);
    world.shop().place(Sample.order("A1", "TOOL-J", 1, to, "paid", ""));
    JsonNode row = awaitMark("A1", "address incomplete");
    String path = "/api/orders/" + row.path("id").asLong() + "/address";
    assertThat(mara.change("PUT", path, address("80")).body().path("field").asString())
        .isEqualTo("postcode");
    mara.change("PUT", path, address("8011 CC"));
    awaitStage("A1", "RELEASED");
  }

  @Test
  void anUnpaidOrderWaitsUntilTheChannelSaysThatItIsPaid() {
    ShopOrder.ShipTo to = Sample.order("x").shipTo();
    world.shop().place(Sample.order("P1", "TOOL-J", 1, to, "unpaid", ""));
    awaitMark("P1", "payment awaited");
    world.shop().pay("P1");
    awaitStage("P1", "RELEASED");
  }

  @Test
  void aShortItemHoldsItsOrdersUntilStockComesAndServesTheOldestFirst() {
    world.shop().place(Sample.order("N1", "EX-9E", 200));
    awaitMark("N1", "waiting for stock");
    world.shop().place(Sample.order("N2", "EX-9E", 200));
    awaitMark("N2", "waiting for stock");
    JsonNode snag = snags("NO_STOCK", "Honey extractor, 9 frames, electric").getFirst();
    assertThat(snag.path("orders").asLong()).isEqualTo(2);
    long item = snag.path("itemId").asLong();
    JsonNode sheet = mara.read("/api/stock/items/" + item);
    long stillwater = sheet.path("nodes").get(0).path("id").asLong();
    long missing = 200 - sheet.path("item").path("cells").get(0).path("available").asLong();

    mara.post(
        "/api/stock/items/" + item + "/adjustments",
        Map.of("nodeId", stillwater, "reason", "RECEIPT", "change", missing, "note", "lorry"));
    awaitStage("N1", "RELEASED");
    awaitMark("N2", "waiting for stock");
    assertThat(
            mara.post(
                    "/api/stock/items/" + item + "/adjustments",
                    Map.of("nodeId", stillwater, "reason", "COUNT", "counted", 3, "note", ""))
                .status())
        .as("allocated units can't be counted away")
        .isEqualTo(422);
    assertThat(world.bean(StockLedger.class).discrepancies()).isEmpty();
  }

  @Test
  void aHeldOrderStaysAndGoesOnWhenTheHoldIsReleased() {
    // dear enough for the rule that holds
    world.shop().place(Sample.order("H1", "TOOL-STD", 30));
    ShopOrder dear = withTotal(Sample.order("H2", "TOOL-STD", 1), "2600.00");
    world.shop().place(dear);
    JsonNode row = awaitMark("H2", "over 2,500 EUR: check the buyer");
    assertThat(row.path("stage").asString()).isEqualTo("RECEIVED");
    awaitStage("H1", "RELEASED");
    mara.post("/api/orders/" + row.path("id").asLong() + "/release-hold", "");
    awaitStage("H2", "RELEASED");
  }

  @Test
  void anOrderChangedInTheChannelStopsUntilSomebodyHasLooked() {
    ShopOrder.ShipTo to = Sample.order("x").shipTo();
    world.shop().place(Sample.order("C1", "TOOL-J", 1, to, "unpaid", ""));
    JsonNode row = awaitMark("C1", "payment awaited");
    ShopOrder changed = Sample.order("C1", "TOOL-J", 5, to, "paid", "");
    world.shop().place(revised(changed, 2));
    awaitMark("C1", "changed by channel");
    mara.post("/api/orders/" + row.path("id").asLong() + "/keep-ours", "");
    JsonNode released = awaitStage("C1", "RELEASED");
    assertThat(released.path("units").asLong()).as("ours is kept").isEqualTo(1);
  }

  private static Map<String, String> address(String postcode) {
    return Map.of(
        "name", "Harm Bos",
        "street", "Veenweg 8",
        "postcode", postcode,
        "city", "Zwolle",
        "country", "NL");
  }

  private static ShopOrder withTotal(ShopOrder o, String total) {
    return new ShopOrder(
        o.id(),
        o.revision(),
        o.placedAt(),
        o.currency(),
        o.buyer(),
        o.shipTo(),
        o.shippingService(),
        o.arriveBy(),
        o.payment(),
        o.shippingCharge(),
        o.discount(),
        total,
        o.instructions(),
        o.giftMessage(),
        o.lines());
  }

  private static ShopOrder revised(ShopOrder o, long revision) {
    return new ShopOrder(
        o.id(),
        revision,
        o.placedAt(),
        o.currency(),
        o.buyer(),
        o.shipTo(),
        o.shippingService(),
        o.arriveBy(),
        o.payment(),
        o.shippingCharge(),
        o.discount(),
        o.total(),
        o.instructions(),
        o.giftMessage(),
        o.lines());
  }

  private static JsonNode awaitStage(String externalId, String stage) {
    await(externalId + " is " + stage)
        .until(() -> order(externalId).path("stage").asString("").equals(stage));
    return order(externalId);
  }

  private static JsonNode awaitMark(String externalId, String mark) {
    await(externalId + " is marked " + mark)
        .until(() -> order(externalId).path("marks").toString().contains(mark));
    return order(externalId);
  }

  private static JsonNode order(String externalId) {
    for (JsonNode row : mara.read("/api/orders?pile=ALL&limit=500").path("rows")) {
      if (row.path("externalId").asString().equals(externalId)) {
        return row;
      }
    }
    return mara.get("/none").body();
  }

  private static List<JsonNode> snags(String cause, String title) {
    return mara.read("/api/today")
        .path("snags")
        .valueStream()
        .filter(s -> s.path("cause").asString().equals(cause))
        .filter(s -> s.path("title").asString().equalsIgnoreCase(title))
        .toList();
  }

  private static List<String> kinds(long id) {
    return mara.read("/api/orders/" + id)
        .path("timeline")
        .valueStream()
        .map(e -> e.path("kind").asString())
        .toList();
  }

  private static List<Shop.Shipment> shipmentsOf(String id) {
    return world.shop().shipments().stream().filter(s -> s.orderId().equals(id)).toList();
  }

  private static long mailsTo(String id) {
    return world.standIns().mailbox().mails().stream()
        .filter(m -> m.to().equals("buyer-" + id + "@buyer.example"))
        .count();
  }
}
