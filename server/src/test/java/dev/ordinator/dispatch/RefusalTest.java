package dev.ordinator.dispatch;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Nodes that can't fill what was released to them. */
class RefusalTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aRefusedOrderGoesElsewhereAndTheNodeIsOutForIt() {
    JsonNode order = placed("R1");
    JsonNode first = order.path("consignments").get(0);
    assertThat(refuse(first, "NO_TIME", Map.of()).status()).isEqualTo(204);
    await("another node has it")
        .until(() -> sheet(order).path("consignments").size() == 2 && stage(order, "RELEASED"));
    JsonNode after = sheet(order);
    assertThat(after.path("consignments").get(0).path("state").asString()).isEqualTo("REFUSED");
    assertThat(after.path("consignments").get(1).path("node").asString())
        .isNotEqualTo(first.path("node").asString());
    assertThat(after.path("timeline").toString()).contains("Refused by").contains("no time today");
    assertThat(decisions(order).get(0).path("considered").toString()).contains("REFUSED");
    assertThat(refuse(first, "NO_TIME", Map.of()).status()).as("once").isEqualTo(409);
  }

  @Test
  void whatIsNotThereLeavesTheNodesStock() {
    JsonNode order = placed("R2");
    JsonNode first = order.path("consignments").get(0);
    long line = bench(first).path("lines").get(0).path("id").asLong();
    long before = onHandEverywhere();
    assertThat(refuse(first, "NOT_THERE", Map.of()).status()).isEqualTo(422);
    assertThat(refuse(first, "NOT_THERE", Map.of(line, 2)).status()).isEqualTo(422);
    assertThat(refuse(first, "OTHER", Map.of(line, 1)).status()).isEqualTo(422);
    assertThat(onHandEverywhere()).isEqualTo(before);
    assertThat(refuse(first, "NOT_THERE", Map.of(line, 1)).status()).isEqualTo(204);
    assertThat(onHandEverywhere()).isEqualTo(before - 1);
  }

  @Test
  void whoRefusedAndWhyIsSaidAndANodeCanBeAskedAgain() {
    stocked("SMOKER-S", 3);
    here.world().shop().place(Sample.order("R3", "SMOKER-S", 2));
    JsonNode order =
        here.mara().read("/api/orders/" + here.awaitStage("R3", "RELEASED").path("id").asLong());
    assertThat(refuse(order.path("consignments").get(0), "OTHER", Map.of()).status())
        .isEqualTo(204);
    here.awaitMark("R3", "no way there");
    assertThat(sheet(order).path("snags").get(0).path("detail").asString())
        .as("there is stock: it is not called none")
        .contains("refused by Stillwater")
        .contains("another reason");
    String path = "/api/orders/" + order.path("order").path("id").asLong() + "/refusals";
    JsonNode told = here.mara().read(path).get(0);
    assertThat(told.path("stands").asBoolean()).isTrue();
    String lift = path + "/" + told.path("consignmentId").asLong() + "/lift";
    assertThat(here.mara().post(lift, "").status()).isEqualTo(204);
    assertThat(here.mara().post(lift, "").status()).as("once").isEqualTo(409);
    await("it is asked again").until(() -> stage(order, "RELEASED"));
  }

  @Test
  void aNodeThatLackedSomethingIsAskedForItAgainWhenGoodsCame() {
    stocked("SMOKER-S", 2);
    here.world().shop().place(Sample.order("R4", "SMOKER-S", 1));
    JsonNode order =
        here.mara().read("/api/orders/" + here.awaitStage("R4", "RELEASED").path("id").asLong());
    JsonNode first = order.path("consignments").get(0);
    long line = bench(first).path("lines").get(0).path("id").asLong();
    assertThat(refuse(first, "NOT_THERE", Map.of(line, 1)).status()).isEqualTo(204);
    await("one is on record, but was not found")
        .until(() -> sheet(order).path("snags").toString().contains("refused by"));
    assertThat(
            here.mara()
                .post(
                    "/api/stock/items/" + here.itemId("SMOKER-S") + "/adjustments",
                    Map.of(
                        "nodeId", here.nodeId("STW"), "reason", "RECEIPT", "change", 1, "note", ""))
                .status())
        .isEqualTo(200);
    await("goods came there").until(() -> stage(order, "RELEASED"));
  }

  private static void stocked(String sku, long units) {
    here.world().scrapAll(sku);
    receive(sku, units);
  }

  private static void receive(String sku, long units) {
    here.world()
        .bean(StockLedger.class)
        .adjust(
            here.itemId(sku), here.nodeId("STW"), units, StockLedger.Reason.RECEIPT, "test", "");
  }

  private static JsonNode placed(String id) {
    here.world().shop().place(Sample.order(id));
    return here.mara().read("/api/orders/" + here.awaitStage(id, "RELEASED").path("id").asLong());
  }

  private static JsonNode sheet(JsonNode order) {
    return here.mara().read("/api/orders/" + order.path("order").path("id").asLong());
  }

  private static JsonNode decisions(JsonNode order) {
    return here.mara()
        .read("/api/orders/" + order.path("order").path("id").asLong() + "/decisions");
  }

  private static boolean stage(JsonNode order, String stage) {
    return sheet(order).path("order").path("stage").asString().equals(stage);
  }

  private static JsonNode bench(JsonNode consignment) {
    return here.mara().read("/api/dispatch/consignments/" + consignment.path("id").asLong());
  }

  private static Visitor.Answer refuse(
      JsonNode consignment, String reason, Map<Long, Integer> missing) {
    return here.mara()
        .post(
            "/api/dispatch/consignments/" + consignment.path("id").asLong() + "/refusal",
            Map.of("reason", reason, "missing", missing, "note", ""));
  }

  private static long onHandEverywhere() {
    return here.mara()
        .read("/api/stock?search=SMOKER-L")
        .path("items")
        .path("rows")
        .get(0)
        .path("cells")
        .valueStream()
        .mapToLong(c -> c.path("onHand").asLong())
        .sum();
  }
}
