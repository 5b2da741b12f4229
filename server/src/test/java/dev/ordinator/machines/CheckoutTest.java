package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_LOAD;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.val;

import dev.ordinator.testing.Caller;
import dev.ordinator.testing.MachineConnection;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What a shop's pages are told before there is an order. */
class CheckoutTest {
  private static final ZoneId HERE = ZoneId.of("Europe/Amsterdam");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static long channel;
  private static Caller shop;

  @BeforeAll
  static void connected() {
    channel = MachineConnection.connect(here.mara(), "PAGES", "PG-", Map.of());
    shop =
        new Caller(
            here.world().address(),
            MachineConnection.token(here.mara(), channel, List.of("AVAILABILITY")));
  }

  @Test
  void availabilityIsToldAsTheTermsAllow() {
    JsonNode all = shop.get("/api/availability?sku=BRUSH&sku=NO-SUCH&sku=FIRST-YEAR").body();
    assertThat(all.get(0).path("units").asLong()).isPositive();
    assertThat(all.get(0).path("nodes").isEmpty()).isTrue();
    assertThat(all.get(1).path("known").asBoolean()).isFalse();
    assertThat(all.get(2).path("inStock").asBoolean()).as("a kit by its components").isTrue();
    assertThat(shop.get("/api/availability").status()).isEqualTo(400);
    assertThat(shop.get("/api/availability?sku=BRUSH&to=nowhere").status()).isEqualTo(422);

    long shy =
        MachineConnection.connect(
            here.mara(), "SHY", "SH-", Map.of("tellsUnits", false, "tellsNodes", true));
    Caller pages =
        new Caller(
            here.world().address(),
            MachineConnection.token(here.mara(), shy, List.of("AVAILABILITY")));
    JsonNode told = pages.get("/api/availability?sku=BRUSH&to=NL-1012AB").body().get(0);
    assertThat(told.path("inStock").asBoolean()).isTrue();
    assertThat(told.path("units").isNull()).isTrue();
    assertThat(told.path("nodes").findValuesAsString("node")).contains("STW");
    assertThat(pages.get("/api/availability?sku=BRUSH&to=JP").body().get(0).path("inStock"))
        .as("nobody sends it there")
        .hasToString("false");
  }

  @Test
  void aBasketIsPromisedByEachServiceAsItWouldBeRouted() {
    JsonNode services = promise("NL", line("BRUSH", 1, "")).body().path("services");
    assertThat(services.findValuesAsString("level")).containsExactly("STANDARD", "EXPRESS");
    for (JsonNode service : services) {
      assertThat(service.path("inStock").asBoolean()).isTrue();
      assertThat(service.path("cost").asLong()).isPositive();
      assertThat(LocalDate.parse(service.path("arrival").asString()))
          .isAfterOrEqualTo(LocalDate.parse(service.path("handOver").asString()));
    }
    assertThat(services.get(1).path("arrival").asString())
        .as("what is dearer is not later")
        .isLessThanOrEqualTo(services.get(0).path("arrival").asString());
    assertThat(promise("JP", line("BRUSH", 1, "")).body().path("services").isEmpty()).isTrue();
    assertThat(promise("NL", line("NO-SUCH", 1, "")).body().path("field").asString())
        .isEqualTo("lines[0].sku");
    assertThat(promise("NL", line("FIRST-YEAR", 1, "")).body().path("detail").asString())
        .contains("Size");
    assertThat(
            promise("NL", line("FIRST-YEAR", 1, "\"Size\":\"SUIT-CLS-L\""))
                .body()
                .path("services")
                .isEmpty())
        .isFalse();
  }

  @Test
  void whatIsNotThereIsPromisedByWhatIsExpected() {
    long item =
        here.world()
            .db()
            .select(ITEM.ID)
            .from(ITEM)
            .where(ITEM.SKU.eq("EX-9E"))
            .fetchSingle()
            .value1();
    long node =
        here.world()
            .db()
            .select(NODE.ID)
            .from(NODE)
            .where(NODE.CODE.eq("STW"))
            .fetchSingle()
            .value1();
    assertThat(promise("NL", line("EX-9E", 5_000, "")).body().path("services").isEmpty()).isTrue();
    LocalDate due = LocalDate.now(HERE).plusDays(12);
    here.mara()
        .post(
            "/api/stock/items/" + item + "/expected",
            Map.of(
                "nodeId",
                node,
                "supplier",
                "Oakum Joinery",
                "number",
                "",
                "quantity",
                6_000,
                "due",
                due.toString(),
                "confidence",
                100,
                "slipDays",
                2));
    JsonNode standard = promise("NL", line("EX-9E", 5_000, "")).body().path("services").get(0);
    assertThat(standard.path("inStock").asBoolean()).isFalse();
    assertThat(LocalDate.parse(standard.path("handOver").asString()))
        .isAfterOrEqualTo(due.plusDays(2));
  }

  @Test
  void whatNoNodeHasAPlaceForTodayIsPromisedForItsNextDays() {
    Map<Long, @Nullable Integer> usual = new HashMap<>();
    here.world()
        .db()
        .select(NODE.ID, NODE.CAPACITY_PER_DAY)
        .from(NODE)
        .forEach(r -> usual.put(r.value1(), r.value2()));
    String handOver =
        promise("NL", line("BRUSH", 1, ""))
            .body()
            .path("services")
            .get(0)
            .path("handOver")
            .asString();
    here.world().db().update(NODE_LOAD).set(NODE_LOAD.CONSIGNMENTS, 0).execute();
    here.world().db().update(NODE).set(NODE.CAPACITY_PER_DAY, 1).execute();
    here.world()
        .db()
        .insertInto(NODE_LOAD, NODE_LOAD.NODE_ID, NODE_LOAD.DAY, NODE_LOAD.CONSIGNMENTS)
        .select(select(NODE.ID, val(LocalDate.parse(handOver)), val(1)).from(NODE))
        .onDuplicateKeyUpdate()
        .set(NODE_LOAD.CONSIGNMENTS, 1)
        .execute();
    try {
      await("what is told is not older than some seconds")
          .untilAsserted(() -> {
            JsonNode services = promise("NL", line("BRUSH", 1, "")).body().path("services");
            assertThat(services.isEmpty()).isFalse();
            assertThat(services.get(0).path("handOver").asString()).isNotEqualTo(handOver);
          });
    } finally {
      here.world().db().deleteFrom(NODE_LOAD).execute();
      usual.forEach((id, consignments) ->
          here.world()
              .db()
              .update(NODE)
              .set(NODE.CAPACITY_PER_DAY, consignments)
              .where(NODE.ID.eq(id))
              .execute());
    }
  }

  private static Visitor.Answer promise(String country, String line) {
    return shop.change(
        "POST",
        "/api/promises",
        "{\"to\":{\"country\":\"%s\",\"postcode\":\"1012 AB\"},\"lines\":[%s]}"
            .formatted(country, line));
  }

  private static String line(String sku, long quantity, String chosen) {
    return "{\"sku\":\"%s\",\"quantity\":%d,\"chosen\":{%s}}".formatted(sku, quantity, chosen);
  }
}
