package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import tools.jackson.databind.JsonNode;

/** Lists of orders, finding, and doing one thing to many. */
class WorklistTest {
  private static final int ORDERS = 57;
  private static TestWorld world;
  private static Visitor mara;

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.fresh();
    mara = world.visitor("mara");
    String[] skus = {"SMOKER-L", "TOOL-J", "NOBODY-KNOWS", "BRUSH"};
    for (int i = 0; i < ORDERS - 1; i++) {
      String country = i % 5 == 0 ? "BE" : "NL";
      ShopOrder.ShipTo to =
          new ShopOrder.ShipTo(
              "Buyer " + i, "Lindepad " + i, i % 5 == 0 ? "2000" : "1012 AB", "Stad", country);
      String payment = i % 7 == 0 ? "unpaid" : "paid";
      world.shop().place(Sample.order("L" + i, skus[i % 4], 1 + i % 3, to, payment, ""));
    }
    ShopOrder.ShipTo sly = new ShopOrder.ShipTo("=1+1", "Lindepad 1", "1012 AB", "Stad", "NL");
    world.shop().place(Sample.order("L" + (ORDERS - 1), "TOOL-J", 1, sly, "paid", ""));
    await("all are in and rest")
        .until(() ->
            world.db().fetchCount(SALES_ORDER) == ORDERS
                && world.db().fetchCount(SALES_ORDER, SALES_ORDER.NEXT_STEP.isNotNull()) == 0);
  }

  @AfterAll
  static void stop() {
    world.close();
  }

  @ParameterizedTest
  @EnumSource
  void pagesShowEveryOrderOnceInTheOrderAskedFor(Worklist.Sort sort) {
    List<JsonNode> all = new ArrayList<>();
    String after = "";
    do {
      JsonNode page = mara.read("/api/orders?pile=ALL&limit=10&sort=" + sort + "&after=" + after);
      page.path("rows").forEach(all::add);
      after = page.path("next").asString("");
    } while (!after.isEmpty());

    assertThat(all).extracting(r -> r.path("id").asLong()).hasSize(ORDERS).doesNotHaveDuplicates();
    assertThat(all).isSortedAccordingTo(comparator(sort));
  }

  @Test
  void filtersNarrowTogetherAndTheCountAgreesWithTheList() {
    String filter = "pile=OPEN&country=BE&stage=RELEASED";
    List<JsonNode> rows = rows(filter);
    assertThat(rows)
        .isNotEmpty()
        .allSatisfy(r -> {
          assertThat(r.path("country").asString()).isEqualTo("BE");
          assertThat(r.path("stage").asString()).isEqualTo("RELEASED");
        });
    assertThat(mara.read("/api/orders/count?" + filter).path("orders").asInt())
        .isEqualTo(rows.size());
    JsonNode piles = mara.read("/api/orders/piles");
    for (String pile : List.of("OPEN", "STUCK", "UNPAID", "WAITING", "DONE", "ALL")) {
      assertThat(rows("pile=" + pile)).as(pile).hasSize(piles.path(pile).asInt());
    }
  }

  @Test
  void eachStopOnTodayOpensWhatItCounts() {
    for (JsonNode stop : mara.read("/api/today").path("stops")) {
      String since = stop.path("since").asString("");
      String filter =
          (since.isEmpty() ? "pile=OPEN" : "pile=DONE&since=" + since)
              + "&stage="
              + stop.path("stage").asString();
      assertThat(rows(filter)).as(filter).hasSize(stop.path("orders").asInt());
    }
    assertThat(mara.read("/api/today/counts").path("orders").asInt())
        .isEqualTo(rows("pile=STUCK").size());
    assertThat(rows("pile=ALL&stage=RELEASED&since=" + LocalDate.now().plusDays(2))).isEmpty();
  }

  @Test
  void aSnagOpensTheOrdersThatWaitForIt() {
    JsonNode snag =
        mara.read("/api/today")
            .path("snags")
            .valueStream()
            .filter(s -> s.path("title").asString().equals("Listing of NOBODY-KNOWS"))
            .findFirst()
            .orElseThrow();
    assertThat(rows("pile=ALL&snag=" + snag.path("id").asLong()))
        .hasSize(snag.path("orders").asInt())
        .hasSize(ORDERS / 4);
  }

  @Test
  void badFiltersNameTheField() {
    Visitor.Answer value = mara.get("/api/orders?minValue=-1");
    assertThat(value.status()).isEqualTo(422);
    assertThat(value.body().path("field").asString()).isEqualTo("minValue");
    assertThat(mara.get("/api/orders?sort=LEAVING&after=rubbish").body().path("field").asString())
        .isEqualTo("after");
    assertThat(mara.get("/api/orders?sort=PRETTIEST").status()).isEqualTo(400);
  }

  @Test
  void theCsvHasEveryRowAndNoFormulas() {
    String csv = mara.raw("/api/orders/csv?pile=ALL").body();
    assertThat(csv.lines()).hasSize(ORDERS + 1);
    assertThat(csv.lines().findFirst().orElseThrow()).startsWith("order,channel order,channel");
    assertThat(csv).contains("'=1+1").doesNotContain(",=1+1");
  }

  @Test
  void oneFieldFindsByNumberBuyerAndSku() {
    JsonNode row = rows("pile=ALL").getFirst();
    assertThat(found(row.path("number").asString())).contains(row.path("number").asString());
    assertThat(found("Buyer%2011")).contains("Buyer 11");
    assertThat(found("SMOKER")).contains("SMOKER-L");
    assertThat(found("x")).as("one letter is too short").isEqualTo("[]");
  }

  @Test
  void oneThingIsDoneToManyAndEachRefusalIsExplained() {
    List<JsonNode> some = rows("pile=ALL&country=BE");
    long free = some.stream().filter(WorklistTest::isHere).count();
    assertThat(free).isPositive();
    long nowhere = 999_999_999;
    List<Long> ids =
        Stream.concat(some.stream().map(r -> r.path("id").asLong()), Stream.of(nowhere)).toList();

    JsonNode result =
        mara.post(
                "/api/orders/bulk", Map.of("action", "HOLD", "orders", ids, "reason", "stocktake"))
            .body();
    assertThat(result.path("done").asLong()).isEqualTo(free);
    assertThat(result.path("refused").size()).isEqualTo(ids.size() - (int) free);
    assertThat(result.path("refused").get(0).path("why").asString()).contains("is not there");
    assertThat(rows("pile=STUCK&country=BE").toString()).contains("stocktake");
    mara.post("/api/orders/bulk", Map.of("action", "RELEASE_HOLD", "orders", ids));
  }

  private static boolean isHere(JsonNode row) {
    return List.of("RECEIVED", "APPROVED", "ROUTED", "RELEASED", "PACKED")
        .contains(row.path("stage").asString());
  }

  private static List<JsonNode> rows(String filter) {
    return mara.read("/api/orders?limit=500&" + filter).path("rows").valueStream().toList();
  }

  private static String found(String text) {
    return mara.read("/api/find?q=" + text).toString();
  }

  private static Comparator<JsonNode> comparator(Worklist.Sort sort) {
    Comparator<JsonNode> byId = Comparator.comparingLong(r -> r.path("id").asLong());
    return switch (sort) {
      case NEWEST -> byId.reversed();
      case OLDEST -> byId;
      case LEAVING ->
          Comparator.comparing((JsonNode r) -> r.path("shipBy").asString("9999-12-31"))
              .thenComparing(byId);
      case DEAREST ->
          Comparator.comparingLong((JsonNode r) -> r.path("total").asLong())
              .thenComparing(byId)
              .reversed();
    };
  }
}
