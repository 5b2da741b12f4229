package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.doctor.Doctor;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What we have, where, and how it came to be so. */
class StockTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void whoChangesWhatIsSaidOfAnItemHasSeenWhatWasSaidBefore() {
    String path = "/api/stock/items/" + item("SMOKER-S").path("id").asLong();
    String seen = here.mara().read(path).path("settingsTag").asString();
    assertThat(here.mara().putOver(seen, path + "/tags", List.of("gift")).status()).isEqualTo(204);
    for (String part : List.of("tags", "substitutes")) {
      assertThat(here.mara().putOver(seen, path + "/" + part, List.of()).status())
          .as("%s over what was seen before it was tagged", part)
          .isEqualTo(412);
    }
    assertThat(here.mara().putOver(seen, path + "/ended", Map.of("ended", true)).status())
        .isEqualTo(412);
    assertThat(here.mara().read(path + "/tags").get(0).asString()).isEqualTo("gift");
    String now = here.mara().read(path).path("settingsTag").asString();
    assertThat(here.mara().putOver(now, path + "/tags", List.of()).status()).isEqualTo(204);
  }

  @Test
  void everyChangeIsAMovementWithItsReasonAndWhoMadeIt() {
    JsonNode item = item("SMOKER-S");
    long node = item.path("cells").get(0).path("nodeId").asLong();
    long before = item.path("cells").get(0).path("onHand").asLong();
    String path = "/api/stock/items/" + item.path("id").asLong();

    adjust(path, node, "RECEIPT", "change", 7, "lorry");
    adjust(path, node, "SCRAP", "change", -2, "dented");
    adjust(path, node, "RETURN", "change", 2, "wrong size");
    adjust(path, node, "ADJUST", "change", -1, "a unit was booked twice");
    JsonNode now = adjust(path, node, "COUNT", "counted", before + 9, "").body();

    assertThat(now.path("onHand").asLong()).isEqualTo(before + 9);
    JsonNode movements =
        here.mara().read("/api/stock/movements?item=" + item.path("id").asLong()).path("rows");
    assertThat(movements.valueStream().limit(5).map(m -> m.path("quantity").asLong()))
        .containsExactly(3L, -1L, 2L, -2L, 7L);
    assertThat(movements.get(3).path("actor").asString()).isEqualTo("Mara");
    assertThat(movements.get(3).path("note").asString()).isEqualTo("dented");
    assertThat(here.mara().read("/api/stock/discrepancies")).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "COUNT, counted, -1, counted",
    "COUNT, counted, 9999999999, counted",
    "COUNT, change, 4, reason",
    "RECEIPT, change, -4, reason",
    "SCRAP, change, 4, reason",
    "RETURN, change, -4, reason",
    "ADJUST, counted, 4, reason",
    "ADJUST, change, 4, note",
    "HAND_OVER, change, -1, reason",
    "RECEIPT, change, 1000001, change",
  })
  void anAdjustmentThatMakesNoSenseIsRefusedAtItsField(
      String reason, String field, long value, String at) {
    JsonNode item = item("SMOKER-L");
    long node = item.path("cells").get(0).path("nodeId").asLong();
    String path = "/api/stock/items/" + item.path("id").asLong();
    Visitor.Answer answer = adjust(path, node, reason, field, value, "");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().path("field").asString()).isEqualTo(at);
  }

  @Test
  void unitsThatOrdersHoldCanNeitherBeCountedNorScrappedAway() {
    here.world().shop().place(Sample.order("ST1", "EX-4E", 5));
    here.awaitStage("ST1", "RELEASED");
    JsonNode item = item("EX-4E");
    JsonNode cell = item.path("cells").get(0);
    String path = "/api/stock/items/" + item.path("id").asLong();
    long node = cell.path("nodeId").asLong();
    assertThat(cell.path("allocated").asLong()).isEqualTo(5);
    assertThat(cell.path("available").asLong()).isEqualTo(cell.path("onHand").asLong() - 5);

    assertThat(adjust(path, node, "COUNT", "counted", 4, "").body().path("detail").asString())
        .contains("5 units are allocated");
    assertThat(adjust(path, node, "SCRAP", "change", -cell.path("onHand").asLong(), "").status())
        .isEqualTo(422);
    JsonNode held = here.mara().read(path).path("held").get(0);
    assertThat(held.path("quantity").asLong()).isEqualTo(5);
    assertThat(held.path("orderNumber").asString())
        .isEqualTo(here.order("ST1").path("number").asString());
  }

  @Test
  void aLevelThatIsNotWhatItsLedgerSaysIsFoundShownAndMended() {
    JsonNode item = item("BRUSH");
    long id = item.path("id").asLong();
    JsonNode cell = item.path("cells").get(0);
    long node = cell.path("nodeId").asLong();
    here.world()
        .db()
        .update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ON_HAND.plus(3))
        .where(STOCK_LEVEL.ITEM_ID.eq(id))
        .and(STOCK_LEVEL.NODE_ID.eq(node))
        .execute();
    assertThat(here.world().bean(LedgerProof.class).prove()).isEqualTo(1);
    assertThat(here.world().bean(Doctor.class).look().getFirst().trouble())
        .startsWith("1 is not: item " + id);
    assertThat(here.mara().read("/api/today").toString()).contains("LEDGER_DIFFERS");
    String mend = "/api/stock/items/" + id + "/mend";
    assertThat(here.mara().post(mend, "").status()).isEqualTo(204);
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
    assertThat(here.mara().read("/api/today").toString()).doesNotContain("LEDGER_DIFFERS");
    assertThat(here.world().bean(Doctor.class).look().getFirst().trouble()).isEmpty();
  }

  @Test
  void itemsAreFoundBySkuNameAndTheEndOfAGtin() {
    JsonNode smoker = item("SMOKER-L");
    String gtin = smoker.path("gtin").asString();
    assertThat(grid("search=smoker-l")).contains("SMOKER-L").doesNotContain("TOOL-J");
    assertThat(grid("search=" + gtin.substring(gtin.length() - 6))).contains("SMOKER-L");
    assertThat(grid("category=extractors")).contains("EX-4E").doesNotContain("SMOKER-L");
    assertThat(grid("shortOnly=true")).doesNotContain("SMOKER-L");
  }

  private static Visitor.Answer adjust(
      String path, long node, String reason, String field, long value, String note) {
    Map<String, Object> body = new HashMap<>();
    body.put("nodeId", node);
    body.put("reason", reason);
    body.put(field, value);
    body.put("note", note);
    return here.mara().post(path + "/adjustments", body);
  }

  private static JsonNode item(String sku) {
    return here.mara().read("/api/stock?search=" + sku).path("items").path("rows").get(0);
  }

  private static String grid(String query) {
    return here.mara().read("/api/stock?" + query).path("items").toString();
  }
}
