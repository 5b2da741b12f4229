package dev.ordinator.routing;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Orders that no node has all of. */
class SplitTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void anItemsHomeNodeIsTriedFirst() {
    only("TOOL-J", Map.of("STW", 5L, "CAN", 5L, "FER", 5L));
    String path = "/api/stock/items/" + here.itemId("TOOL-J") + "/home";
    for (String home : List.of("FER", "CAN", "STW")) {
      assertThat(here.mara().change("PUT", path, Map.of("node", home, "family", false)).status())
          .isEqualTo(200);
      here.world().shop().place(Sample.order("HN-" + home, "TOOL-J", 1));
      JsonNode order = here.awaitStage("HN-" + home, "RELEASED");
      assertThat(
              here.mara()
                  .read("/api/orders/" + order.path("id").asLong() + "/decisions")
                  .get(0)
                  .path("chosen")
                  .get(0)
                  .path("node")
                  .asString())
          .isEqualTo(home);
    }
    assertThat(here.mara().change("PUT", path, Map.of("node", "XYZ", "family", false)).status())
        .isEqualTo(404);
  }

  @Test
  void eachNodeSendsWhatItHasAndTheChannelHearsOfEachParcel() {
    only("SMOKER-S", Map.of("STW", 5L));
    only("BRUSH", Map.of("CAN", 5L));
    ShopOrder order = Sample.order("SP1", "SMOKER-S", 1);
    here.world()
        .shop()
        .place(
            order.withLines(
                List.of(
                    order.lines().getFirst(),
                    new ShopOrder.Line(
                        "2", "listing-BRUSH", "BRUSH", "", "A brush", 2, "5.00", "0.00"))));
    here.awaitStage("SP1", "RELEASED");

    JsonNode sheet = sheet("SP1");
    JsonNode decision = decisions("SP1").get(0);
    assertThat(decision.path("chosen").valueStream().map(part -> part.path("node").asString()))
        .containsExactlyInAnyOrder("STW", "CAN");
    assertThat(sheet.path("consignments")).hasSize(2);
    assertThat(decision.path("splitPenalty").asLong()).isEqualTo(300);
    assertThat(decision.path("proven").asBoolean()).isTrue();

    send(sheet.path("consignments").get(0));
    await("the shop knows of one").until(() -> here.world().shop().told().shipments().size() == 1);
    assertThat(here.order("SP1").path("marks").toString()).contains("PART_SHIPPED");
    send(sheet.path("consignments").get(1));
    here.awaitStage("SP1", "SHIPPED");
    await("the shop knows of both").until(() -> here.world().shop().told().shipments().size() == 2);
  }

  @Test
  void aLineIsDividedAndWhatANodeRefusesGoesElsewhereWithoutTheRest() {
    only("EX-4E", Map.of("STW", 3L, "CAN", 2L));
    here.world().shop().place(Sample.order("SP2", "EX-4E", 5));
    here.awaitStage("SP2", "RELEASED");
    JsonNode sheet = sheet("SP2");
    assertThat(units(sheet)).containsExactlyInAnyOrder(3L, 2L);

    JsonNode smaller =
        sheet
            .path("consignments")
            .valueStream()
            .filter(c -> c.path("units").asLong() == 2)
            .findFirst()
            .orElseThrow();
    assertThat(
            here.mara()
                .post(
                    "/api/dispatch/consignments/" + smaller.path("id").asLong() + "/refusal",
                    Map.of("reason", "NO_TIME", "missing", Map.of(), "note", ""))
                .status())
        .isEqualTo(204);
    await("who has the two refused them, and that is said")
        .until(() -> sheet("SP2").path("snags").toString().contains("no time today"));
    assertThat(live(sheet("SP2"))).containsExactly(3L);

    adjust("EX-4E", "FER", "RECEIPT", 2);
    await("another node has the two").until(() -> live(sheet("SP2")).equals(List.of(3L, 2L)));
    assertThat(decisions("SP2").get(0).path("chosen").get(0).path("node").asString())
        .isEqualTo("FER");
  }

  /** Sends a consignment by the bench. */
  private static void send(JsonNode consignment) {
    String path = "/api/dispatch/consignments/" + consignment.path("id").asLong();
    Packer.scanAll(here.mara(), path);
    assertThat(here.mara().post(path + "/label", "").status()).isEqualTo(200);
    assertThat(here.mara().post(path + "/hand-over", "").status()).isEqualTo(200);
  }

  /** Nobody has any of an item but these nodes. */
  private static void only(String sku, Map<String, Long> units) {
    here.world().scrapAll(sku);
    units.forEach((node, some) -> adjust(sku, node, "RECEIPT", some));
  }

  private static void adjust(String sku, String node, String reason, long change) {
    assertThat(
            here.mara()
                .post(
                    "/api/stock/items/" + here.itemId(sku) + "/adjustments",
                    Map.of(
                        "nodeId",
                        here.nodeId(node),
                        "reason",
                        reason,
                        "change",
                        change,
                        "note",
                        ""))
                .status())
        .isEqualTo(200);
  }

  private static JsonNode sheet(String externalId) {
    return here.mara().read("/api/orders/" + here.order(externalId).path("id").asLong());
  }

  private static JsonNode decisions(String externalId) {
    return here.mara()
        .read("/api/orders/" + here.order(externalId).path("id").asLong() + "/decisions");
  }

  private static List<Long> units(JsonNode sheet) {
    return sheet.path("consignments").valueStream().map(c -> c.path("units").asLong()).toList();
  }

  /** Units of the consignments that are not off. */
  private static List<Long> live(JsonNode sheet) {
    return sheet
        .path("consignments")
        .valueStream()
        .filter(c -> c.path("state").asString().equals("RELEASED"))
        .map(c -> c.path("units").asLong())
        .toList();
  }
}
