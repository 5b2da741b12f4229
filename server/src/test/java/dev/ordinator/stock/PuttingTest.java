package dev.ordinator.stock;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Bins, quarantine, and items that nobody counts. */
class PuttingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void goodsGoIntoBinsAndIntoQuarantineAndBack() {
    long item = here.itemId("SMOKER-L");
    JsonNode place = place(item, 0);
    long node = place.path("nodeId").asLong();
    long units = place.path("onHand").asLong();
    long before = available("SMOKER-L");

    assertThat(put(place, 2, "C-07", "SELLABLE", "")).isEqualTo(204);
    assertThat(available("SMOKER-L")).isEqualTo(before);
    assertThat(put(place, 1, "Q", "QUARANTINE", "")).as("without a reason").isEqualTo(422);
    assertThat(put(place, 1, "Q", "QUARANTINE", "smells")).isEqualTo(204);
    assertThat(available("SMOKER-L")).isEqualTo(before - 1);
    assertThat(put(place, units, "", "DAMAGED", "all")).as("not so many").isEqualTo(422);
    assertThat(put(place, 1, "§", "SELLABLE", "")).as("no name of a bin").isEqualTo(422);

    JsonNode quarantine =
        places(item)
            .valueStream()
            .filter(p -> p.path("bin").asString().equals("Q"))
            .findFirst()
            .orElseThrow();
    assertThat(quarantine.path("nodeId").asLong()).isEqualTo(node);
    assertThat(put(quarantine, 1, "C-07", "SELLABLE", "aired")).isEqualTo(204);
    assertThat(available("SMOKER-L")).isEqualTo(before);
  }

  @Test
  void ofWhatNobodyCountsThereIsAlwaysEnough() {
    long item = here.itemId("FO-DEEP-WAX-5");
    here.world().shop().place(Sample.order("U1", "FO-DEEP-WAX-5", 9));
    await("it waits").until(() -> here.item("FO-DEEP-WAX-5").path("waiting").asLong() == 9);
    assertThat(counted(item, false)).isEqualTo(204);
    here.awaitStage("U1", "RELEASED");
    JsonNode row = here.item("FO-DEEP-WAX-5");
    assertThat(row.path("counted").asBoolean()).isFalse();
    assertThat(counted(item, true)).as("it is on its way").isEqualTo(409);
    long order = here.order("U1").path("id").asLong();
    Packer.packAndHandOver(here.world(), order);
    assertThat(here.order("U1").path("stage").asString()).isEqualTo("SHIPPED");
    assertThat(here.mara().read("/api/stock/movements?item=" + item).toString())
        .doesNotContain("HAND_OVER");
    assertThat(counted(item, true)).isEqualTo(204);
  }

  private static int counted(long item, boolean counted) {
    return here.mara()
        .change("PUT", "/api/stock/items/" + item + "/counted", Map.of("counted", counted))
        .status();
  }

  private static int put(JsonNode place, long units, String bin, String state, String note) {
    return here.mara()
        .post(
            "/api/stock/places/" + place.path("id").asLong() + "/moves",
            Map.of("units", units, "bin", bin, "state", state, "note", note))
        .status();
  }

  private static JsonNode places(long item) {
    return here.mara().read("/api/stock/items/" + item + "/places").path("places");
  }

  private static JsonNode place(long item, int at) {
    return places(item).get(at);
  }

  private static long available(String sku) {
    return here.item(sku).path("available").asLong();
  }
}
