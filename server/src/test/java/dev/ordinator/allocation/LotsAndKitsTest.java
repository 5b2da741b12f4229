package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.RunWish;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.ShortWorld;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Runs that name lots and numbers, and runs over kits. */
class LotsAndKitsTest {
  private static final LocalDate TODAY = LocalDate.now(ZoneOffset.UTC);

  @RegisterExtension static final OwnWorld here = new OwnWorld();
  private final ShortWorld world = new ShortWorld(here);

  @AfterEach
  void levelsAndPlacesAreStillWhatTheLedgerSays() {
    world.resumeRouting();
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aRunByLotNamesTheLotsThatTheOrdersAreThenSent() {
    long item = tracked("SYRUP-2", "EXPIRY", 30);
    came(item, "OLD", 3, TODAY.plusDays(60));
    came(item, "MID", 3, TODAY.plusDays(90));
    came(item, "NEW", 3, TODAY.plusDays(200));
    came(item, "STALE", 3, TODAY.plusDays(20));
    world.pauseRouting();
    ordered("L1", "SYRUP-2", 4);
    ordered("L2", "SYRUP-2", 4);
    JsonNode seen = preview(byLot("SYRUP-2").with("lotsExcluded", List.of("OLD")));
    assertThat(from(seen, "L1")).contains("3 of MID", "1 of NEW").doesNotContain("OLD");
    assertThat(from(seen, "L2")).contains("2 of NEW").doesNotContain("STALE");
    commit(seen);
    assertThat(held(item)).isEqualTo(Map.of("MID", 3L, "NEW", 3L));
    assertThat(act(seen, "undo")).isEqualTo(200);
    assertThat(held(item)).isEmpty();

    JsonNode again = preview(byLot("SYRUP-2").with("lotsExcluded", List.of("OLD")));
    commit(again);
    assertThat(recall(lot("NEW"))).isEqualTo(204);
    assertThat(held(item))
        .as("what was given of a recalled lot is not given")
        .containsOnlyKeys("MID");
    world.resumeRouting();
    here.awaitStage("L1", "RELEASED");
    assertThat(held(item)).isEqualTo(Map.of("OLD", 1L, "MID", 3L));
  }

  @Test
  void aNumberThatARunNamedIsTheOneThatIsPacked() {
    long item = tracked("EX-3M", "SERIAL", 0);
    came(item, "X-1", 1, null);
    came(item, "X-2", 1, null);
    world.pauseRouting();
    ordered("N1", "EX-3M", 1);
    JsonNode seen = preview(byLot("EX-3M"));
    assertThat(from(seen, "N1")).contains("1 of X-1");
    commit(seen);
    world.resumeRouting();
    here.awaitStage("N1", "RELEASED");
    String bench =
        "/api/dispatch/consignments/"
            + here.mara()
                .read("/api/orders/" + world.orderId("N1"))
                .path("consignments")
                .get(0)
                .path("id")
                .asLong();
    var other = here.mara().post(bench + "/scans", Map.of("code", "X-2", "of", "EX-3M"));
    assertThat(other.body().toString()).contains("it is to be number X-1");
    var right = here.mara().post(bench + "/scans", Map.of("code", "X-1", "of", "EX-3M"));
    assertThat(right.body().path("result").asString()).isEqualTo("COUNTED");
  }

  @Test
  void aKitIsGivenAllOfItsComponentsOrNothing() {
    long crowns = world.available("HP-CROWN");
    world.pauseRouting();
    long ready = here.onHand("HIVE-KIT");
    ordered("K1", "HIVE-KIT", ready + 2);
    JsonNode seen = preview(new RunWish().of("HIVE-KIT"));
    assertThat(seen.path("given").asLong()).isEqualTo(ready + 2);
    assertThat(from(seen, "K1")).contains("Stillwater " + ready, "HP-CROWN Stillwater 2");
    commit(seen);
    int given = openEarmarks(world.orderId("K1"));
    assertThat(given).as("what is ready-made, and components for the rest").isGreaterThan(1);
    assertThat(preview(new RunWish().of("HIVE-KIT")).path("lines").asInt())
        .as("it has all of it")
        .isZero();
    assertThat(preview(new RunWish().of("HIVE-KIT").with("way", "BY_ITEM")).path("given").asLong())
        .isZero();
    assertThat(act(seen, "undo")).isEqualTo(200);
    assertThat(world.available("HP-CROWN")).isEqualTo(crowns);

    JsonNode again = preview(new RunWish().of("HIVE-KIT").with("thenRoute", true));
    here.world().scrapAll("HP-CROWN");
    commit(again);
    assertThat(here.mara().read(run(again)).path("changed").asInt()).isEqualTo(1);
    assertThat(openEarmarks(world.orderId("K1"))).as("all of it or nothing").isZero();
  }

  @Test
  void whoGetsNothingTakesItsPlaceIfTheRunSaysSo() {
    long item = world.stocked("BRUSH", 0);
    world.pauseRouting();
    ordered("W1", "BRUSH", 2);
    commit(preview(new RunWish().of("BRUSH")));
    assertThat(world.queue(item)).as("left as it is").isEmpty();
    JsonNode seen = preview(new RunWish().of("BRUSH").with("recordShort", true));
    world.resumeRouting();
    commit(seen);
    here.awaitMark("W1", "waiting for stock");
    assertThat(world.queue(item)).hasSize(1);
  }

  private void ordered(String id, String sku, long units) {
    here.world().shop().place(Sample.order(id, sku, units));
    here.awaitStage(id, "APPROVED");
  }

  private static RunWish byLot(String sku) {
    return new RunWish().of(sku).with("byLot", true).with("parts", "PART");
  }

  private static JsonNode preview(RunWish wish) {
    var answer = here.mara().post("/api/allocation/runs", wish.named("by lot"));
    assertThat(answer.status()).as(answer.toString()).isEqualTo(201);
    return answer.body();
  }

  private static String run(JsonNode run) {
    return "/api/allocation/runs/" + run.path("id").asLong();
  }

  private static int act(JsonNode run, String what) {
    return here.mara().post(run(run) + "/" + what, "").status();
  }

  private static void commit(JsonNode run) {
    assertThat(act(run, "commit")).isEqualTo(200);
    await("it is carried out")
        .until(() -> here.mara().read(run(run)).path("state").asString().equals("COMMITTED"));
  }

  /** Where an order's units come from. */
  private String from(JsonNode run, String id) {
    return here.mara()
        .read(run(run) + "/lines")
        .path("rows")
        .valueStream()
        .filter(line -> line.path("orderNumber").asString().equals(world.number(id)))
        .map(line -> line.path("from").asString())
        .findFirst()
        .orElseThrow();
  }

  /** Units that are held of lots. */
  private static Map<String, Long> held(long item) {
    Map<String, Long> held = new HashMap<>();
    here.mara()
        .read("/api/stock/items/" + item + "/places")
        .path("places")
        .valueStream()
        .filter(p -> p.path("allocated").asLong() > 0)
        .forEach(
            p -> held.merge(p.path("lot").asString(), p.path("allocated").asLong(), Long::sum));
    return held;
  }

  private static int openEarmarks(long order) {
    return here.world()
        .db()
        .fetchCount(
            EARMARK,
            EARMARK
                .WHO
                .eq(String.valueOf(order))
                .and(EARMARK.KIND.eq("ORDER"))
                .and(EARMARK.CLOSED_AT.isNull()));
  }

  private static long tracked(String sku, String by, int minLife) {
    here.world().scrapAll(sku);
    long id = here.itemId(sku);
    Map<String, Object> tracking =
        Map.of("by", by, "pick", "FEFO", "oneLot", false, "minLife", minLife);
    assertThat(here.mara().change("PUT", "/api/stock/items/" + id + "/tracking", tracking).status())
        .isEqualTo(204);
    return id;
  }

  private static void came(long item, String lot, long units, @Nullable LocalDate expires) {
    Map<String, Object> part = new HashMap<>();
    part.put("units", units);
    part.put("bin", "");
    part.put("lot", lot);
    part.put("expires", expires == null ? null : expires.toString());
    part.put("state", "SELLABLE");
    Map<String, Object> line = new HashMap<>();
    line.put("itemId", item);
    line.put("expectedId", null);
    line.put("parts", List.of(part));
    Map<String, Object> receipt = new HashMap<>();
    receipt.put(
        "nodeId",
        here.world()
            .db()
            .select(NODE.ID)
            .from(NODE)
            .where(NODE.CODE.eq("STW"))
            .fetchSingle()
            .value1());
    receipt.put("supplier", "Meadow Seeds");
    receipt.put("number", "PO-" + lot);
    receipt.put("note", "");
    receipt.put("restComes", false);
    receipt.put("lines", List.of(line));
    var answer = here.mara().post("/api/stock/receipts", receipt);
    assertThat(answer.status()).as(answer.toString()).isEqualTo(200);
  }

  private static long lot(String code) {
    return here.world()
        .db()
        .select(LOT.ID)
        .from(LOT)
        .where(LOT.CODE.eq(code))
        .fetchSingle()
        .value1();
  }

  private static int recall(long lot) {
    return here.mara()
        .post("/api/stock/lots/" + lot + "/recall", Map.of("note", "as asked"))
        .status();
  }
}
