package dev.ordinator.stock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Counting by list. */
class CountsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void onlyTheDifferenceIsLetInWhateverWasSentMeanwhile() {
    bin("SMOKER-S", 6, "CT-1");
    JsonNode list = begin("CT-1", false, null).body();
    JsonNode line = list.path("lines").get(0);
    assertThat(line.path("sku").asString()).isEqualTo("SMOKER-S");
    assertThat(line.path("state").asString()).isEqualTo("OPEN");
    long id = list.path("count").path("id").asLong();

    assertThat(found(id, "SMOKER-S", "CT-1", 5, null).body().path("field").asString())
        .as("fewer than are on record: it asks why")
        .isEqualTo("why");
    assertThat(found(id, "SMOKER-S", "CT-1", 5, "LOST").status()).isEqualTo(200);
    // counted, and then some are sent
    long before = here.onHand("SMOKER-S");
    here.world().shop().place(Sample.order("CT1", "SMOKER-S", 2));
    here.awaitStage("CT1", "RELEASED");
    Packer.packAndHandOver(here.world(), here.order("CT1").path("id").asLong());

    JsonNode done = finish(id).body();
    assertThat(done.path("lines").get(0).path("state").asString()).isEqualTo("POSTED");
    assertThat(done.path("count").path("closedBy").asString()).isEqualTo("Mara");
    assertThat(here.onHand("SMOKER-S")).isEqualTo(before - 2 - 1);
    JsonNode movement = here.mara().read("/api/stock/movements?count=" + id).path("rows").get(0);
    assertThat(movement.path("quantity").asLong()).isEqualTo(-1);
    assertThat(movement.path("note").asString()).isEqualTo("lost");
    assertThat(found(id, "SMOKER-S", "CT-1", 4, "LOST").status()).as("closed").isEqualTo(409);
  }

  @Test
  void whoCountsBlindIsToldNothingAndDearDifferencesWaitForAManager() {
    bin("EX-4E", 3, "CT-2");
    bin("TOOL-J", 9, "CT-2");
    JsonNode list = begin("CT-2", true, 5_000L).body();
    long id = list.path("count").path("id").asLong();
    assertThat(list.path("lines").valueStream().allMatch(l -> l.path("book").isNull())).isTrue();
    Visitor joss = here.world().visitor("joss");
    assertThat(joss.get("/api/counts/" + id).status()).isEqualTo(200);
    assertThat(joss.post("/api/counts/" + id + "/close", "").status()).isEqualTo(403);

    long dear = here.onHand("EX-4E");
    long cheap = here.onHand("TOOL-J");
    assertThat(joss.post(path(id) + "found", body("EX-4E", "CT-2", 1, null)).status())
        .isEqualTo(200);
    assertThat(joss.post(path(id) + "found", body("TOOL-J", "CT-2", 8, null)).status())
        .isEqualTo(200);
    assertThat(joss.post(path(id) + "found", body("BRUSH", "CT-2", 2, null)).status())
        .as("nobody knew of it")
        .isEqualTo(200);
    JsonNode waiting = joss.post(path(id) + "finish", "").body();
    assertThat(waiting.path("count").path("waiting").asLong()).isEqualTo(1);
    assertThat(here.onHand("TOOL-J")).isEqualTo(cheap - 1);
    assertThat(here.onHand("EX-4E")).isEqualTo(dear);
    assertThat(waiting.path("lines").valueStream().map(l -> l.path("state").asString()))
        .containsOnly("WAITING", "POSTED")
        .hasSize(3);

    long line =
        waiting
            .path("lines")
            .valueStream()
            .filter(l -> l.path("state").asString().equals("WAITING"))
            .findFirst()
            .orElseThrow()
            .path("id")
            .asLong();
    Object verdict = Map.of("lines", List.of(line), "let", true);
    assertThat(joss.post(path(id) + "verdicts", verdict).status()).isEqualTo(403);
    assertThat(here.mara().post(path(id) + "verdicts", verdict).status()).isEqualTo(200);
    assertThat(here.onHand("EX-4E")).isEqualTo(dear - 2);
  }

  @Test
  void aListOfNothingIsNotMade() {
    Visitor.Answer none = begin("no-such-bin", false, null);
    assertThat(none.status()).isEqualTo(422);
    assertThat(none.body().path("detail").asString()).contains("nothing lies there");
    assertThat(here.mara().read("/api/counts").toString()).doesNotContain("no-such-bin");
  }

  private static void bin(String sku, long units, String bin) {
    JsonNode place =
        here.mara()
            .read("/api/stock/items/" + here.itemId(sku) + "/places")
            .path("places")
            .valueStream()
            .filter(p -> p.path("nodeId").asLong() == stillwater())
            .findFirst()
            .orElseThrow();
    assertThat(
            here.mara()
                .post(
                    "/api/stock/places/" + place.path("id").asLong() + "/moves",
                    Map.of("units", units, "bin", bin, "state", "SELLABLE", "note", ""))
                .status())
        .isEqualTo(204);
  }

  private static Visitor.Answer begin(String bins, boolean blind, @Nullable Long approveAbove) {
    Map<String, Object> wish = new HashMap<>();
    wish.put("nodeId", stillwater());
    wish.put("name", "Bins " + bins);
    wish.put("bins", bins);
    wish.put("category", "");
    wish.put("blind", blind);
    wish.put("approveAbove", approveAbove);
    return here.mara().post("/api/counts", wish);
  }

  private static String path(long id) {
    return "/api/counts/" + id + "/";
  }

  private static Object body(String item, String bin, long units, @Nullable String why) {
    Map<String, Object> body = new HashMap<>();
    body.put("item", item);
    body.put("bin", bin);
    body.put("lot", "");
    body.put("units", units);
    body.put("why", why);
    body.put("note", "");
    return body;
  }

  private static Visitor.Answer found(
      long id, String item, String bin, long units, @Nullable String why) {
    return here.mara().post(path(id) + "found", body(item, bin, units, why));
  }

  private static Visitor.Answer finish(long id) {
    return here.mara().post(path(id) + "finish", "");
  }

  private static long stillwater() {
    return here.mara()
        .read("/api/stock/nodes")
        .valueStream()
        .filter(n -> n.path("code").asString().equals("STW"))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asLong();
  }
}
