package dev.ordinator.backorders;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.ShortWorld;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Who waits, in which order, until when; and who is served when something comes. */
class BackordersTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();
  private final ShortWorld world = new ShortWorld(here);

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aReceiptServesTheQueueInItsOrderBeforeNewOrdersAndNobodyBehindDelaysWhoIsInFront() {
    long item = world.stocked("SMOKER-S", 2);
    long supply = world.expect(item, 14, 10);
    world.waits("Q1", "SMOKER-S", 10);
    world.waits("Q2", "SMOKER-S", 6);
    world.waits("Q3", "SMOKER-S", 6);
    await("dates are known").until(() -> world.ready(item, "Q2") != null);
    assertThat(world.ready(item, "Q1")).isEqualTo(world.day(10));
    assertThat(world.ready(item, "Q2")).isEqualTo(world.day(10));
    assertThat(world.ready(item, "Q3")).as("16 units, all of which the others need").isNull();
    assertThat(world.marks("Q3")).contains("waiting for stock");
    assertThat(world.snags("Q3")).as("somebody must do something").contains("NO_STOCK");
    assertThat(world.snags("Q1")).as("it has its day").doesNotContain("NO_STOCK");
    // what is there now is needed by those who wait: a new order does not get it
    assertThat(world.available("SMOKER-S")).isZero();
    here.world().shop().place(Sample.order("Q4", "SMOKER-S", 2));
    here.awaitMark("Q4", "waiting for stock");

    // a person puts Q3 in front of Q2
    JsonNode moved =
        here.mara()
            .post(
                "/api/backorders/items/" + item + "/move/preview",
                Map.of(
                    "id",
                    world.row(item, "Q3").path("id").asLong(),
                    "before",
                    world.id(item, "Q2")))
            .body();
    assertThat(moved.get(0).path("readyAfter").asString()).isEqualTo(world.day(10));
    assertThat(moved.get(1).path("orderNumber").asString()).isEqualTo(world.number("Q2"));
    assertThat(moved.get(1).path("readyAfter").isNull()).isTrue();
    assertThat(world.ready(item, "Q3")).as("a preview changes nothing").isNull();
    here.mara()
        .post(
            "/api/backorders/items/" + item + "/move",
            Map.of(
                "id", world.row(item, "Q3").path("id").asLong(), "before", world.id(item, "Q2")));
    await("Q3 has its day").until(() -> world.day(10).equals(world.ready(item, "Q3")));

    here.mara().post("/api/stock/expected/" + supply + "/receive", Map.of("quantity", 14));
    here.awaitStage("Q1", "RELEASED");
    here.awaitStage("Q3", "RELEASED");
    assertThat(world.marks("Q4")).contains("waiting for stock");
    assertThat(world.marks("Q2")).as("16 less 10 and 6").contains("waiting for stock");
    assertThat(world.timeline("Q3")).contains("Moved to place 2");
  }

  @Test
  void whatMayNotWaitIsDealtWithAsItsChannelSays() {
    long item = world.stocked("TOOL-STD", 0);
    world.stocked("TOOL-J", 30);
    assertThat(
            here.mara()
                .change(
                    "PUT",
                    "/api/stock/items/" + item + "/substitutes",
                    List.of(Map.of("sku", "TOOL-J", "price", "ANY", "percent", 0)))
                .status())
        .isEqualTo(204);
    world.terms(false, "SNAG", null, false, null);
    here.world().shop().place(Sample.order("W1", "TOOL-STD", 2));
    here.awaitMark("W1", "short, may not wait");
    here.mara().post("/api/orders/" + world.orderId("W1") + "/let-wait", "");
    here.awaitMark("W1", "waiting for stock");

    world.terms(false, "REPLACE", null, true, null);
    here.world().shop().place(Sample.order("W2", "TOOL-STD", 2));
    here.awaitStage("W2", "RELEASED");
    assertThat(world.timeline("W2")).contains("is sent instead of");
    Packer.packAndHandOver(here.world(), world.orderId("W2"));
    await("the shop is told what came instead")
        .until(() -> !here.world().shop().told().shipmentsOf("W2").isEmpty());
    assertThat(here.world().shop().told().shipmentsOf("W2").getFirst().instead())
        .isEqualTo(Map.of("1", "TOOL-J"));

    Map<String, Object> customer =
        Map.of("email", "Buyer-W4@buyer.example", "group", "apiaries", "asOrdered", true);
    assertThat(here.mara().change("PUT", "/api/customers", customer).status()).isEqualTo(204);
    here.world().shop().place(Sample.order("W4", "TOOL-STD", 2));
    here.awaitMark("W4", "short, may not wait");
    assertThat(
            here.mara()
                .read("/api/customers?email=buyer-w4@buyer.example")
                .path("group")
                .asString())
        .isEqualTo("apiaries");

    world.terms(false, "CANCEL", null, false, null);
    here.world().shop().place(Sample.order("W3", "TOOL-STD", 2));
    here.awaitStage("W3", "CANCELLED");
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void whatMayNotWaitIsTriedAgainWhenThereIsMore() {
    long item = world.stocked("HP-FEED-TOP", 0);
    world.terms(false, "SNAG", null, false, null);
    here.world().shop().place(Sample.order("W5", "HP-FEED-TOP", 2));
    here.awaitMark("W5", "short, may not wait");
    world.receive(item, 2);
    here.awaitStage("W5", "RELEASED");
    assertThat(here.mara().read("/api/orders/" + world.orderId("W5")).path("snags")).isEmpty();
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void whatIsCancelledOfAnOrderWhoseRestIsUnderWayLeavesItsQueue() {
    long item = world.stocked("VEIL-HORSE", 3);
    world.terms(true, "SNAG", true, false, null);
    here.world().shop().place(Sample.order("I2", "VEIL-HORSE", 8));
    here.awaitMark("I2", "waiting for stock");
    await("three are on their way").until(() -> world.row(item, "I2").path("units").asLong() == 5);
    here.mara()
        .post(
            "/api/backorders/actions",
            Map.of("orders", List.of(world.orderId("I2")), "action", "CANCEL"));
    here.awaitStage("I2", "RELEASED");
    assertThat(world.queue(item)).as("nobody waits any more").isEmpty();
    JsonNode snags = here.mara().read("/api/orders/" + world.orderId("I2")).path("snags");
    assertThat(snags.findValuesAsString("cause"))
        .as("all that is left to do is to pay back what came in for the five")
        .containsExactly("MONEY_TO_RETURN");
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void whatMayGoInPartIsSentAsItComesAndTheRestKeepsItsPlace() {
    long item = world.stocked("VEIL-HORSE", 3);
    world.terms(true, "SNAG", true, false, null);
    here.world().shop().place(Sample.order("I1", "VEIL-HORSE", 8));
    here.awaitMark("I1", "waiting for stock");
    await("three are on their way").until(() -> world.row(item, "I1").path("units").asLong() == 5);
    world.receive(item, 2);
    await("two more").until(() -> world.row(item, "I1").path("units").asLong() == 3);
    world.receive(item, 10);
    here.awaitStage("I1", "RELEASED");
    assertThat(world.queue(item)).isEmpty();
    assertThat(world.available("VEIL-HORSE")).isEqualTo(7);
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void anOrderOfAHigherClassTakesWhatALowerOneHoldsAndThatOneWaitsInItsPlace() {
    long item = world.stocked("TOOL-J", 3);
    here.world().shop().place(Sample.order("T1", "TOOL-J", 3));
    here.awaitStage("T1", "RELEASED");
    world.waits("T2", "TOOL-J", 2);
    world.waits("T3", "TOOL-J", 2);
    JsonNode holders =
        here.mara()
            .read("/api/backorders/orders/" + world.orderId("T2") + "/holders?itemId=" + item);
    assertThat(holders).hasSize(1);
    assertThat(holders.get(0).path("orderNumber").asString()).isEqualTo(world.number("T1"));
    Map<String, Object> taking = Map.of("order", world.orderId("T2"), "from", world.orderId("T1"));
    JsonNode seen = here.mara().post("/api/backorders/take/preview", taking).body();
    assertThat(seen.path("becomes").asString()).startsWith("is sent now from ");
    assertThat(seen.path("fromBecomes").asString()).isEqualTo("waits in its place");
    assertThat(here.order("T1").path("stage").asString()).isEqualTo("RELEASED");
    assertThat(here.mara().post("/api/backorders/take", taking).status()).isEqualTo(200);
    here.awaitStage("T2", "RELEASED");
    here.awaitMark("T1", "waiting for stock");
    assertThat(world.queue(item).getFirst().path("orderNumber").asString())
        .isEqualTo(world.number("T1"));
    assertThat(here.mara().post("/api/backorders/take", taking).status()).isEqualTo(409);
  }

  @Test
  void whileRoutingIsPausedWhoWaitsKeepsPlaceAndDayAndIsServedWhenItGoesOn() {
    long item = world.stocked("CAGE-10", 0);
    world.expect(item, 5, 7);
    world.waits("Z1", "CAGE-10", 2);
    String promised = world.awaitPromise("Z1");
    Map<String, Object> pause = new HashMap<>();
    pause.put("channel", null);
    pause.put("reason", "stocktaking");
    here.mara().post("/api/routing/pauses", pause);
    world.receive(item, 2);
    await("it is there today").until(() -> world.day(0).equals(world.ready(item, "Z1")));
    assertThat(world.marks("Z1")).contains("waiting for stock");
    assertThat(world.snags("Z1")).as("nothing is short").doesNotContain("NO_STOCK");
    assertThat(world.breaking("Z1")).isNull();
    long id = here.mara().read("/api/routing/pauses").get(0).path("id").asLong();
    here.mara().change("DELETE", "/api/routing/pauses/" + id, Map.of());
    here.awaitStage("Z1", "RELEASED");
    assertThat(world.awaitPromise("Z1")).as("earlier than promised").isEqualTo(promised);
  }

  @Test
  void whatIsSoldAheadIsSentOnItsDayUpToItsCap() {
    long item = world.stocked("HAT-VEIL", 20);
    Map<String, Object> ahead = new HashMap<>();
    ahead.put("mayWait", true);
    ahead.put("outOn", world.day(5));
    ahead.put("aheadMost", 6);
    ahead.put("leadDays", 0);
    assertThat(here.mara().change("PUT", "/api/stock/items/" + item + "/ahead", ahead).status())
        .isEqualTo(204);
    world.waits("S1", "HAT-VEIL", 4);
    await("it is sent on its day").until(() -> world.day(5).equals(world.ready(item, "S1")));
    here.world().shop().place(Sample.order("S2", "HAT-VEIL", 3));
    here.awaitMark("S2", "short, may not wait");
    ahead.put("outOn", world.day(0));
    here.mara().change("PUT", "/api/stock/items/" + item + "/ahead", ahead);
    here.awaitStage("S1", "RELEASED");
    JsonNode served = here.mara().read("/api/backorders/items/" + item + "/served").get(0);
    assertThat(served.path("orderNumber").asString()).isEqualTo(world.number("S1"));
    assertThat(served.path("units").asLong()).isEqualTo(4);
  }
}
