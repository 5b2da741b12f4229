package dev.ordinator.kits;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.standins.ShopOrder.Wish;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Kits from the shelf to the buyer. */
class KitsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void readyMadeKitsGoFirstAndTheRestIsPackedFromComponents() {
    long ready = here.cell("HIVE-KIT", "STW").path("onHand").asLong();
    long available = here.cell("HIVE-KIT", "STW").path("available").asLong();
    long crowns = here.cell("HP-CROWN", "STW").path("available").asLong();
    assertThat(available).isGreaterThan(ready);

    here.world().shop().place(Sample.order("KIT1", "HIVE-KIT", ready + 2));
    long id = here.awaitStage("KIT1", "RELEASED").path("id").asLong();

    JsonNode line = here.mara().read("/api/orders/" + id).path("lines").get(0);
    assertThat(line.path("parts").valueStream().mapToLong(p -> p.path("amount").asLong()).sum())
        .as("the components bear the price")
        .isEqualTo(line.path("unitPrice").asLong() * (ready + 2));
    assertThat(here.cell("HIVE-KIT", "STW").path("available").asLong())
        .isEqualTo(available - ready - 2);
    assertThat(here.cell("HP-CROWN", "STW").path("available").asLong()).isEqualTo(crowns - 2);

    long consignment =
        here.mara().read("/api/orders/" + id).path("consignments").get(0).path("id").asLong();
    JsonNode bench = here.mara().read("/api/dispatch/consignments/" + consignment);
    assertThat(bench.path("lines").findValuesAsString("sku"))
        .contains("HIVE-KIT", "HP-CROWN", "FR-DEEP-10");
    Packer.packAndHandOver(here.world(), id);
    await("the shop is told of kits, not of components")
        .until(() -> !here.world().shop().told().shipmentsOf("KIT1").isEmpty());
    assertThat(here.world().shop().told().shipmentsOf("KIT1").getFirst().lines())
        .isEqualTo(Map.of("1", ready + 2));
    assertThat(here.mara().read("/api/orders/" + id).path("lines").get(0).path("shipped").asLong())
        .isEqualTo(ready + 2);
    here.awaitStage("KIT1", "DELIVERED");
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void readyMadeOnesGoFirstOfKitsTooThatAreTakenApartWhenAnOrderComes() {
    long kit = here.itemId("HARVEST-SET");
    long node = here.nodeId("STW");
    List.of("EX-3M", "UNCAP-TANK", "JAR-500-24").forEach(sku -> receive(here.itemId(sku), node, 5));
    assertThat(assemble(kit, node, 2)).isEqualTo(204);
    long tanks = here.cell("UNCAP-TANK", "STW").path("available").asLong();
    here.world().shop().place(Sample.order("APART1", "HARVEST-SET", 3));
    long id = here.awaitStage("APART1", "RELEASED").path("id").asLong();
    assertThat(here.cell("HARVEST-SET", "STW").path("allocated").asLong()).isEqualTo(2);
    assertThat(here.cell("UNCAP-TANK", "STW").path("available").asLong()).isEqualTo(tanks - 1);
    Packer.packAndHandOver(here.world(), id);
    here.awaitStage("APART1", "DELIVERED");
    await("the shop is told of three")
        .until(() -> !here.world().shop().told().shipmentsOf("APART1").isEmpty());
    assertThat(here.world().shop().told().shipmentsOf("APART1").getFirst().lines())
        .isEqualTo(Map.of("1", 3L));
  }

  @Test
  void theOrdersOwnTextChoosesTheSizeAndWhereItDoesNotAPersonDoes() {
    here.world().shop().place(withSize("SZ1", "l"));
    long told = here.awaitStage("SZ1", "RELEASED").path("id").asLong();
    assertThat(parts(told)).contains("SUIT-CLS-L", "SMOKER-L", "FR-DEEP-1");

    here.world().shop().place(withSize("SZ2", "enormous"));
    long asked = here.awaitMark("SZ2", "choice open").path("id").asLong();
    JsonNode question = here.mara().read("/api/orders/" + asked + "/choices").get(0);
    assertThat(question.path("choice").asString()).isEqualTo("Size");
    long line = question.path("lineId").asLong();
    assertThat(choose(asked, line, "TOOL-J")).as("no answer to that").isEqualTo(422);
    assertThat(choose(asked, line, "SUIT-CLS-S")).isEqualTo(204);
    assertThat(choose(asked, line, "SUIT-CLS-M")).as("chosen already").isEqualTo(409);
    here.awaitStage("SZ2", "RELEASED");
    assertThat(parts(asked)).contains("SUIT-CLS-S");
  }

  @Test
  void aSizeThatTheChannelChangedIsTheOneThatIsSent() {
    here.world().shop().place(withSize("SZ3", "m"));
    long id = here.awaitStage("SZ3", "RELEASED").path("id").asLong();
    assertThat(parts(id)).contains("SUIT-CLS-M");
    here.world().shop().change("SZ3", o -> o.withLines(withSize("SZ3", "l").lines()));
    here.awaitMark("SZ3", "changed by channel");
    here.mara().post("/api/orders/" + id + "/take-theirs", "");
    await("it is routed anew").until(() -> parts(id).contains("SUIT-CLS-L"));
    assertThat(parts(id)).doesNotContain("SUIT-CLS-M");
  }

  @Test
  void moreOfAKitCanBePromisedOnceMoreOfWhatLimitsItComes() {
    long kit = here.itemId("HIVE-KIT");
    String limiting =
        here.mara()
            .read("/api/stock/items/" + kit + "/kit")
            .path("nodes")
            .get(0)
            .path("limiting")
            .get(0)
            .asString();
    JsonNode before = here.mara().read("/api/stock/items/" + kit + "/expected");
    LocalDate today = LocalDate.parse(before.path("today").asString());
    assertThat(
            here.mara()
                .post(
                    "/api/stock/items/" + here.itemId(limiting) + "/expected",
                    Map.of(
                        "nodeId",
                        here.nodeId("STW"),
                        "supplier",
                        "Oakum Joinery",
                        "number",
                        "PO-1",
                        "quantity",
                        500,
                        "due",
                        today.plusDays(5),
                        "confidence",
                        100,
                        "slipDays",
                        0))
                .status())
        .isEqualTo(201);
    JsonNode then = here.mara().read("/api/stock/items/" + kit + "/expected").path("promisable");
    assertThat(then.get(4)).isEqualTo(before.path("promisable").get(4));
    assertThat(then.get(5).asLong()).isGreaterThan(then.get(4).asLong());
    JsonNode elsewhere =
        here.mara().read("/api/stock/items/" + kit + "/expected?node=FER").path("promisable");
    assertThat(elsewhere.get(5)).isEqualTo(elsewhere.get(4));
    assertThat(fedWithin(4)).isLessThan(fedWithin(5));
  }

  @Test
  void aKitThatLacksAComponentWaitsForThatComponent() {
    long node = here.nodeId("STW");
    long tank = here.itemId("UNCAP-TANK");
    long there = here.cell("UNCAP-TANK", "STW").path("onHand").asLong();
    adjust(tank, node, -there, StockLedger.Reason.SCRAP);
    JsonNode kit = here.mara().read("/api/stock/items/" + here.itemId("HARVEST-SET") + "/kit");
    assertThat(kit.path("nodes").get(0).path("available").asLong()).isZero();
    assertThat(kit.path("nodes").get(0).path("limiting").get(0).asString()).isEqualTo("UNCAP-TANK");

    here.world().shop().place(Sample.order("SHORT1", "HARVEST-SET", 1));
    long id = here.awaitMark("SHORT1", "waiting for stock").path("id").asLong();
    JsonNode snag = here.mara().read("/api/orders/" + id).path("snags").get(0);
    assertThat(snag.path("itemId").asLong()).isEqualTo(tank);
    assertThat(here.mara().read("/api/stock/items/" + tank).path("waiting").get(0).path("quantity"))
        .as("units of the component")
        .hasToString("1");
    receive(tank, node, 3);
    here.awaitStage("SHORT1", "RELEASED");
  }

  @Test
  void puttingTogetherAndTakingApartMovesStockAndAllOrNothing() {
    long kit = here.itemId("HIVE-KIT");
    long node = here.nodeId("STW");
    long kits = here.cell("HIVE-KIT", "STW").path("onHand").asLong();
    long frames = here.cell("FR-DEEP-10", "STW").path("onHand").asLong();
    assertThat(assemble(kit, node, 2)).isEqualTo(204);
    assertThat(here.cell("HIVE-KIT", "STW").path("onHand").asLong()).isEqualTo(kits + 2);
    assertThat(here.cell("FR-DEEP-10", "STW").path("onHand").asLong()).isEqualTo(frames - 2);
    assertThat(assemble(kit, node, -1)).isEqualTo(204);
    assertThat(here.cell("FR-DEEP-10", "STW").path("onHand").asLong()).isEqualTo(frames - 1);
    assertThat(assemble(kit, node, 9_000)).as("more than there are components").isEqualTo(422);
    assertThat(assemble(kit, node, 0)).isEqualTo(422);
    assertThat(here.cell("FR-DEEP-10", "STW").path("onHand").asLong()).isEqualTo(frames - 1);
    JsonNode movement = here.mara().read("/api/stock/movements?item=" + kit).path("rows").get(0);
    assertThat(movement.path("reason").asString()).isEqualTo("BREAK");
    assertThat(movement.path("note").asString()).isEqualTo("took apart 1 × HIVE-KIT");
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aKitIsWrittenAndWhatMakesNoSenseIsRefusedAtItsPlace() {
    long id = here.itemId("BOOK-RECORD");
    assertThat(save(id, 0, part("BOOK-YEAR", 1), part("NO-SUCH", 1))).isEqualTo("parts[1].sku");
    assertThat(save(id, 0, part("BOOK-YEAR", 0))).isEqualTo("parts[0].quantity");
    assertThat(save(id, 0, part("BOOK-YEAR", 1), part("BOOK-YEAR", 2))).isEqualTo("parts[1].sku");
    assertThat(save(id, 0)).isEqualTo("parts");
    assertThat(save(id, 0, part("BOOK-RECORD", 1))).as("of itself").isEqualTo("parts");
    assertThat(save(here.itemId("SMOKER-L"), 0, part("FIRST-YEAR", 1)))
        .as("in a circle")
        .isEqualTo("parts");
    assertThat(save(id, 0, part("BOOK-YEAR", 2))).isEmpty();
    assertThat(save(id, 0, part("BOOK-YEAR", 3))).as("somebody was faster").isEqualTo("412");
    assertThat(
            here.mara()
                .read("/api/stock/items/" + here.itemId("BOOK-YEAR") + "/kit")
                .path("within"))
        .hasSize(1);
    assertThat(here.mara().change("DELETE", "/api/stock/items/" + id + "/kit", "").status())
        .isEqualTo(204);
  }

  @Test
  void aListingThatIsAKitIsFedWhatThereCanBe() {
    JsonNode line =
        here.mara()
            .read("/api/channels/" + web() + "/feed/lines?search=First-year")
            .path("rows")
            .valueStream()
            .filter(l -> l.path("itemSku").asString().equals("FIRST-YEAR"))
            .findFirst()
            .orElseThrow();
    long free =
        here.mara()
            .read("/api/stock/items/" + here.itemId("FIRST-YEAR") + "/kit")
            .path("nodes")
            .valueStream()
            .mapToLong(n -> n.path("available").asLong())
            .sum();
    assertThat(line.path("available").asLong()).isEqualTo(free).isPositive();
  }

  /** What the shop would be told of the kit if it were fed what there is within some days. */
  private static long fedWithin(int days) {
    Map<String, Object> rule = new HashMap<>();
    rule.put("basis", "ATP");
    rule.put("withinDays", days);
    rule.put("buffer", 0);
    rule.put("sharePercent", 100);
    rule.put("cap", null);
    rule.put("soldOut", "STOP");
    rule.put("oversellTo", 0);
    rule.put("offered", true);
    return here.mara()
        .post(
            "/api/channels/" + web() + "/feed/rules",
            Map.of("which", Map.of("search", "HIVE-KIT"), "rule", rule, "preview", true))
        .body()
        .path("effects")
        .get(0)
        .path("after")
        .asLong();
  }

  private static long web() {
    return here.mara()
        .read("/api/channels")
        .valueStream()
        .filter(c -> c.path("code").asString().equals("WEB"))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asLong();
  }

  private static ShopOrder withSize(String ref, String size) {
    ShopOrder order = Sample.order(ref, "FIRST-YEAR", 1);
    ShopOrder.Line line = order.lines().getFirst();
    return order.withLines(
        List.of(
            new ShopOrder.Line(
                line.id(),
                line.productId(),
                line.sku(),
                line.gtin(),
                line.title(),
                1,
                0,
                line.unitPrice(),
                line.discount(),
                List.of(new Wish("size", size, "")))));
  }

  private static List<String> parts(long order) {
    return here.mara()
        .read("/api/orders/" + order)
        .path("lines")
        .get(0)
        .path("parts")
        .findValuesAsString("sku");
  }

  private static int choose(long order, long line, String sku) {
    return here.mara()
        .post(
            "/api/orders/" + order + "/choices",
            Map.of("lineId", line, "choice", "Size", "sku", sku))
        .status();
  }

  private static int assemble(long kit, long node, long quantity) {
    return here.mara()
        .post(
            "/api/stock/items/" + kit + "/kit/assemblies",
            Map.of("nodeId", node, "quantity", quantity, "chosen", Map.of()))
        .status();
  }

  /** The field at fault, or the status; empty if it was saved. */
  @SafeVarargs
  private static String save(long item, int version, Map<String, Object>... parts) {
    var answer =
        here.mara()
            .change(
                "PUT",
                "/api/stock/items/" + item + "/kit",
                Map.of(
                    "explode",
                    "AT_ROUTING",
                    "pricing",
                    "BY_LIST_PRICE",
                    "version",
                    version,
                    "parts",
                    List.of(parts)));
    return answer.status() == 204
        ? ""
        : answer.status() == 422
            ? answer.body().path("field").asString()
            : Integer.toString(answer.status());
  }

  private static Map<String, Object> part(String sku, int quantity) {
    return Map.of("sku", sku, "quantity", quantity, "choice", "", "label", "");
  }

  private static void receive(long item, long node, long units) {
    here.mara()
        .post(
            "/api/stock/items/" + item + "/adjustments",
            Map.of("nodeId", node, "reason", "RECEIPT", "change", units, "note", ""));
  }

  private static void adjust(long item, long node, long units, StockLedger.Reason reason) {
    assertThat(here.world().bean(StockLedger.class).adjust(item, node, units, reason, "Mara", ""))
        .isTrue();
  }
}
