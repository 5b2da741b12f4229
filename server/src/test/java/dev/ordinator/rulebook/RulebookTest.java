package dev.ordinator.rulebook;

import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import dev.ordinator.testing.Visitor.Answer;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The rulebook is changed without fear: a draft beside the live edition, until it is made live. */
class RulebookTest {
  private static final JsonMapper JSON = new JsonMapper();
  private static final String DE = test("COUNTRY", "IS", "DE");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeEach
  void noDraft() {
    here.mara().change("DELETE", "/api/rulebook/draft", "");
  }

  @Test
  void aDraftDecidesNothingUntilItIsMadeLiveAndTheOldEditionCanComeBack() {
    int before = live();
    JsonNode shown = change(put(rule("heavy", "PAID", DE, "{'do':'addTag','tag':'to-germany'}")));
    assertThat(shown.path("draft").path("number").asInt()).isEqualTo(before + 1);
    assertThat(hows(shown)).containsExactly("ADDED");
    arrives("RB1", "DE");
    assertThat(timeline("RB1")).doesNotContain("to-germany");

    makeLive(shown, "Germans are tagged");
    assertThat(live()).isEqualTo(before + 1);
    arrives("RB2", "DE");
    assertThat(timeline("RB2")).contains("to-germany");
    JsonNode looks = here.mara().read("/api/orders/" + id("RB2") + "/rules");
    JsonNode paid =
        looks.valueStream().filter(l -> is(l, "event", "PAID")).findFirst().orElseThrow();
    assertThat(paid.path("edition").asInt()).isEqualTo(before + 1);
    assertThat(paid.path("rules").get(0).path("did").get(0).asString())
        .isEqualTo("tagged “to-germany”");
    assertThat(looks.toString()).as("and those that did not hold").contains("\"held\":false");

    JsonNode back = post("/api/rulebook/editions/" + before + "/draft", "").body();
    assertThat(hows(back)).containsExactly("REMOVED");
    makeLive(back, "as it was");
    arrives("RB3", "DE");
    assertThat(timeline("RB3")).doesNotContain("to-germany");
    assertThat(here.mara().read("/api/rulebook/editions").get(0).path("note").asString())
        .isEqualTo("as it was");
  }

  @Test
  void ofTwoWhoChangeOneRuleTheSecondHearsOfItAndTwoRulesDontDisturbOneAnother() {
    String first = rule("one", "PAID", DE, note("first"));
    String other = rule("other", "PAID", DE, note("other"));
    change(put(first), put(other));
    String mine = rule("one", "PAID", DE, note("mine"));
    String theirs = rule("one", "PAID", DE, note("theirs"));
    change(put(theirs, first));
    Answer late = tryChange(put(mine, first));
    assertThat(late.status()).isEqualTo(409);
    assertThat(late.body().path("detail").asString()).contains("“one” meanwhile");
    change(put(rule("other", "PAID", DE, note("still mine")), other));
    String now = here.mara().read("/api/rulebook").path("body").toString();
    assertThat(now).contains("theirs", "still mine").doesNotContain("\"mine\"");
  }

  @Test
  void aDraftThatSomebodyChangedSinceIsNotMadeLive() {
    JsonNode seen = change(put(rule("a", "PAID", DE, note("a"))));
    change(put(rule("b", "PAID", DE, note("b"))));
    assertThat(
            post(
                    "/api/rulebook/draft/live",
                    Map.of("changes", seen.path("draft").path("changes").asInt(), "note", "x"))
                .status())
        .isEqualTo(409);
  }

  @Test
  void whatIsNotSoundIsRefusedWithItsPlaceAndTheDraftStaysAsItWas() {
    assertThat(problem(put(rule("x", "PAID", DE, "{'do':'useLadder','ladder':'None such'}"))))
        .contains("no ladder is called “None such”");
    assertThat(problem(put(rule("x", "PAID", DE, "{'do':'excludeNode','node':'XYZ'}"))))
        .contains("no node is called XYZ");
    assertThat(problem(put(rule("x", "PAID", test("VALUE", "IS", "5"), note("n")))))
        .contains("IS does not fit VALUE");
    assertThat(problem(put(rule("x", "PAID", test("NO_FIELD", "IS", "5"), note("n")))))
        .contains("NO_FIELD");
    Answer wrong = tryChange(put(rule("x", "PAID", test("VALUE", "OVER", "dear"), note("n"))));
    assertThat(wrong.body().path("field").asString()).isEqualTo("$[0].rule.condition");
    assertThat(here.mara().read("/api/rulebook").path("draft").isNull()).isTrue();
  }

  @Test
  void aRulebookGoesOutAsAFileAndComesInAgain() {
    JsonNode live = here.mara().read("/api/rulebook/editions/" + live() + "/file");
    assertThat(here.mara().change("PUT", "/api/rulebook/draft", live).status()).isEqualTo(200);
    assertThat(hows(here.mara().read("/api/rulebook"))).isEmpty();
    String spoilt = live.toString().replace("\"sameCountry\":true", "\"sameCountry\":7.5");
    Answer refused = here.mara().change("PUT", "/api/rulebook/draft", JSON.readTree(spoilt));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.body().path("field").asString()).startsWith("$.ladders[0].rungs[0]");
    JsonNode schema = here.mara().read("/api/rulebook/schema");
    JsonNode terms = here.mara().read("/api/rulebook/terms");
    assertThat(
            names(schema.path("$defs").path("rule").path("properties").path("event").path("enum")))
        .as("the schema knows all events")
        .containsExactlyElementsOf(names(terms.path("events")));
    assertThat(
            names(
                schema
                    .path("$defs")
                    .path("condition")
                    .path("oneOf")
                    .get(1)
                    .path("properties")
                    .path("field")
                    .path("enum")))
        .as("and all fields")
        .containsExactlyElementsOf(
            terms.path("fields").valueStream().map(f -> f.path("field").asString()).toList());
  }

  @Test
  void whomARuleWouldHaveMetIsSeenBeforeItIsSaved() {
    arrives("RB5", "DE");
    arrives("RB6", "BE");
    String belgians = rule("be", "RELEASED", test("COUNTRY", "IS", "BE"), note("n"));
    JsonNode met = post("/api/rulebook/trial", json(belgians)).body();
    assertThat(met.path("orders").valueStream().map(o -> o.path("country").asString()))
        .contains("BE")
        .doesNotContain("DE");
    assertThat(met.path("met").asInt()).isEqualTo(met.path("orders").size());
    String delivered = rule("de", "DELIVERED", test("COUNTRY", "IS", "BE"), note("n"));
    assertThat(
            post("/api/rulebook/trials", json("[" + belgians + "," + delivered + "]"))
                .body()
                .path("met")
                .toString())
        .as("nothing was delivered")
        .contains("\"de\":0");
    Visitor vera = here.world().visitor("vera");
    assertThat(vera.post("/api/rulebook/trial", json(belgians)).status()).isEqualTo(200);
  }

  @Test
  void aLiveRuleThatTakesTooManyStepsDoesNotHoldAndIsSaidUntilItIsWrittenAnew() {
    String tens = "[0,1,2,3,4,5,6,7,8,9]";
    String dear =
        "country == \\u0027FR\\u0027 && T.all(a, T.all(b, T.all(c, T.all(d, a+b+c+d >= 0))))"
            .replace("T", tens);
    String condition = "{'is':'expression','text':'" + dear + "'}";
    String was = rule("nested", "PAID", condition, note("met"));
    makeLive(change(put(was)), "cheap for most");
    arrives("RB90", "FR");
    assertThat(timeline("RB90")).doesNotContain("met");
    assertThat(here.mara().read("/api/today").path("snags").findValuesAsString("cause"))
        .contains("RULE_TOO_COSTLY");
    String shorter = rule("nested", "PAID", test("COUNTRY", "IS", "FR"), note("met"));
    makeLive(change(put(shorter, was)), "as a test");
    assertThat(here.mara().read("/api/today").path("snags").findValuesAsString("cause"))
        .doesNotContain("RULE_TOO_COSTLY");
  }

  @Test
  void anExpressionSaysWhatTheBuilderCantAndWhatIsWrongInItIsSaidWithItsPlace() {
    String abroad =
        "{'is':'expression','text':'country != \\u0027NL\\u0027 && skus.exists(s, s.size() > 3)'}";
    JsonNode shown =
        change(put(rule("cel", "PAID", abroad, "{'do':'addTag','tag':'by-expression'}")));
    makeLive(shown, "what the builder can’t say");
    arrives("RB20", "BE");
    arrives("RB21", "NL");
    assertThat(timeline("RB20")).contains("by-expression");
    assertThat(timeline("RB21")).doesNotContain("by-expression");

    Answer wrong =
        tryChange(
            put(rule("bad", "PAID", "{'is':'expression','text':'value > country'}", note("n"))));
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().path("field").asString()).startsWith("$[0].rule.condition");
    assertThat(wrong.body().path("detail").asString()).contains("line 1, column 7");
    JsonNode faults = post("/api/rulebook/expressions", Map.of("text", "total > 5")).body();
    assertThat(faults.get(0).path("what").asString()).contains("total");
    Answer dear =
        tryChange(
            put(
                rule(
                    "too-dear",
                    "PAID",
                    "{'is':'expression','text':'skus.all(a, skus.all(b, a != b + b))'}",
                    note("n"))));
    assertThat(dear.status()).isEqualTo(422);
    assertThat(dear.body().path("detail").asString()).contains("more steps than it may");
  }

  @Test
  void rulesChooseTheLadderForbidSplittingAndPreferNodes() {
    String oneNode =
        "{'change':'putLadder','was':null,'ladder':{'name':'Whole parcels','rungs':[{'name':'One node',"
            + "'nodes':{'kinds':null,'codes':null,'sameCountry':false},'maxConsignments':1,"
            + "'cover':'WHOLE','late':'ALLOW'}]}}";
    JsonNode shown =
        change(
            oneNode,
            put(
                rule(
                    "fr",
                    "APPROVED",
                    test("COUNTRY", "IS", "FR"),
                    "{'do':'useLadder','ladder':'Whole parcels'},{'do':'preferNode','node':'FER'},"
                        + "{'do':'split','allowed':false}")));
    makeLive(shown, "the French");
    arrives("RB7", "FR");
    JsonNode decision = here.mara().read("/api/orders/" + id("RB7") + "/decisions").get(0);
    assertThat(decision.path("rungName").asString()).isEqualTo("One node");
    assertThat(decision.path("chosen").get(0).path("node").asString()).isEqualTo("FER");
    arrives("RB8", "NL");
    assertThat(
            here.mara()
                .read("/api/orders/" + id("RB8") + "/decisions")
                .get(0)
                .path("rungName")
                .asString())
        .isNotEqualTo("One node");
  }

  @Test
  void aRungMaySendWhatThereIsAndTheRestWaitsUnlessTheOrderMayNotBeSplit() {
    String some =
        "{'change':'putLadder','was':null,'ladder':{'name':'What there is','rungs':[{'name':'What there is',"
            + "'nodes':{'kinds':null,'codes':null,'sameCountry':false},'maxConsignments':1,"
            + "'cover':'MOST','late':'ALLOW'}]}}";
    String whole = test("SERVICE_ASKED", "BEGINS_WITH", "express");
    JsonNode shown =
        change(
            some,
            put(
                rule(
                    "some",
                    "APPROVED",
                    test("SKU", "IS", "SMOKER-S"),
                    "{'do':'useLadder','ladder':'What there is'}")),
            put(rule("whole", "APPROVED", whole, "{'do':'split','allowed':false}")));
    makeLive(shown, "part of an order may leave before the rest");
    here.world().scrapAll("SMOKER-S");
    receive("SMOKER-S", 3);
    ShopOrder five = Sample.order("RB30", "SMOKER-S", 5);
    here.world().shop().place(five);
    here.awaitMark("RB30", "waiting for stock");
    JsonNode sheet = here.mara().read("/api/orders/" + id("RB30"));
    assertThat(sheet.path("consignments")).hasSize(1);
    assertThat(sheet.path("consignments").get(0).path("units").asLong()).isEqualTo(3);
    long paid =
        here.mara()
            .read("/api/orders/" + id("RB30") + "/decisions")
            .valueStream()
            .filter(d -> !d.path("chosen").isEmpty())
            .findFirst()
            .orElseThrow()
            .path("splitPenalty")
            .asLong();
    assertThat(paid).as("what is missing is no cost of what is sent").isZero();
    here.world()
        .shop()
        .place(Sample.order("RB31", "SMOKER-S", 5, Sample.HOME, "paid", "Express delivery"));
    here.awaitMark("RB31", "waiting for stock");
    assertThat(here.mara().read("/api/orders/" + id("RB31")).path("consignments")).isEmpty();

    receive("SMOKER-S", 2);
    JsonNode released = here.awaitStage("RB30", "RELEASED");
    assertThat(released.path("branches")).hasSize(2);
    assertThat(released.path("marks").toString()).doesNotContain("waiting for stock");
    receive("SMOKER-S", 5);
    here.awaitStage("RB31", "RELEASED");
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  private static void receive(String sku, long units) {
    var level =
        here.world()
            .db()
            .select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(here.itemId(sku)))
            .limit(1)
            .fetchSingle();
    here.mara()
        .post(
            "/api/stock/items/" + level.value1() + "/adjustments",
            Map.of("nodeId", level.value2(), "reason", "RECEIPT", "change", units, "note", ""));
  }

  @Test
  void rulesSeeGroupsTagsSuppliersAndStockAndGiveOrdersToPeopleAndLists() {
    long brush = here.itemId("BRUSH");
    put("/api/stock/items/" + brush + "/tags", List.of("Spring", "soft"));
    put(
        "/api/customers",
        Map.of("email", "buyer-RB50@buyer.example", "group", "apiaries", "asOrdered", false));
    here.world()
        .db()
        .execute("insert into supplier (code, name, currency) values ('BB', 'Bb', 'EUR')");
    here.world()
        .db()
        .execute(
            "insert into supplier_offer (supplier_id, code, title, price, available, item_id, changed_at)"
                + " select id, 'b', 'b', 1, 1, "
                + brush
                + ", now() from supplier where code = 'BB'");
    String all =
        "{'is':'all','parts':[%s]}"
            .formatted(
                String.join(
                    ",",
                    test("CUSTOMER_GROUP", "IS", "apiaries"),
                    test("ITEM_TAG", "IS", "spring"),
                    test("SUPPLIER", "IS", "BB"),
                    test("STOCKED_AT", "IS", "STW"),
                    test("AVAILABLE", "OVER", "1"),
                    "{'is':'expression','text':'available > 1 && customerGroup.size() > 3'}"));
    makeLive(
        change(
            put(
                rule(
                    "whose",
                    "PAID",
                    all,
                    "{'do':'assign','to':'mara'},{'do':'putOnList','name':'apiaries'}"))),
        "apiaries are Mara's");
    arrives("RB50", "NL");
    JsonNode sheet = here.mara().read("/api/orders/" + id("RB50"));
    assertThat(sheet.path("assignedTo").asString()).isEqualTo("mara");
    assertThat(sheet.path("list").asString()).isEqualTo("apiaries");
    JsonNode found =
        here.mara().read("/api/orders?pile=ALL&assigned=mara&list=apiaries").path("rows");
    assertThat(found).hasSize(1);
    arrives("RB51", "NL");
    assertThat(here.mara().read("/api/orders/" + id("RB51")).path("list").isNull()).isTrue();

    post("/api/orders/assign", json("{'orders':[%d],'to':null}".formatted(id("RB50"))));
    post(
        "/api/orders/put-on-list",
        json("{'orders':[%d,%d],'list':'calls'}".formatted(id("RB50"), id("RB51"))));
    assertThat(here.mara().read("/api/orders?pile=ALL&list=calls").path("rows")).hasSize(2);
    assertThat(timeline("RB50")).contains("On the list “calls”", "Nobody’s in particular");
    assertThat(
            post("/api/orders/assign", json("{'orders':[1],'to':'nobody-so'}"))
                .body()
                .path("detail")
                .asString())
        .contains("nobody logs in as");
  }

  private static void put(String path, Object body) {
    assertThat(here.mara().change("PUT", path, body).status()).isEqualTo(204);
  }

  @Test
  void anOrderThatStaysIsLookedAtOnceAndSomebodyIsTold() {
    String rule =
        rule(
                "stays",
                "STAYS",
                DE,
                "{'do':'notify','to':'desk@brackenholt.example'}," + note("slow"))
            .replace("'stay':null", "'stay':{'stage':'RELEASED','hours':2}");
    makeLive(change(put(rule)), "what stands");
    arrives("RB9", "DE");
    assertThat(timeline("RB9")).doesNotContain("slow");
    here.world()
        .db()
        .update(SALES_ORDER)
        .set(SALES_ORDER.STAGE_SINCE, Instant.now().minus(Duration.ofHours(3)))
        .where(SALES_ORDER.EXTERNAL_ID.eq("RB9"))
        .execute();
    await("it was looked at").until(() -> timeline("RB9").contains("slow"));
    await("somebody was told").until(() -> timeline("RB9").contains("desk@brackenholt.example"));
    assertThat(
            here.mara()
                .read("/api/orders/" + id("RB9") + "/rules")
                .valueStream()
                .filter(l -> is(l, "event", "STAYS")))
        .hasSize(1);
  }

  @Test
  void aRuleHoldsAnOrderUntilAnotherReleasesItAndAPersonsHoldStays() {
    String austria = test("COUNTRY", "IS", "AT");
    String unpaid =
        "{'is':'all','parts':[%s,%s]}".formatted(austria, test("PAYMENT", "IS", "UNPAID"));
    JsonNode shown =
        change(
            put(rule("hold", "RECEIVED", unpaid, "{'do':'hold','reason':'wait for the bank'}")),
            put(rule("free", "PAID", austria, "{'do':'releaseHold'}")));
    makeLive(shown, "Austria");
    for (String id : List.of("RB10", "RB11")) {
      here.world().shop().place(order(id, "AT", "unpaid"));
      here.awaitMark(id, "wait for the bank");
    }
    here.mara().post("/api/orders/" + id("RB11") + "/hold", Map.of("reason", "call her"));
    List.of("RB10", "RB11").forEach(here.world().shop()::pay);
    here.awaitStage("RB10", "RELEASED");
    await("the bank is waited for no more")
        .until(() -> timeline("RB11").contains("holds of rules"));
    here.awaitMark("RB11", "call her");
    assertThat(here.order("RB11").path("stage").asString()).isEqualTo("RECEIVED");
  }

  @Test
  void aReturnThatIsOpenedIsLookedAt() {
    JsonNode shown =
        change(
            put(
                rule(
                    "back",
                    "RETURN_OPENED",
                    test("COUNTRY", "IS", "DE"),
                    "{'do':'addTag','tag':'sent-back'}")));
    makeLive(shown, "returns from abroad");
    arrives("RB60", "DE");
    long order = id("RB60");
    Packer.packAndHandOver(here.world(), order);
    assertThat(timeline("RB60")).doesNotContain("sent-back");
    long line =
        here.mara()
            .read("/api/orders/" + order + "/returnable")
            .path("lines")
            .get(0)
            .path("id")
            .asLong();
    Object wish = Map.of("reason", "FAULTY", "note", "", "units", Map.of(line, 1));
    assertThat(post("/api/orders/" + order + "/returns", wish).status()).isEqualTo(201);
    assertThat(timeline("RB60")).contains("sent-back");
  }

  private static JsonNode arrives(String externalId, String country) {
    here.world().shop().place(order(externalId, country));
    return here.awaitStage(externalId, "RELEASED");
  }

  private static ShopOrder order(String externalId, String country) {
    return order(externalId, country, "paid");
  }

  private static ShopOrder order(String externalId, String country, String payment) {
    Map<String, String> postcodes =
        Map.of("DE", "10115", "BE", "2000", "FR", "75001", "AT", "1010", "NL", "1012 AB");
    return Sample.order(
        externalId,
        "BRUSH",
        1,
        new ShopOrder.ShipTo(
            "Ada Berg", "Weg 1", postcodes.getOrDefault(country, ""), "Town", country),
        payment,
        "Home delivery");
  }

  private static long id(String externalId) {
    return here.order(externalId).path("id").asLong();
  }

  private static String timeline(String externalId) {
    return here.mara().read("/api/orders/" + id(externalId)).path("timeline").toString();
  }

  private static int live() {
    return here.mara().read("/api/rulebook").path("live").path("number").asInt();
  }

  private static void makeLive(JsonNode shown, String note) {
    assertThat(
            post(
                    "/api/rulebook/draft/live",
                    Map.of("changes", shown.path("draft").path("changes").asInt(), "note", note))
                .status())
        .isEqualTo(200);
  }

  private static List<String> hows(JsonNode shown) {
    return shown
        .path("draft")
        .path("differs")
        .path("rules")
        .valueStream()
        .map(d -> d.path("how").asString())
        .toList();
  }

  private static List<String> names(JsonNode array) {
    return array.valueStream().map(JsonNode::asString).toList();
  }

  private static boolean is(JsonNode node, String field, String value) {
    return node.path(field).asString().equals(value);
  }

  private static JsonNode change(String... changes) {
    Answer answer = tryChange(changes);
    assertThat(answer.status()).as("%s", answer.body()).isEqualTo(200);
    return answer.body();
  }

  private static String problem(String change) {
    Answer answer = tryChange(change);
    assertThat(answer.status()).isEqualTo(422);
    return answer.body().path("detail").asString();
  }

  private static Answer tryChange(String... changes) {
    return post("/api/rulebook/draft/changes", json(Stream.of(changes).toList().toString()));
  }

  private static Answer post(String path, Object body) {
    return here.mara().post(path, body);
  }

  private static JsonNode json(String quoted) {
    return JSON.readTree(quoted.replace('\'', '"'));
  }

  private static String put(String rule) {
    return put(rule, null);
  }

  private static String put(String rule, @Nullable String was) {
    return "{'change':'putRule','rule':%s,'was':%s,'group':'Every order','before':null}"
        .formatted(rule, was);
  }

  private static String rule(String id, String event, String condition, String actions) {
    return ("{'id':'%s','name':'%s','on':true,'event':'%s','stay':null,'condition':%s,'actions':[%s],"
            + "'endsGroup':false}")
        .formatted(id, id, event, condition, actions);
  }

  private static String test(String field, String operator, String value) {
    return "{'is':'test','field':'%s','operator':'%s','values':['%s'],'negated':false}"
        .formatted(field, operator, value);
  }

  private static String note(String text) {
    return "{'do':'addNote','text':'%s'}".formatted(text);
  }
}
