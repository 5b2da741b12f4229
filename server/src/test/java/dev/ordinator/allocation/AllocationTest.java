package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ORDER_HOLD;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.desk.StockMoves;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.RunWish;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.ShortWorld;
import dev.ordinator.testing.Visitor.Answer;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Many lines allocated at once: seen, done, undone. */
class AllocationTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();
  private final ShortWorld world = new ShortWorld(here);

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    world.resumeRouting();
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aRunIsSeenThenDoneThenUndoneAndAllIsAsItWas() {
    long item = world.stocked("SMOKER-S", 9);
    world.pauseRouting();
    ordered("R1", "SMOKER-S", 4);
    ordered("R2", "SMOKER-S", 4);
    ordered("R3", "SMOKER-S", 4);
    String before = levels(item);

    JsonNode seen = preview("SMOKER-S", "BY_ORDER", false, "PART", false);
    assertThat(seen.path("asked").asLong()).isEqualTo(12);
    assertThat(seen.path("given").asLong()).isEqualTo(9);
    assertThat(got(seen)).isEqualTo(Map.of("R1", 4L, "R2", 4L, "R3", 1L));
    assertThat(levels(item)).as("a preview gives nothing").isEqualTo(before);
    JsonNode whole = preview("SMOKER-S", "BY_ORDER", false, "WHOLE", false);
    assertThat(got(whole)).isEqualTo(Map.of("R1", 4L, "R2", 4L, "R3", 0L));
    JsonNode shared = preview("SMOKER-S", "BY_ITEM", true, "PART", false);
    assertThat(got(shared)).isEqualTo(Map.of("R1", 3L, "R2", 3L, "R3", 3L));
    JsonNode compared =
        here.mara().read("/api/allocation/runs/" + id(seen) + "/compared?with=" + id(whole));
    assertThat(compared).hasSize(1);
    assertThat(compared.get(0).path("first").asLong()).isEqualTo(1);

    commit(seen);
    assertThat(lines(seen).toString()).doesNotContain("CHANGED");
    assertThat(world.available("SMOKER-S")).isZero();
    assertThat(levels(item)).isNotEqualTo(before);
    assertThat(act(seen, "undo").status()).isEqualTo(200);
    assertThat(levels(item)).isEqualTo(before);
    assertThat(act(seen, "undo").status()).isEqualTo(409);

    // what had changed when it was committed is said, and whole stays whole
    here.world().shop().change("R1", ShopOrder::cancelled);
    here.awaitStage("R1", "CANCELLED");
    commit(whole);
    assertThat(got(whole)).isEqualTo(Map.of("R1", 0L, "R2", 4L, "R3", 0L));
    assertThat(lines(whole).toString()).contains("CHANGED");
    world.resumeRouting();
    here.awaitStage("R2", "RELEASED");
    here.awaitStage("R3", "RELEASED");
    assertThat(act(whole, "undo").status()).as("it is with its node").isEqualTo(409);
    assertThat(openEarmarks(item)).isZero();
  }

  @Test
  void anOrderOnHoldGetsNothingAndOneThatWaitsIsRoutedByItsRun() {
    long item = world.stocked("SMOKER-L", 0);
    world.waits("H1", "SMOKER-L", 3);
    world.waits("H2", "SMOKER-L", 3);
    here.mara()
        .post("/api/orders/" + world.orderId("H1") + "/hold", Map.of("reason", "call first"));
    world.pauseRouting();
    world.receive(item, 3);
    JsonNode seen = preview("SMOKER-L", "BY_ORDER", false, "AS_SAID", true);
    assertThat(got(seen)).isEqualTo(Map.of("H2", 3L));
    world.resumeRouting();
    here.awaitStage("H2", "RELEASED");
    commit(seen);
    assertThat(got(seen)).as("it was served meanwhile").isEqualTo(Map.of("H2", 0L));
    assertThat(openEarmarks(item)).isZero();
  }

  @Test
  void whatAnOrderWasGivenIsFreeOnceItHasBeenOnHoldForTooLong() {
    long item = world.stocked("HAT-VEIL", 5);
    world.terms(true, "SNAG", null, false, null, 4);
    world.pauseRouting();
    ordered("F1", "HAT-VEIL", 5);
    commit(preview("HAT-VEIL", "BY_ORDER", false, "AS_SAID", false));
    here.mara()
        .post("/api/orders/" + world.orderId("F1") + "/hold", Map.of("reason", "call first"));
    StockMoves moves = here.world().bean(StockMoves.class);
    assertThat(moves.freeHeld()).as("not yet").isZero();
    here.world()
        .db()
        .update(ORDER_HOLD)
        .set(ORDER_HOLD.PLACED_AT, Instant.now().minus(5, ChronoUnit.HOURS))
        .execute();
    assertThat(moves.freeHeld()).isEqualTo(1);
    assertThat(world.available("HAT-VEIL")).isEqualTo(5);
    assertThat(openEarmarks(item)).isZero();
    assertThat(world.timeline("F1")).contains("What it held is free");
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void settingsThatMakeNoSenseAreRefusedAndNamedOnesAreKept() {
    Map<String, Object> wish = wish("BRUSH", "BY_ORDER", true, "PART", false);
    assertThat(here.mara().post("/api/allocation/runs", wish).status()).isEqualTo(422);
    Map<String, Object> plan = new HashMap<>(wish("BRUSH", "BY_ITEM", true, "PART", false));
    plan.put("everyMinutes", 2);
    assertThat(here.mara().change("PUT", "/api/allocation/plans", plan).status()).isEqualTo(422);
    plan.put("everyMinutes", 60);
    assertThat(here.mara().change("PUT", "/api/allocation/plans", plan).status()).isEqualTo(204);
    JsonNode kept = here.mara().read("/api/allocation/plans").get(0);
    assertThat(kept.path("everyMinutes").asInt()).isEqualTo(60);
    assertThat(
            here.mara()
                .change("DELETE", "/api/allocation/plans/" + kept.path("id").asLong(), Map.of())
                .status())
        .isEqualTo(204);
  }

  private void ordered(String id, String sku, long units) {
    here.world().shop().place(Sample.order(id, sku, units));
    here.awaitStage(id, "APPROVED");
  }

  private static Map<String, Object> wish(
      String sku, String way, boolean share, String parts, boolean thenRoute) {
    return new RunWish()
        .of(sku)
        .where("units < 500")
        .with("way", way)
        .with("share", share)
        .with("parts", parts)
        .with("thenRoute", thenRoute)
        .named("morning");
  }

  private static JsonNode preview(
      String sku, String way, boolean share, String parts, boolean thenRoute) {
    var answer = here.mara().post("/api/allocation/runs", wish(sku, way, share, parts, thenRoute));
    assertThat(answer.status()).as(answer.toString()).isEqualTo(201);
    return answer.body();
  }

  private static Answer act(JsonNode run, String what) {
    return here.mara().post("/api/allocation/runs/" + id(run) + "/" + what, "");
  }

  private static void commit(JsonNode run) {
    assertThat(act(run, "commit").status()).isEqualTo(200);
    await("it is carried out")
        .until(() ->
            here.mara()
                .read("/api/allocation/runs/" + id(run))
                .path("state")
                .asString()
                .equals("COMMITTED"));
  }

  private static long id(JsonNode run) {
    return run.path("id").asLong();
  }

  private static JsonNode lines(JsonNode run) {
    return here.mara().read("/api/allocation/runs/" + id(run) + "/lines").path("rows");
  }

  /** Units by the shop's own order ids. */
  private Map<String, Long> got(JsonNode run) {
    Map<String, Long> got = new HashMap<>();
    for (JsonNode line : lines(run)) {
      for (String id : List.of("R1", "R2", "R3", "H1", "H2")) {
        if (line.path("orderNumber").asString().equals(world.number(id))) {
          got.merge(id, line.path("given").asLong(), Long::sum);
        }
      }
    }
    return got;
  }

  private static String levels(long item) {
    return here.world()
        .db()
        .select(
            STOCK_LEVEL.NODE_ID, STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.EARMARKED)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(item))
        .orderBy(STOCK_LEVEL.NODE_ID)
        .fetch()
        .formatCSV();
  }

  private static int openEarmarks(long item) {
    return here.world()
        .db()
        .fetchCount(
            EARMARK,
            EARMARK.ITEM_ID.eq(item).and(EARMARK.KIND.eq("ORDER")).and(EARMARK.CLOSED_AT.isNull()));
  }
}
