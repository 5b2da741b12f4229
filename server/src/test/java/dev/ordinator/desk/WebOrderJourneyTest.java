package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.standins.Told;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** One web order on its way, and what stops it. */
class WebOrderJourneyTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aPaidOrderGoesFromTheShopToDeliveredAndEverybodyIsTold() {
    here.world().shop().place(Sample.order("J1", "SMOKER-L", 2));
    JsonNode released = here.awaitStage("J1", "RELEASED");
    long id = released.path("id").asLong();

    Packer.packAndHandOver(here.world(), id);
    here.awaitStage("J1", "DELIVERED");

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
    JsonNode decision = here.mara().read("/api/orders/" + id + "/decisions").get(0);
    assertThat(decision.path("chosen")).hasSize(1);
    assertThat(decision.path("considered").size()).isGreaterThanOrEqualTo(3);
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void anUnmatchedListingMakesOneSnagAndMatchingItFreesAllItsOrders() {
    here.world().shop().place(Sample.order("U1", "NOBODY-KNOWS", 1));
    here.world().shop().place(Sample.order("U2", "NOBODY-KNOWS", 1));
    here.awaitMark("U2", "unmatched listing");
    here.awaitMark("U1", "unmatched listing");
    List<JsonNode> snags = snags("UNMATCHED_LISTING", "Listing of NOBODY-KNOWS");
    assertThat(snags)
        .singleElement()
        .satisfies(s -> assertThat(s.path("orders").asLong()).isEqualTo(2));
    long listing = snags.getFirst().path("listingId").asLong();

    Visitor.Answer wrong =
        here.mara().post("/api/listings/" + listing + "/match", Map.of("sku", "NO-SUCH-SKU"));
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().path("field").asString()).isEqualTo("sku");

    assertThat(
            here.mara()
                .post("/api/listings/" + listing + "/match", Map.of("sku", "TOOL-J"))
                .status())
        .isEqualTo(204);
    here.awaitStage("U1", "RELEASED");
    here.awaitStage("U2", "RELEASED");
    assertThat(snags("UNMATCHED_LISTING", "Listing of NOBODY-KNOWS")).isEmpty();
  }

  @Test
  void anUnknownServiceWordingIsLearntOnceForAllOrders() {
    ShopOrder.ShipTo to = Sample.order("x").shipTo();
    here.world().shop().place(Sample.order("V1", "TOOL-J", 1, to, "paid", "By barge"));
    here.world().shop().place(Sample.order("V2", "TOOL-J", 1, to, "paid", "by BARGE"));
    here.awaitMark("V1", "unknown service");
    here.awaitMark("V2", "unknown service");
    JsonNode snag = snags("UNKNOWN_SERVICE", "By barge").getFirst();
    here.mara()
        .post(
            "/api/channels/" + snag.path("channelId").asLong() + "/wordings",
            Map.of("how", "EXACT", "wording", "By barge", "level", "STANDARD"));
    here.awaitStage("V1", "RELEASED");
    here.awaitStage("V2", "RELEASED");
  }

  @Test
  void anIncompleteAddressWaitsForAPersonAndThenGoesOn() {
    ShopOrder.ShipTo to = new ShopOrder.ShipTo("Harm Bos", "Veenweg 8", "", "Zwolle", null);
    here.world().shop().place(Sample.order("A1", "TOOL-J", 1, to, "paid", ""));
    JsonNode row = here.awaitMark("A1", "address incomplete");
    String path = "/api/orders/" + row.path("id").asLong() + "/address";
    assertThat(here.mara().change("PUT", path, address("80")).body().path("field").asString())
        .isEqualTo("postcode");
    here.mara().change("PUT", path, address("8011 CC"));
    here.awaitStage("A1", "RELEASED");
  }

  @Test
  void anUnpaidOrderWaitsUntilTheChannelSaysThatItIsPaid() {
    ShopOrder.ShipTo to = Sample.order("x").shipTo();
    here.world().shop().place(Sample.order("P1", "TOOL-J", 1, to, "unpaid", ""));
    here.awaitMark("P1", "payment awaited");
    here.world().shop().pay("P1");
    here.awaitStage("P1", "RELEASED");
  }

  @Test
  void aShortItemHoldsItsOrdersUntilStockComesAndServesTheOldestFirst() {
    here.world().shop().place(Sample.order("N1", "EX-9E", 200));
    here.awaitMark("N1", "waiting for stock");
    here.world().shop().place(Sample.order("N2", "EX-9E", 200));
    here.awaitMark("N2", "waiting for stock");
    JsonNode snag = snags("NO_STOCK", "Honey extractor, 9 frames, electric").getFirst();
    assertThat(snag.path("orders").asLong()).isEqualTo(2);
    long item = snag.path("itemId").asLong();
    JsonNode sheet = here.mara().read("/api/stock/items/" + item);
    long stillwater = sheet.path("nodes").get(0).path("id").asLong();
    long missing = 200 - sheet.path("item").path("cells").get(0).path("available").asLong();

    here.mara()
        .post(
            "/api/stock/items/" + item + "/adjustments",
            Map.of("nodeId", stillwater, "reason", "RECEIPT", "change", missing, "note", "lorry"));
    here.awaitStage("N1", "RELEASED");
    here.awaitMark("N2", "waiting for stock");
    assertThat(
            here.mara()
                .post(
                    "/api/stock/items/" + item + "/adjustments",
                    Map.of("nodeId", stillwater, "reason", "COUNT", "counted", 3, "note", ""))
                .status())
        .as("allocated units can't be counted away")
        .isEqualTo(422);
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aHeldOrderStaysAndGoesOnWhenTheHoldIsReleased() {
    // dear enough for the rule that holds
    here.world().shop().place(Sample.order("H1", "TOOL-STD", 30));
    ShopOrder.Line dear =
        new ShopOrder.Line("1", "listing-TOOL-STD", "TOOL-STD", "", "Tool", 1, "2600.00", "0.00");
    here.world().shop().place(Sample.order("H2", "TOOL-STD", 1).withLines(List.of(dear)));
    JsonNode row = here.awaitMark("H2", "over 2,500 EUR: check the buyer");
    assertThat(row.path("stage").asString()).isEqualTo("RECEIVED");
    here.awaitStage("H1", "RELEASED");
    here.mara().post("/api/orders/" + row.path("id").asLong() + "/release-hold", "");
    here.awaitStage("H2", "RELEASED");
  }

  @Test
  void aTotalThatContradictsTheLinesWaitsForAPersonWhoLetsItStand() {
    ShopOrder order = Sample.order("TT1", "TOOL-STD", 1);
    here.world()
        .shop()
        .place(order.withLines(List.of(order.lines().getFirst(), order.lines().getFirst())));
    await("two lines of one id can't be told apart")
        .until(() ->
            here.mara().read("/api/intake/refused").toString().contains("two of them have the id"));

    here.world()
        .shop()
        .place(
            Sample.order("TT2", "TOOL-STD", 1, Sample.HOME, "paid", "Home delivery")
                .withTotal("45.00"));
    JsonNode row = here.awaitMark("TT2", "total differs");
    assertThat(row.path("stage").asString()).isEqualTo("RECEIVED");
    String path = "/api/orders/" + row.path("id").asLong();
    assertThat(here.mara().post(path + "/total/accept", "").status()).isEqualTo(204);
    here.awaitStage("TT2", "RELEASED");
    assertThat(here.mara().read(path).path("order").path("total").asLong()).isEqualTo(4500);
  }

  @Test
  void theSumsOfACancelledOrderAreNothing() {
    here.world().shop().place(Sample.order("TT3", "TOOL-STD", 2).withShipping("4.95"));
    here.awaitStage("TT3", "RELEASED");
    here.world().shop().change("TT3", ShopOrder::cancelled);
    JsonNode row = here.awaitStage("TT3", "CANCELLED");
    JsonNode sheet = here.mara().read("/api/orders/" + row.path("id").asLong());
    assertThat(sheet.path("order").path("total").asLong()).isZero();
    assertThat(sheet.path("figures").path("shippingCharge").asLong()).isZero();
    assertThat(sheet.path("figures").path("tax").asLong()).isZero();
  }

  @Test
  void whenEveryNodeIsFullAnOrderWaitsForAPlaceAndThenGoesOn() {
    var db = here.world().db();
    Map<Long, Integer> capacities =
        db.select(NODE.ID, NODE.CAPACITY_PER_DAY)
            .from(NODE)
            .fetchMap(r -> r.value1(), r -> r.value2());
    db.update(NODE).set(NODE.CAPACITY_PER_DAY, 0).execute();
    here.world().shop().place(Sample.order("Q1", "TOOL-J", 1));
    here.awaitMark("Q1", "nodes full");
    assertThat(snags("NODES_FULL", "Every node that could is full")).hasSize(1);

    capacities.forEach((node, capacity) ->
        db.update(NODE).set(NODE.CAPACITY_PER_DAY, capacity).where(NODE.ID.eq(node)).execute());
    // the ten minutes are over
    db.update(SALES_ORDER)
        .set(SALES_ORDER.NEXT_STEP_AT, Instant.now())
        .where(SALES_ORDER.EXTERNAL_ID.eq("Q1"))
        .execute();
    here.awaitStage("Q1", "RELEASED");
    assertThat(snags("NODES_FULL", "Every node that could is full")).isEmpty();
  }

  private static Map<String, String> address(String postcode) {
    return Map.of(
        "name", "Harm Bos",
        "street", "Veenweg 8",
        "postcode", postcode,
        "city", "Zwolle",
        "country", "NL");
  }

  private static List<JsonNode> snags(String cause, String title) {
    return here.mara()
        .read("/api/today")
        .path("snags")
        .valueStream()
        .filter(s -> s.path("cause").asString().equals(cause))
        .filter(s -> s.path("title").asString().equalsIgnoreCase(title))
        .toList();
  }

  private static List<String> kinds(long id) {
    return here.mara()
        .read("/api/orders/" + id)
        .path("timeline")
        .valueStream()
        .map(e -> e.path("kind").asString())
        .toList();
  }

  private static List<Told.Shipment> shipmentsOf(String id) {
    return here.world().shop().told().shipments().stream()
        .filter(s -> s.orderId().equals(id))
        .toList();
  }

  private static long mailsTo(String id) {
    return here.world().standIns().mailbox().mails().stream()
        .filter(m -> m.to().equals("buyer-" + id + "@buyer.example"))
        .count();
  }
}
