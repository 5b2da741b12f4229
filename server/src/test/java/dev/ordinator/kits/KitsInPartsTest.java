package dev.ordinator.kits;

import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** A kit of which one component lies elsewhere, and which may come in two parcels. */
class KitsInPartsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeAll
  static void theCrownBoardIsOnlyAtCanal() {
    long kit = here.itemId("HIVE-KIT");
    JsonNode sheet = here.mara().read("/api/stock/items/" + kit + "/kit");
    List<Map<String, Object>> parts =
        sheet
            .path("parts")
            .valueStream()
            .<Map<String, Object>>map(p ->
                Map.of(
                    "sku",
                    p.path("sku").asString(),
                    "quantity",
                    p.path("quantity").asLong(),
                    "choice",
                    "",
                    "label",
                    ""))
            .toList();
    assertThat(
            here.mara()
                .change(
                    "PUT",
                    "/api/stock/items/" + kit + "/kit",
                    Map.of(
                        "explode",
                        "IN_PARTS",
                        "pricing",
                        "BY_LIST_PRICE",
                        "version",
                        sheet.path("version").asInt(),
                        "parts",
                        parts))
                .status())
        .isEqualTo(204);
    for (String node : List.of("STW", "CAN", "FER")) {
      set("HP-CROWN", node, node.equals("CAN") ? 5 : 0);
      set("FR-DEEP-10", node, node.equals("CAN") ? 0 : 20);
    }
  }

  @Test
  void itsLineIsShippedAndToldOnceWithTheParcelThatCompletesIt() {
    long id = place("PARTS1", 2);
    List<JsonNode> parcels = parcels(id);
    assertThat(parcels).hasSize(2);
    JsonNode crown = with(parcels, "HP-CROWN");
    JsonNode rest = with(parcels, "FR-DEEP-10");
    assertThat(crown).isNotEqualTo(rest);

    handOver(crown);
    assertThat(line(id).path("shipped").asLong()).as("a crown board is no kit").isZero();
    assertThat(stage(id)).isEqualTo("RELEASED");

    handOver(rest);
    assertThat(line(id).path("shipped").asLong()).isEqualTo(2);
    await("the shop is told of both kits, with the second parcel")
        .until(() -> !here.world().shop().told().shipmentsOf("PARTS1").isEmpty());
    here.awaitStage("PARTS1", "DELIVERED");
    assertThat(here.world().shop().told().shipmentsOf("PARTS1"))
        .singleElement()
        .satisfies(told -> assertThat(told.lines()).isEqualTo(Map.of("1", 2L)));
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void itIsNotPutTogetherForNobodyCouldSendIt() {
    Map<String, Object> one =
        Map.of("nodeId", here.nodeId("CAN"), "quantity", 1, "chosen", Map.of());
    assertThat(
            here.mara()
                .post("/api/stock/items/" + here.itemId("HIVE-KIT") + "/kit/assemblies", one)
                .toString())
        .contains("409", "sent in parts");
  }

  @Test
  void ifOneParcelIsRefusedOnlyWhatWasInItIsSoughtElsewhere() {
    long id = place("PARTS2", 1);
    JsonNode crown = with(parcels(id), "HP-CROWN");
    JsonNode rest = with(parcels(id), "FR-DEEP-10");
    set("HP-CROWN", "STW", 3);
    refuse(crown);
    await("the crown board comes from where the rest does, or from a parcel of its own")
        .until(() ->
            parcels(id).stream()
                .anyMatch(p ->
                    p.path("id").asLong() > rest.path("id").asLong()
                        && p.path("state").asString().equals("RELEASED")));
    long sent =
        here.world()
            .db()
            .fetchCount(
                CONSIGNMENT_LINE,
                CONSIGNMENT_LINE
                    .CONSIGNMENT_ID
                    .in(parcels(id).stream().map(p -> p.path("id").asLong()).toList())
                    .and(CONSIGNMENT_LINE.ITEM_ID.eq(here.itemId("FR-DEEP-10"))));
    assertThat(sent).as("what was not refused goes once").isEqualTo(1);
    Packer.packAndHandOver(here.world(), id);
    assertThat(line(id).path("shipped").asLong()).isEqualTo(1);
    here.awaitStage("PARTS2", "DELIVERED");
    set("HP-CROWN", "STW", 0);
  }

  @Test
  void anOrderOfWhichPartsAreWithNodesCanBeCancelled() {
    long id = place("PARTS3", 1);
    var answer =
        here.mara().post("/api/orders/" + id + "/cancel", Map.of("reason", "changed their mind"));
    assertThat(answer.status()).as(answer.toString()).isLessThan(300);
    here.awaitStage("PARTS3", "CANCELLED");
  }

  @Test
  void ofTwoKitsInPartsOneCanBeTakenBack() {
    long id = place("PARTS4", 2);
    here.world().shop().change("PARTS4", o -> o.without("1", 1));
    await("the shop wants one only")
        .until(() -> here.mara().post("/api/orders/" + id + "/take-theirs", "").status() == 204);
    await("one of each component is with nodes")
        .until(() -> released(id, "HP-CROWN") == 1 && released(id, "FR-DEEP-10") == 1);
    Packer.packAndHandOver(here.world(), id);
    assertThat(line(id).path("shipped").asLong()).isEqualTo(1);
    here.awaitStage("PARTS4", "DELIVERED");
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  private static long released(long order, String sku) {
    return parcels(order).stream()
        .filter(p -> p.path("state").asString().equals("RELEASED"))
        .flatMap(p ->
            here.mara()
                .read("/api/dispatch/consignments/" + p.path("id").asLong())
                .path("lines")
                .valueStream())
        .filter(l -> l.path("sku").asString().equals(sku))
        .mapToLong(l -> l.path("quantity").asLong())
        .sum();
  }

  private static long place(String ref, long quantity) {
    ShopOrder order = Sample.order(ref, "HIVE-KIT", quantity);
    here.world().shop().place(order);
    return here.awaitStage(ref, "RELEASED").path("id").asLong();
  }

  private static List<JsonNode> parcels(long order) {
    return here.mara().read("/api/orders/" + order).path("consignments").valueStream().toList();
  }

  private static JsonNode with(List<JsonNode> parcels, String sku) {
    return parcels.stream()
        .filter(p ->
            here.mara()
                .read("/api/dispatch/consignments/" + p.path("id").asLong())
                .path("lines")
                .findValuesAsString("sku")
                .contains(sku))
        .findFirst()
        .orElseThrow();
  }

  private static void handOver(JsonNode parcel) {
    String path = "/api/dispatch/consignments/" + parcel.path("id").asLong();
    Packer.scanAll(here.mara(), path);
    assertThat(here.mara().post(path + "/label", "").status()).isEqualTo(200);
    assertThat(here.mara().post(path + "/hand-over", "").status()).isEqualTo(200);
  }

  private static void refuse(JsonNode parcel) {
    String path = "/api/dispatch/consignments/" + parcel.path("id").asLong();
    long line = here.mara().read(path).path("lines").get(0).path("id").asLong();
    assertThat(
            here.mara()
                .post(
                    path + "/refusal",
                    Map.of("reason", "NOT_THERE", "missing", Map.of(line, 1), "note", ""))
                .status())
        .isEqualTo(204);
  }

  private static JsonNode line(long order) {
    return here.mara().read("/api/orders/" + order).path("lines").get(0);
  }

  private static String stage(long order) {
    return here.mara().read("/api/orders/" + order).path("order").path("stage").asString();
  }

  private static void set(String sku, String node, long units) {
    long there = here.cell(sku, node).path("available").asLong(0);
    if (units != there) {
      Reason reason = units > there ? Reason.RECEIPT : Reason.SCRAP;
      assertThat(
              here.world()
                  .bean(StockLedger.class)
                  .adjust(here.itemId(sku), here.nodeId(node), units - there, reason, "Mara", ""))
          .isTrue();
    }
  }
}
