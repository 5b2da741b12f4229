package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.MACHINE_TOKEN;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static java.util.Map.entry;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.platform.WebhookSignature;
import dev.ordinator.testing.Caller;
import dev.ordinator.testing.Ear;
import dev.ordinator.testing.MachineConnection;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Visitor.Answer;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Systems that call us: what they may, that nothing is done twice, and what they are told. */
class MachineTest {
  private static final List<String> ALL = List.of("ORDERS_WRITE", "ORDERS_READ", "AVAILABILITY");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static long till;
  private static Caller caller;

  @BeforeAll
  static void connect() {
    till = connect("TILL", "T-");
    caller = new Caller(here.world().address(), token(till, ALL));
  }

  @Test
  void theDocumentsExamplesWorkWhenPasted() {
    JsonNode paths = here.mara().read("/api/openapi.json").path("paths");
    String example = example(paths.path("/api/machine/orders").path("post"));
    Answer created = caller.post("/api/machine/orders", "example", example);
    assertThat(created.status()).as("%s", created.body()).isEqualTo(201);
    assertThat(created.body().path("number").asString()).startsWith("T-");

    String changed = example(paths.path("/api/machine/orders/{id}").path("put"));
    Answer amended = caller.change("PUT", "/api/machine/orders/M-1001", changed);
    assertThat(amended.body().path("lines").get(0).path("cancelled").asLong()).isEqualTo(1);
    assertThat(amended.body().path("revision").asLong()).isEqualTo(2);
    assertThat(caller.change("PUT", "/api/machine/orders/M-1001", example).status())
        .as("an older revision")
        .isEqualTo(409);

    Answer cancelled = caller.change("POST", "/api/machine/orders/M-1001/cancel", "");
    assertThat(cancelled.body().path("stage").asString()).isEqualTo("CANCELLED");
    assertThat(caller.get("/api/machine/orders/M-1001").body()).isEqualTo(cancelled.body());
    assertThat(caller.change("POST", "/api/machine/orders/M-1001/cancel", "").status())
        .as("again changes nothing")
        .isEqualTo(200);
  }

  @Test
  void whatIsSentAgainIsDoneOnce() throws Exception {
    String order = order("ONCE", "BRUSH", 1);
    List<Callable<Answer>> calls =
        IntStream.range(0, 16)
            .<Callable<Answer>>mapToObj(i -> () -> caller.post("/api/machine/orders", "k1", order))
            .toList();
    try (var pool = Executors.newFixedThreadPool(16)) {
      for (Future<Answer> answer : pool.invokeAll(calls)) {
        assertThat(answer.get().status()).isIn(201, 409);
      }
    }
    Answer again = caller.post("/api/machine/orders", "k1", order);
    assertThat(again.status()).as("the answer that it got").isEqualTo(201);
    assertThat(caller.post("/api/machine/orders", "k2", order).status())
        .as("under another key, but the same order")
        .isEqualTo(200);
    assertThat(caller.post("/api/machine/orders", "k1", order("OTHER", "BRUSH", 1)).status())
        .as("a key for another request")
        .isEqualTo(422);
    assertThat(here.world().db().fetchCount(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("ONCE")))
        .isEqualTo(1);
    assertThat(caller.get("/api/machine/orders/OTHER").status()).isEqualTo(404);
  }

  @Test
  void whatIsWrongIsRefusedWithItsPlaceAndCanBeMendedUnderTheSameKey() {
    Map<String, String> wrong =
        Map.of(
            order("W", "BRUSH", 1).replace("\"quantity\":1", "\"quantity\":-3"),
            "lines[0].quantity",
            order("W", "BRUSH", 1).replace("\"price\":500", "\"price\":\"5.00\""),
            "lines[0].price",
            order("W", "BRUSH", 1).replace("PAID", "PERHAPS"),
            "payment.state",
            order("W", "BRUSH", 1).replace("1012 AB", ""),
            "shipTo.postcode",
            order("W", "BRUSH", 1).replace("2026-11-25T09:00:00Z", "yesterday"),
            "placedAt");
    wrong.forEach((message, place) -> {
      Answer refused = caller.post("/api/machine/orders", "mend-" + place, message);
      assertThat(refused.status()).as(place).isEqualTo(422);
      assertThat(refused.body().path("field").asString()).isEqualTo(place);
    });
    assertThat(caller.post("/api/machine/orders", "mend-placedAt", order("W", "BRUSH", 1)).status())
        .isEqualTo(201);
    assertThat(caller.change("POST", "/api/machine/orders", order("W", "BRUSH", 1)).status())
        .as("without a key")
        .isEqualTo(400);
  }

  @Test
  void aSecondOrderOfTheSameIdThatSaysOtherwiseIsRefusedWithTheDifference() {
    assertThat(caller.post("/api/machine/orders", "d1", order("TWICE", "BRUSH", 1)).status())
        .isEqualTo(201);
    Answer other = caller.post("/api/machine/orders", "d2", order("TWICE", "BRUSH", 3));
    assertThat(other.status()).isEqualTo(409);
    assertThat(other.body().path("detail").asString()).contains("1 × ").contains("→ 3 × ");
    Answer newer =
        caller.post(
            "/api/machine/orders",
            "d3",
            order("TWICE", "BRUSH", 3).replaceFirst("\\{", "{\"revision\":7,"));
    assertThat(newer.status()).as("a change is not made by a POST").isEqualTo(409);
    Answer stays = caller.get("/api/machine/orders/TWICE");
    assertThat(stays.body().path("lines").get(0).path("quantity").asLong()).isEqualTo(1);
    assertThat(stays.body().path("revision").asLong()).isEqualTo(1);
  }

  @ParameterizedTest
  @ValueSource(strings = {"2026/17", "a//b", "5%", "a;b", "für\u00e9 1"})
  void anOrderIsFoundUnderWhateverIdItHas(String id) {
    assertThat(
            caller
                .post(
                    "/api/machine/orders",
                    "id-" + id.length() + id.hashCode(),
                    order(id, "BRUSH", 1))
                .status())
        .isEqualTo(201);
    String path =
        "/api/machine/orders/" + URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20");
    assertThat(caller.get(path).body().path("id").asString()).isEqualTo(id);
    assertThat(caller.change("POST", path + "/cancel", "").body().path("stage").asString())
        .isEqualTo("CANCELLED");
  }

  @Test
  void whatDoesNotBelongIntoAnOrderIsRefusedWithItsPlace() {
    String good = order("STRICT", "BRUSH", 1);
    Map<String, String> wrong =
        Map.ofEntries(
            entry("discuont", good.replaceFirst("\\{", "{\"discuont\":100,")),
            entry("lines[0].quanttiy", good.replace("\"price\"", "\"quanttiy\":2,\"price\"")),
            entry("lines[0].quantity", good.replace("\"quantity\":1", "\"quantity\":1.5")),
            entry("lines[0].price", good.replace("\"price\":500", "\"price\":1e999999999")),
            entry(
                "buyer.name", good.replace("\"name\":\"Marit\",\"email\"", "\"name\":7,\"email\"")),
            entry("shipTo.street", good.replace("Lindepad 12", "Lindepad\\u000012")),
            entry("placedAt", good.replace("2026-11-25T", "+20261-11-25T")),
            entry("lines[0]", good.replace("\"lines\":[", "\"lines\":[7,")));
    wrong.forEach((place, message) -> {
      Answer refused = caller.post("/api/machine/orders", "strict-" + place, message);
      assertThat(refused.status()).as("%s: %s", place, refused.body()).isEqualTo(422);
      assertThat(refused.body().path("field").asString()).isEqualTo(place);
    });
    assertThat(
            caller
                .post(
                    "/api/machine/orders",
                    "doubled",
                    good.replaceFirst("\\{", "{\"id\":\"OTHER\","))
                .status())
        .as("a name twice")
        .isEqualTo(422);
    assertThat(caller.get("/api/machine/orders/STRICT").status()).isEqualTo(404);
  }

  @Test
  void aTokenOpensWhatItsScopesSayForItsOwnConnectionOnly() {
    Caller reader = new Caller(here.world().address(), token(till, List.of("ORDERS_READ")));
    caller.post("/api/machine/orders", "s1", order("MINE", "BRUSH", 1));
    assertThat(reader.get("/api/machine/orders/MINE").status()).isEqualTo(200);
    assertThat(reader.post("/api/machine/orders", "s2", order("X", "BRUSH", 1)).status())
        .isEqualTo(403);
    assertThat(reader.get("/api/availability?sku=BRUSH").status()).isEqualTo(403);

    Caller other = new Caller(here.world().address(), token(connect("KIOSK", "K-"), ALL));
    assertThat(other.get("/api/machine/orders/MINE").status()).isEqualTo(404);
    assertThat(reader.get("/api/orders").status()).as("nothing that is for people").isEqualTo(401);

    JsonNode first = here.mara().read("/api/channels/" + till + "/tokens").get(0);
    assertThat(first.path("lastUsedAt").isNull()).isFalse();
    here.mara()
        .post("/api/channels/" + till + "/tokens/" + first.path("id").asLong() + "/revoke", "");
    assertThat(reader.get("/api/machine/orders/MINE").status()).as("revoked").isEqualTo(401);
    assertThat(here.world().db().fetch(MACHINE_TOKEN).format(Integer.MAX_VALUE))
        .as("tokens are not kept")
        .doesNotContain("ord_");
  }

  @Test
  void whatHappensIsToldSignedAndAgainUntilItIsTaken() throws Exception {
    try (Ear ear = new Ear()) {
      long channel = connect("BOOTH", "B-");
      Caller booth = new Caller(here.world().address(), token(channel, ALL));
      String secret = hook(channel, ear, Set.of("ORDER_SHIPPED", "ORDER_DELIVERED"));
      sendAndPack(booth, "SILENT");
      here.awaitStage("SILENT", "DELIVERED");
      assertThat(here.mara().read("/api/channels/" + channel + "/hooks/deliveries").path("rows"))
          .as("it only listens")
          .isEmpty();

      speak(channel, "writesBack");
      ear.fail(2, 500);
      sendAndPack(booth, "TOLD");
      await("both are taken").until(() -> done(channel) == 2);
      assertThat(ear.heard()).hasSize(4);
      Ear.Heard first = ear.heard().getFirst();
      assertThat(first.body()).contains("\"type\":\"order.shipped\"").contains("\"id\":\"TOLD\"");
      byte[] key = Base64.getDecoder().decode(secret.substring("whsec_".length()));
      assertThat(first.signature())
          .isEqualTo(
              WebhookSignature.sign(
                  key,
                  first.id(),
                  first.timestamp(),
                  first.body().getBytes(StandardCharsets.UTF_8)));

      JsonNode log = here.mara().read("/api/channels/" + channel + "/hooks/deliveries");
      JsonNode newest = log.path("rows").get(0);
      String again =
          "/api/channels/" + channel + "/hooks/deliveries/" + newest.path("id").asLong() + "/again";
      assertThat(here.mara().post(again, "").status()).isEqualTo(204);
      await("it is told again").until(() -> ear.heard().size() == 5);
      assertThat(ear.heard().getLast().id()).isEqualTo(newest.path("messageId").asString());
      assertThat(here.mara().read("/api/channels/" + channel + "/hooks").toString())
          .as("secrets are not shown again")
          .doesNotContain("whsec_");

      ear.fail(1, 410);
      await("the last one is taken").until(() -> done(channel) == 2);
      here.mara().post(again, "");
      await("whoever is gone is not told any more")
          .until(() ->
              !here.mara()
                  .read("/api/channels/" + channel + "/hooks")
                  .get(0)
                  .path("active")
                  .asBoolean());
      assertThat(here.mara().read("/api/today").toString()).contains("HOOK_FAILS");
    }
  }

  @Test
  void whoComesToUsHearsWhatToPayBackAndSaysThatItDid() throws Exception {
    try (Ear ear = new Ear()) {
      long channel = connect("DESK", "D-");
      Caller desk = new Caller(here.world().address(), token(channel, ALL));
      hook(channel, ear, Set.of("ORDER_REFUNDED"));
      speak(channel, "writesBack");
      desk.post("/api/machine/orders", "r1", order("BACK", "BRUSH", 2));
      long id = here.awaitStage("BACK", "RELEASED").path("id").asLong();
      String refunds = "/api/orders/" + id + "/refunds";
      long line = here.mara().read(refunds).path("lines").get(0).path("id").asLong();
      Map<String, Object> asked = Map.of("units", Map.of(line, 1), "shipping", 0, "fee", 0);
      here.mara().post(refunds, Map.of("no", 1, "asked", asked, "reason", "broken"));
      await("it hears of it").until(() -> ear.heard().size() == 1);
      assertThat(ear.heard().getFirst().body())
          .contains("\"type\":\"order.refunded\"")
          .contains("\"amount\":500")
          .contains("\"state\":\"ASKED\"");
      desk.change(
          "PUT",
          "/api/machine/orders/BACK",
          order("BACK", "BRUSH", 2)
              .replace("\"state\":\"PAID\"", "\"state\":\"PART_REFUNDED\",\"refunded\":500")
              .replace("{\"id\":\"BACK\"", "{\"id\":\"BACK\",\"revision\":2"));
      assertThat(desk.get("/api/machine/orders/BACK").body().path("refunds").get(0))
          .hasToString(
              "{\"number\":1,\"amount\":500,\"currency\":\"EUR\",\"reason\":\"broken\",\"state\":\"SETTLED\"}");
    }
  }

  @Test
  void stockIsToldOnceAPersonHasLetTheFirstPushThrough() throws Exception {
    try (Ear ear = new Ear()) {
      long channel = connect("RACK", "R-");
      hook(channel, ear, Set.of("STOCK_CHANGED"));
      speak(channel, "feeds");
      String feed = "/api/channels/" + channel + "/feed";
      await("the guard holds it").until(() -> !here.mara().read(feed).path("hold").isNull());
      assertThat(here.mara().post(feed + "/let-through", "").status()).isEqualTo(204);
      await("it is told")
          .until(() -> ear.heard().stream().anyMatch(h -> h.body().contains("\"BRUSH\"")));
      assertThat(ear.heard().getFirst().body()).contains("stock.changed");
    }
  }

  private static void sendAndPack(Caller from, String id) {
    assertThat(from.post("/api/machine/orders", id, order(id, "BRUSH", 1)).status()).isEqualTo(201);
    Packer.packAndHandOver(here.world(), here.awaitStage(id, "RELEASED").path("id").asLong());
  }

  private static int done(long channel) {
    return (int)
        here.mara()
            .read("/api/channels/" + channel + "/hooks/deliveries")
            .path("rows")
            .valueStream()
            .filter(r -> r.path("state").asString().equals("DONE"))
            .count();
  }

  private static void speak(long channel, String what) {
    int version = here.mara().read("/api/channels/" + channel).path("version").asInt();
    assertThat(
            here.mara()
                .change("PATCH", "/api/channels/" + channel, Map.of(what, true, "version", version))
                .status())
        .isEqualTo(200);
  }

  private static String hook(long channel, Ear ear, Set<String> kinds) {
    return here.mara()
        .post(
            "/api/channels/" + channel + "/hooks", Map.of("address", ear.address(), "kinds", kinds))
        .body()
        .path("secret")
        .asString();
  }

  private static String token(long channel, List<String> scopes) {
    return MachineConnection.token(here.mara(), channel, scopes);
  }

  private static long connect(String code, String prefix) {
    return MachineConnection.connect(here.mara(), code, prefix, Map.of());
  }

  private static String example(JsonNode operation) {
    JsonNode value =
        operation
            .path("requestBody")
            .path("content")
            .path("application/json")
            .path("examples")
            .values()
            .iterator()
            .next()
            .path("value");
    return value.isString() ? value.asString() : value.toString();
  }

  private static String order(String id, String sku, int quantity) {
    return """
    {"id":"%s","placedAt":"2026-11-25T09:00:00Z","buyer":{"name":"Marit","email":"m@x.example"},\
    "shipTo":{"name":"Marit","street":"Lindepad 12","postcode":"1012 AB","city":"Amsterdam",\
    "country":"NL"},"service":"Standard","payment":{"state":"PAID"},\
    "lines":[{"id":"1","sku":"%s","quantity":%d,"price":500}]}\
    """
        .formatted(id, sku, quantity);
  }
}
