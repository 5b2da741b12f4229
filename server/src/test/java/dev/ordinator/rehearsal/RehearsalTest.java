package dev.ordinator.rehearsal;

import static dev.ordinator.schema.Tables.LEVEL_DAY;
import static dev.ordinator.schema.Tables.LEVEL_SNAPSHOT;
import static dev.ordinator.schema.Tables.NETWORK_STATE;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_LOAD;
import static dev.ordinator.schema.Tables.REHEARSAL;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.val;

import dev.ordinator.network.NetworkHistory;
import dev.ordinator.stock.LevelDays;
import dev.ordinator.stock.Levels;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor.Answer;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Past orders are routed again under a draft, at the stock of their moment; nothing changes. */
class RehearsalTest {
  private static final String REHEARSALS = "/api/rulebook/rehearsals";
  private static final JsonMapper JSON = new JsonMapper();

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeEach
  void aDayBegins() {
    here.mara().change("DELETE", "/api/rulebook/draft", "");
    db().deleteFrom(LEVEL_DAY).execute();
    db().deleteFrom(LEVEL_SNAPSHOT).execute();
    db().deleteFrom(NETWORK_STATE).execute();
    days().keepToday();
    here.world().bean(NetworkHistory.class).keep();
  }

  @Test
  void anOrderIsRoutedOnTheNetworkOfItsDayAsItStoodThen() {
    here.world().shop().place(Sample.order("RH9"));
    here.awaitStage("RH9", "RELEASED");
    String node = decision("RH9").path("chosen").get(0).path("node").asString();
    assertThat(
            here.mara()
                .post(
                    "/api/orders/" + here.order("RH9").path("id").asLong() + "/cancel",
                    Map.of("reason", "no longer wanted"))
                .status())
        .isEqualTo(204);
    Integer usual = usual(node);
    setUsual(node, 0);
    here.world().bean(NetworkHistory.class).keep();

    draft(live());
    JsonNode result = rehearse().path("result");
    setUsual(node, usual);
    assertThat(result.path("was").path("orders").asInt()).as("cancelled since").isEqualTo(1);
    assertThat(result.path("would").path("perNode").has(node)).as("it had places then").isTrue();
    assertThat(result.path("would")).isEqualTo(result.path("was"));
  }

  @Test
  void whatADayHadNoPlaceForIsPlannedForTheNextOneAsItWas() {
    here.world().scrapAll("BRUSH");
    here.world()
        .bean(StockLedger.class)
        .adjust(
            here.itemId("BRUSH"), here.nodeId("STW"), 9, StockLedger.Reason.RECEIPT, "test", "");
    Integer usual = usual("STW");
    // the places that others took there today are none of these orders' doing
    db().deleteFrom(NODE_LOAD).execute();
    setUsual("STW", 1);
    aDayBegins();
    for (String id : List.of("RH10", "RH11")) {
      here.world().shop().place(Sample.order(id, "BRUSH", 1));
      here.awaitStage(id, "RELEASED");
    }
    draft(live());
    JsonNode result = rehearse().path("result");
    setUsual("STW", usual);
    assertThat(result.path("was").path("orders").asInt()).isEqualTo(2);
    assertThat(result.path("would")).isEqualTo(result.path("was"));
    assertThat(result.path("changed").asInt()).isZero();
  }

  @Test
  void aDraftThatSaysTheSameWouldDecideTheSameAndOneThatExcludesANodeDoesNot() {
    List<String> orders = List.of("RH1", "RH2", "RH3");
    orders.forEach(id -> here.world().shop().place(Sample.order(id)));
    orders.forEach(id -> here.awaitStage(id, "RELEASED"));
    // what went since is not missed by orders that came before
    here.world().scrapAll("SMOKER-L");
    JsonNode before = sheet("RH1");
    String node = decision("RH1").path("chosen").get(0).path("node").asString();

    draft(live());
    JsonNode same = rehearse();
    JsonNode result = same.path("result");
    assertThat(result.path("was").path("orders").asInt()).isEqualTo(3);
    assertThat(result.path("was").path("unfilled").asInt()).isZero();
    assertThat(result.path("changed").asInt()).isZero();
    assertThat(result.path("would")).isEqualTo(result.path("was")).isEqualTo(result.path("again"));

    excludeEverywhere(node);
    JsonNode other = rehearse();
    result = other.path("result");
    assertThat(result.path("byDraft").asInt()).isEqualTo(3);
    assertThat(result.path("would").path("perNode").has(node)).isFalse();
    assertThat(result.path("was").path("perNode").path(node).path("consignments").asInt())
        .isEqualTo(3);
    assertThat(result.path("would").path("cost").asLong())
        .isGreaterThan(result.path("was").path("cost").asLong());
    String path = REHEARSALS + "/" + other.path("head").path("id").asLong();
    JsonNode changed = here.mara().read(path + "/orders");
    assertThat(changed).hasSize(3);
    assertThat(changed.get(0).path("wasNodes").get(0).asString()).isEqualTo(node);
    JsonNode grounds =
        here.mara().read(path + "/orders/" + changed.get(0).path("orderId").asLong());
    assertThat(grounds.path("would").path("considered").toString()).contains("EXCLUDED_BY_RULE");
    assertThat(grounds.path("was").path("chosen").get(0).path("node").asString()).isEqualTo(node);
    assertThat(here.mara().raw(path + "/csv").body())
        .contains(changed.get(0).path("number").asString());
    assertThat(sheet("RH1")).as("only rehearsed").isEqualTo(before);
    assertThat(other.path("head").path("stale").asBoolean()).isFalse();
    draft(live());
    assertThat(here.mara().read(path).path("head").path("stale").asBoolean())
        .as("the draft was changed since")
        .isTrue();
  }

  @Test
  void eachOrderSeesTheStockOfItsMomentLessWhatOthersWouldHaveTaken() {
    here.world().scrapAll("TOOL-J");
    db().deleteFrom(LEVEL_SNAPSHOT).execute();
    db().deleteFrom(LEVEL_DAY).execute();
    days().keepToday();
    here.world().shop().place(Sample.order("RH5", "TOOL-J", 1));
    here.awaitMark("RH5", "waiting for stock");
    long node =
        db().select(STOCK_LEVEL.NODE_ID)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(here.itemId("TOOL-J")))
            .limit(1)
            .fetchSingle()
            .value1();
    here.world()
        .bean(StockLedger.class)
        .adjust(here.itemId("TOOL-J"), node, 2, StockLedger.Reason.RECEIPT, "test", "");
    here.world().shop().place(Sample.order("RH6", "TOOL-J", 1));
    here.awaitStage("RH6", "RELEASED");

    draft(live());
    JsonNode result = rehearse().path("result");
    assertThat(result.path("would").path("unfilled").asInt())
        .as("the first of them came before there was any")
        .isEqualTo(1);
    assertThat(result.path("would")).isEqualTo(result.path("was"));
  }

  @Test
  void oneAtATimeAndItCanBeCancelled() {
    assertThat(begin(30).status()).as("no draft").isEqualTo(409);
    draft(live());
    assertThat(begin(0).status()).isEqualTo(422);
    long id = begin(30).body().path("id").asLong();
    awaitEnd(id);
    // as if another instance were at it
    db().update(REHEARSAL)
        .set(REHEARSAL.STATE, "RUNNING")
        .set(REHEARSAL.BEAT_AT, Instant.now())
        .where(REHEARSAL.ID.eq(id))
        .execute();
    assertThat(begin(30).status()).as("one is under way").isEqualTo(409);
    assertThat(end(id)).isEqualTo(204);
    assertThat(here.mara().read(REHEARSALS + "/" + id).path("head").path("state").asString())
        .isEqualTo("CANCELLED");
    assertThat(begin(30).status()).isEqualTo(202);
    assertThat(end(id)).as("now it is thrown away").isEqualTo(204);
    assertThat(here.mara().get(REHEARSALS + "/" + id).status()).isEqualTo(404);
  }

  @Test
  void whatAWorkerLeftWhenItDiedIsBegunAnew() {
    draft(live());
    long id = begin(30).body().path("id").asLong();
    awaitEnd(id);
    db().update(REHEARSAL)
        .set(REHEARSAL.STATE, "RUNNING")
        .set(REHEARSAL.BEAT_AT, Instant.now().minusSeconds(600))
        .setNull(REHEARSAL.RESULT)
        .where(REHEARSAL.ID.eq(id))
        .execute();
    assertThat(awaitEnd(id).path("result").isObject()).isTrue();
  }

  @Test
  void ofALevelOnlyDaysAreKeptOnWhichItChangedAndAllLevelsAreKnownOfEach() {
    LocalDate today = db().select(LEVEL_SNAPSHOT.DAY).from(LEVEL_SNAPSHOT).fetchSingle().value1();
    Set<LevelDays.Level> first = levels(today);
    assertThat(first).isEqualTo(now());
    LocalDate yesterday = today.minusDays(1);
    db().update(LEVEL_SNAPSHOT).set(LEVEL_SNAPSHOT.DAY, yesterday).execute();
    db().update(LEVEL_DAY).set(LEVEL_DAY.DAY, yesterday).execute();
    here.world().scrapAll("BRUSH");
    days().keepToday();
    List<LevelDays.Level> changed = new ArrayList<>();
    days().changed(today, changed::add);
    assertThat(changed).isNotEmpty().allMatch(l -> l.itemId() == here.itemId("BRUSH"));
    assertThat(levels(today)).isEqualTo(now());
    assertThat(levels(yesterday)).isEqualTo(first);
    days().keepToday();
    assertThat(levels(today)).as("once a day").isEqualTo(now());
  }

  @Test
  void ofDaysLongPastOnlyWhatStillHoldsIsKept() {
    LocalDate today = db().select(LEVEL_SNAPSHOT.DAY).from(LEVEL_SNAPSHOT).fetchSingle().value1();
    LocalDate longAgo = today.minusDays(150);
    LocalDate later = today.minusDays(120);
    db().update(LEVEL_SNAPSHOT).set(LEVEL_SNAPSHOT.DAY, longAgo).execute();
    db().update(LEVEL_DAY).set(LEVEL_DAY.DAY, longAgo).execute();
    long item = here.itemId("SMOKER-L");
    db().insertInto(LEVEL_DAY, LEVEL_DAY.ITEM_ID, LEVEL_DAY.NODE_ID, LEVEL_DAY.DAY, LEVEL_DAY.FREE)
        .select(
            select(LEVEL_DAY.ITEM_ID, LEVEL_DAY.NODE_ID, val(later), LEVEL_DAY.FREE.plus(1L))
                .from(LEVEL_DAY)
                .where(LEVEL_DAY.ITEM_ID.eq(item)))
        .execute();
    days().keepToday();
    assertThat(
            db().selectDistinct(LEVEL_DAY.DAY)
                .from(LEVEL_DAY)
                .where(LEVEL_DAY.ITEM_ID.eq(item))
                .fetch(LEVEL_DAY.DAY))
        .containsExactlyInAnyOrder(later, today);
    assertThat(levels(today)).isEqualTo(now());
  }

  private static Set<LevelDays.Level> levels(LocalDate day) {
    Set<LevelDays.Level> levels = new HashSet<>();
    days().levels(day, levels::add);
    return levels;
  }

  private static Set<LevelDays.Level> now() {
    return db().select(STOCK_LEVEL.ITEM_ID, NODE.CODE, Levels.FREE)
        .from(STOCK_LEVEL)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .fetchSet(r -> new LevelDays.Level(r.value1(), r.value2(), r.value3()));
  }

  private static JsonNode rehearse() {
    Answer begun = begin(30);
    assertThat(begun.status()).as("%s", begun.body()).isEqualTo(202);
    return awaitEnd(begun.body().path("id").asLong());
  }

  private static JsonNode awaitEnd(long id) {
    String path = REHEARSALS + "/" + id;
    await("the rehearsal is done")
        .until(() -> here.mara().read(path).path("head").path("state").asString().equals("DONE"));
    return here.mara().read(path);
  }

  private static Answer begin(int days) {
    return here.mara().post(REHEARSALS, Map.of("days", days));
  }

  private static int end(long id) {
    return here.mara().change("DELETE", REHEARSALS + "/" + id, "").status();
  }

  private static JsonNode live() {
    int number = here.mara().read("/api/rulebook").path("live").path("number").asInt();
    return here.mara().read("/api/rulebook/editions/" + number + "/file");
  }

  private static void draft(JsonNode book) {
    assertThat(here.mara().change("PUT", "/api/rulebook/draft", book).status()).isEqualTo(200);
  }

  private static void excludeEverywhere(String node) {
    String rule =
        """
        [{"change":"putRule","was":null,"group":"Every order","before":null,"rule":
          {"id":"never","name":"Never from there","on":true,"event":"APPROVED","stay":null,
           "condition":{"is":"all","parts":[]},
           "actions":[{"do":"excludeNode","node":"%s"}],"endsGroup":false}}]
        """
            .formatted(node);
    assertThat(here.mara().post("/api/rulebook/draft/changes", JSON.readTree(rule)).status())
        .isEqualTo(200);
  }

  private static JsonNode decision(String externalId) {
    return here.mara().read(path(externalId) + "/decisions").get(0);
  }

  private static JsonNode sheet(String externalId) {
    return here.mara().read(path(externalId));
  }

  private static String path(String externalId) {
    return "/api/orders/" + here.order(externalId).path("id").asLong();
  }

  private static @Nullable Integer usual(String node) {
    return db().select(NODE.CAPACITY_PER_DAY)
        .from(NODE)
        .where(NODE.CODE.eq(node))
        .fetchSingle()
        .value1();
  }

  private static void setUsual(String node, @Nullable Integer consignments) {
    db().update(NODE).set(NODE.CAPACITY_PER_DAY, consignments).where(NODE.CODE.eq(node)).execute();
  }

  private static LevelDays days() {
    return here.world().bean(LevelDays.class);
  }

  private static DSLContext db() {
    return here.world().db();
  }
}
