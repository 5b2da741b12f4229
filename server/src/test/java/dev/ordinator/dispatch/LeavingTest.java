package dev.ordinator.dispatch;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** When goods leave a node's stock, and which. */
class LeavingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void levelsAreWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @AfterAll
  static void theLedgerIsThereAsAFile() {
    String csv = here.mara().raw("/api/stock/movements.csv?reason=PICK").body();
    assertThat(csv).startsWith("at,sku,item,node,").contains("BRUSH", ",-3,PICK,");
  }

  @ParameterizedTest
  @CsvSource({"RELEASE, 0", "PACK, 1", "LABEL, 2", "HAND_OVER, 3"})
  void goodsLeaveOnceAtTheMomentThatTheNodeHasChosen(String moment, int at) {
    leaves(moment);
    long before = here.onHand("BRUSH");
    JsonNode consignment = released("M-" + moment, "BRUSH", 3);
    String path = path(consignment);
    requireLeft("BRUSH", before, at <= 0);
    Packer.scanAll(here.mara(), path);
    requireLeft("BRUSH", before, at <= 1);
    here.mara().post(path + "/label", "");
    requireLeft("BRUSH", before, at <= 2);
    here.mara().post(path + "/hand-over", "");
    requireLeft("BRUSH", before, true);
    JsonNode movement = here.mara().read("/api/stock/movements?limit=1").path("rows").get(0);
    assertThat(movement.path("reason").asString()).isEqualTo(at == 3 ? "HAND_OVER" : "PICK");
    assertThat(movement.path("orderId").asLong()).isEqualTo(order("M-" + moment));
  }

  @Test
  void whatHasLeftComesBackWhereItLayIfItIsNotSent() {
    leaves("RELEASE");
    long before = here.onHand("TOOL-J");
    JsonNode consignment = released("B1", "TOOL-J", 4);
    requireLeft("TOOL-J", before, 4);
    here.mara()
        .post(
            path(consignment) + "/refusal",
            Map.of("reason", "NO_TIME", "missing", Map.of(), "note", ""));
    await("it has left another node").until(() -> before - here.onHand("TOOL-J") == 4);
    List<String> reasons =
        here.mara()
            .read("/api/stock/movements?item=" + here.itemId("TOOL-J"))
            .path("rows")
            .valueStream()
            .limit(3)
            .map(m -> m.path("reason").asString())
            .toList();
    assertThat(reasons).containsExactly("PICK", "PUT_BACK", "PICK");
  }

  @Test
  void whoPacksAnewHoldsTheSameGoodsAgain() {
    leaves("PACK");
    long before = here.onHand("SMOKER-S");
    String path = path(released("A1", "SMOKER-S", 2));
    Packer.scanAll(here.mara(), path);
    requireLeft("SMOKER-S", before, 2);
    here.mara().post(path + "/start-over", "");
    requireLeft("SMOKER-S", before, 0);
    assertThat(
            here.mara().read("/api/stock/items/" + here.itemId("SMOKER-S")).path("held").toString())
        .contains(here.order("A1").path("number").asString());
    Packer.scanAll(here.mara(), path);
    here.mara().post(path + "/label", "");
    here.mara().post(path + "/hand-over", "");
    requireLeft("SMOKER-S", before, 2);
  }

  @Test
  void eachUnitIsKnownByItsNumberFromThePackingOn() {
    leaves("RELEASE");
    long item = here.itemId("EX-3M");
    assertThat(
            here.mara()
                .change(
                    "PUT",
                    "/api/stock/items/" + item + "/tracking",
                    Map.of("by", "SERIAL", "pick", "FIFO", "oneLot", false, "minLife", 0))
                .status())
        .isEqualTo(204);
    long before = here.onHand("EX-3M");
    String path = path(released("S1", "EX-3M", 2));
    requireLeft("EX-3M", before, 0); // which would leave is not known yet

    JsonNode asked = scan(path, "EX-3M", null);
    assertThat(asked.path("result").asString()).isEqualTo("NEEDS_SERIAL");
    assertThat(asked.path("bench").path("lines").get(0).path("packed").asLong()).isZero();
    assertThat(scan(path, "X-001", asked.path("serialOf").asString()).path("result").asString())
        .isEqualTo("COUNTED");
    assertThat(
            here.mara()
                .post(path + "/scans", Map.of("code", "X-001", "of", "EX-3M"))
                .body()
                .toString())
        .as("the same unit twice")
        .contains("is in ");
    String gtin = "0" + here.mara().read(path).path("lines").get(0).path("gtin").asString();
    assertThat(
            scan(path, "(01)" + gtin.substring(gtin.length() - 14) + "(21)X-002", null)
                .path("result")
                .asString())
        .isEqualTo("COUNTED");
    requireLeft("EX-3M", before, 2);
    here.mara().post(path + "/label", "");
    here.mara().post(path + "/hand-over", "");

    JsonNode found = here.mara().read("/api/stock?search=X-002").path("items").path("rows").get(0);
    assertThat(found.path("sku").asString()).isEqualTo("EX-3M");
    JsonNode movement = here.mara().read("/api/stock/movements?item=" + item).path("rows").get(0);
    JsonNode unit = here.mara().read("/api/stock/lots/" + movement.path("lotId").asLong());
    assertThat(unit.path("sent").get(0).path("orderId").asLong()).isEqualTo(order("S1"));
    String other = path(released("S2", "EX-3M", 1));
    assertThat(
            here.mara()
                .post(other + "/scans", Map.of("code", "X-001", "of", "EX-3M"))
                .body()
                .toString())
        .contains("has left before");
  }

  @Test
  void aWrongLotIsSaidAtTheBench() {
    leaves("HAND_OVER");
    long item = here.itemId("FO-DEEP-WAX-5");
    here.mara()
        .change(
            "PUT",
            "/api/stock/items/" + item + "/tracking",
            Map.of("by", "LOT", "pick", "FIFO", "oneLot", true, "minLife", 0));
    receive(item, "SECOND", 3);
    String path = path(released("L1", "FO-DEEP-WAX-5", 2));
    String right =
        here.mara().read(path).path("lines").get(0).path("from").get(0).path("lot").asString();
    JsonNode answer = scan(path, "SECOND", null);
    assertThat(answer.path("result").asString()).isEqualTo("WRONG_LOT");
    assertThat(answer.path("message").asString()).contains("take it from lot " + right);
    assertThat(scan(path, right, null).path("result").asString()).isEqualTo("COUNTED");
  }

  private static void receive(long item, String lot, int units) {
    long stw = here.mara().read("/api/stock").path("nodes").get(0).path("id").asLong();
    here.mara()
        .post(
            "/api/stock/receipts",
            Map.of(
                "nodeId",
                stw,
                "supplier",
                "Sweet & Co",
                "number",
                lot,
                "note",
                "",
                "restComes",
                false,
                "lines",
                List.of(
                    Map.of(
                        "itemId",
                        item,
                        "parts",
                        List.of(
                            Map.of("units", units, "bin", "", "lot", lot, "state", "SELLABLE"))))));
  }

  private static JsonNode scan(String path, String code, @Nullable String of) {
    return here.mara()
        .post(path + "/scans", of == null ? Map.of("code", code) : Map.of("code", code, "of", of))
        .body();
  }

  private static void leaves(String moment) {
    here.mara()
        .read("/api/stock")
        .path("nodes")
        .valueStream()
        .forEach(n ->
            here.mara()
                .change(
                    "PUT",
                    "/api/stock/nodes/" + n.path("id").asLong() + "/leaves",
                    Map.of("leaves", moment)));
  }

  private static void requireLeft(String sku, long before, boolean left) {
    requireLeft(sku, before, left ? 3 : 0);
  }

  private static void requireLeft(String sku, long before, long units) {
    assertThat(before - here.onHand(sku)).isEqualTo(units);
  }

  private static JsonNode released(String id, String sku, long quantity) {
    here.world().shop().place(Sample.order(id, sku, quantity));
    here.awaitStage(id, "RELEASED");
    return here.mara().read("/api/orders/" + order(id)).path("consignments").get(0);
  }

  private static String path(JsonNode consignment) {
    return "/api/dispatch/consignments/" + consignment.path("id").asLong();
  }

  private static long order(String id) {
    return here.order(id).path("id").asLong();
  }
}
