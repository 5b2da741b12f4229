package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Orders that are routed together: by their channel's minutes, or because a person chose them. */
class BatchRoutingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static final String TIMES = "/api/routing/times";
  private static final String TOGETHER = "/api/routing/together";

  @BeforeEach
  void theShopWaits() {
    assertThat(set(60)).isEqualTo(204);
  }

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    set(null);
    await("all are routed").until(() -> waiting() == 0);
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void ordersWaitForTheirChannelsBatchAndAreDecidedTogether() {
    Stream.of("BR1", "BR2", "BR3").forEach(id -> here.world().shop().place(Sample.order(id)));
    await("they wait").until(() -> waiting() == 3);
    assertThat(here.order("BR1").path("stage").asString()).isEqualTo("APPROVED");
    assertThat(here.order("BR1").path("marks").toString()).contains("waits for its batch");
    batchIsDue();
    Stream.of("BR1", "BR2", "BR3").forEach(id -> here.awaitStage(id, "RELEASED"));
    assertThat(timeline("BR2")).contains("decided together with 2 others");
    JsonNode decision = here.mara().read(path("BR2") + "/decisions").get(0);
    assertThat(decision.path("considered")).as("with its grounds").isNotEmpty();
  }

  @Test
  void whatIsScarceGoesToTheHigherClassAndAKitIsRoutedByItself() {
    only("TOOL-J", 1);
    here.world().shop().place(Sample.order("BR5", "TOOL-J", 1));
    await("it waits").until(() -> waiting() == 1);
    // came later, and goes first: a rule says so
    here.world()
        .shop()
        .place(Sample.order("BR6", "TOOL-J", 1, Sample.HOME, "paid", "Express delivery"));
    here.world().shop().place(Sample.order("BR7", "HIVE-KIT", 1));
    await("all wait").until(() -> waiting() == 3);
    JsonNode seen = here.mara().post(TOGETHER + "/preview", chosen("BR5", "BR6", "BR7")).body();
    assertThat(planned(seen, "BR6").path("nodes")).hasSize(1);
    assertThat(planned(seen, "BR5").path("nodes")).isEmpty();
    assertThat(seen.path("left").get(0).path("orderId").asLong()).isEqualTo(id("BR7"));
    assertThat(waiting()).as("only looked at").isEqualTo(3);

    batchIsDue();
    here.awaitStage("BR6", "RELEASED");
    here.awaitStage("BR7", "RELEASED");
    here.awaitMark("BR5", "waiting for stock");
  }

  @Test
  void aPersonRoutesTheChosenNowAndTheRestGoesOnWaiting() {
    Stream.of("BR10", "BR11", "BR12").forEach(id -> here.world().shop().place(Sample.order(id)));
    await("they wait").until(() -> waiting() == 3);
    JsonNode seen = here.mara().post(TOGETHER + "/preview", chosen("BR10", "BR11")).body();
    assertThat(seen.path("planned")).hasSize(2);
    assertThat(seen.path("total").asLong()).isGreaterThanOrEqualTo(seen.path("bound").asLong());
    long sum = seen.path("planned").valueStream().mapToLong(p -> p.path("cost").asLong()).sum();

    String file = here.mara().post(TOGETHER + "/case", chosen("BR10", "BR11")).body().toString();
    JsonNode answer = here.mara().postText("/api/planning/cases", "application/json", file).body();
    assertThat(answer.path("orders").valueStream().mapToLong(o -> o.path("cost").asLong()).sum())
        .as("the case comes to the same")
        .isEqualTo(sum);

    JsonNode done = here.mara().post(TOGETHER, chosen("BR10", "BR11")).body();
    assertThat(done.path("routed").asInt()).isEqualTo(2);
    here.awaitStage("BR10", "RELEASED");
    here.awaitStage("BR11", "RELEASED");
    assertThat(waiting()).isEqualTo(1);
    JsonNode again = here.mara().post(TOGETHER, chosen("BR10", "BR12")).body();
    assertThat(again.path("routed").asInt()).isEqualTo(1);
    assertThat(again.path("left").get(0).path("why").asString()).contains("routed already");
  }

  @Test
  void theMinutesAreCheckedAndWithoutThemAllAreRoutedAtOnce() {
    assertThat(set(0)).isEqualTo(422);
    assertThat(here.mara().change("PUT", TIMES + "/NONE", Map.of("minutes", 5)).status())
        .isEqualTo(404);
    here.world().shop().place(Sample.order("BR15"));
    await("it waits").until(() -> waiting() == 1);
    assertThat(set(null)).isEqualTo(204);
    here.awaitStage("BR15", "RELEASED");
    assertThat(here.mara().post(TOGETHER + "/preview", Map.of("orders", List.of())).status())
        .isEqualTo(422);
  }

  private static JsonNode planned(JsonNode preview, String externalId) {
    return preview
        .path("planned")
        .valueStream()
        .filter(p -> p.path("orderId").asLong() == id(externalId))
        .findFirst()
        .orElseThrow();
  }

  private static Map<String, List<Long>> chosen(String... externalIds) {
    return Map.of("orders", Stream.of(externalIds).map(BatchRoutingTest::id).toList());
  }

  private static long id(String externalId) {
    return here.order(externalId).path("id").asLong();
  }

  private static String path(String externalId) {
    return "/api/orders/" + id(externalId);
  }

  private static String timeline(String externalId) {
    return here.mara().read(path(externalId)).path("timeline").toString();
  }

  private static int waiting() {
    return here.mara()
        .read(TIMES)
        .valueStream()
        .filter(t -> t.path("channel").asString().equals("WEB"))
        .findFirst()
        .orElseThrow()
        .path("waiting")
        .asInt();
  }

  private static int set(@Nullable Integer minutes) {
    Map<String, @Nullable Integer> wish = new HashMap<>();
    wish.put("minutes", minutes);
    return here.mara().change("PUT", TIMES + "/WEB", wish).status();
  }

  private static void batchIsDue() {
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.NEXT_BATCH_AT, Instant.now())
        .where(CHANNEL.CODE.eq("WEB"))
        .execute();
  }

  /** So many of it at one node, and none anywhere else. */
  private static void only(String sku, long units) {
    here.world().scrapAll(sku);
    var level =
        here.world()
            .db()
            .select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
            .from(STOCK_LEVEL)
            .join(ITEM)
            .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
            .where(ITEM.SKU.eq(sku))
            .limit(1)
            .fetchSingle();
    here.world()
        .bean(StockLedger.class)
        .adjust(level.value1(), level.value2(), units, StockLedger.Reason.RECEIPT, "test", "");
  }
}
