package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Goods on their way: what may be promised of them, and who gets them when they come. */
class ExpectedTest {
  private static final String SKU = "HB-DEEP-CED";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void whatIsExpectedIsPromisedFromItsDayOnAndServesWhoWaitsWhenItComes() {
    long free = ahead().path("promisable").get(0).asLong();
    here.world().shop().place(Sample.order("X1", SKU, free + 5));
    here.awaitMark("X1", "waiting");
    assertThat(note(40, 10, 50, 2)).isEqualTo(201);
    JsonNode ahead = ahead();
    assertThat(ahead.path("expected").get(0).path("quantity").asLong()).isEqualTo(40);
    assertThat(ahead.path("promisable").get(11).asLong()).as("assumed two days late").isZero();
    assertThat(ahead.path("promisable").get(12).asLong())
        .as("half is counted on, and who waits comes first")
        .isEqualTo(free + 20 - (free + 5));

    JsonNode rule = preview("ATP", 12);
    assertThat(rule.path("after").asLong()).isEqualTo(15);
    assertThat(preview("ATP", 11).path("after").asLong()).isZero();

    long supply = ahead.path("expected").get(0).path("id").asLong();
    String path = "/api/stock/expected/" + supply;
    LocalDate later = today().plusDays(20);
    JsonNode waits = here.mara().read(path + "/dependents?due=" + later).get(0);
    assertThat(waits.path("units").asLong()).isEqualTo(free + 5);
    assertThat(waits.path("before").asString()).isEqualTo(today().plusDays(12).toString());
    assertThat(waits.path("after").asString()).isEqualTo(later.plusDays(2).toString());
    assertThat(here.mara().read(path + "/dependents").get(0).path("after").isNull())
        .as("if it never came")
        .isTrue();
    String yesterday = today().minusDays(1).toString();
    assertThat(here.mara().post(path + "/slip", Map.of("due", yesterday)).status())
        .as("nothing comes on a day that is past")
        .isEqualTo(422);
    here.mara().post(path + "/slip", Map.of("due", later.toString()));
    assertThat(ahead().path("promisable").get(12).asLong()).isZero();
    assertThat(here.mara().post(path + "/receive", Map.of("quantity", 0)).status()).isEqualTo(422);
    assertThat(here.mara().post(path + "/receive", Map.of("quantity", 30)).status()).isEqualTo(204);
    here.awaitStage("X1", "RELEASED");
    assertThat(ahead().path("expected").get(0).path("quantity").asLong()).isEqualTo(10);
    assertThat(here.mara().post(path + "/receive", Map.of("quantity", 12)).status())
        .as("more than was expected may come")
        .isEqualTo(204);
    assertThat(ahead().path("expected")).isEmpty();
    assertThat(here.mara().post(path + "/drop", "").status()).isEqualTo(409);
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatIsOverdueIsNotPromisedAndWaitsForAPerson() {
    long before = promisable(60);
    assertThat(note(30, -3, 100, 0)).isEqualTo(201);
    assertThat(promisable(60)).as("nobody knows when it comes").isEqualTo(before);
    here.world().bean(OverdueSupplies.class).look();
    assertThat(here.mara().read("/api/today").path("snags").toString())
        .contains("SUPPLY_OVERDUE")
        .contains("30 × " + SKU);
    long supply = ahead().path("expected").get(0).path("id").asLong();
    here.mara()
        .post(
            "/api/stock/expected/" + supply + "/slip",
            Map.of("due", today().plusDays(5).toString()));
    assertThat(promisable(60)).isEqualTo(before + 30);
    assertThat(here.mara().read("/api/today").path("snags").toString())
        .doesNotContain("SUPPLY_OVERDUE");
    here.mara().post("/api/stock/expected/" + supply + "/drop", "");
  }

  @Test
  void whatIsNotSoundIsRefused() {
    assertThat(note(0, 10, 50, 2)).isEqualTo(422);
    assertThat(note(1, 10, 101, 2)).isEqualTo(422);
    assertThat(note(1, 10, 50, -1)).isEqualTo(422);
  }

  private static long promisable(int day) {
    return ahead().path("promisable").get(day).asLong();
  }

  /** The merchant's, which is not always this machine's. */
  private static LocalDate today() {
    return LocalDate.parse(ahead().path("today").asString());
  }

  private static JsonNode ahead() {
    return here.mara().read("/api/stock/items/" + item() + "/expected");
  }

  private static int note(long units, int days, int confidence, int slipDays) {
    Map<String, Object> wish = new HashMap<>();
    wish.put("nodeId", id("STW"));
    wish.put("supplier", "Oakum Joinery");
    wish.put("number", "OJ-7");
    wish.put("quantity", units);
    wish.put("due", today().plusDays(days).toString());
    wish.put("confidence", confidence);
    wish.put("slipDays", slipDays);
    return here.mara().post("/api/stock/items/" + item() + "/expected", wish).status();
  }

  /** What the web shop's listing of the item would offer by a rule. */
  private static JsonNode preview(String basis, int days) {
    Map<String, Object> rule = new HashMap<>();
    rule.put("basis", basis);
    rule.put("withinDays", days);
    rule.put("buffer", 0);
    rule.put("sharePercent", 100);
    rule.put("cap", null);
    rule.put("soldOut", "STOP");
    rule.put("oversellTo", 0);
    rule.put("offered", true);
    Map<String, Object> which = new HashMap<>();
    which.put("listings", null);
    which.put("search", SKU);
    String path =
        "/api/channels/"
            + here.world()
                .db()
                .select(CHANNEL.ID)
                .from(CHANNEL)
                .where(CHANNEL.CODE.eq("WEB"))
                .fetchSingle()
                .value1()
            + "/feed/rules";
    await("its listing is known")
        .until(() -> effects(path, which, rule).valueStream().findAny().isPresent());
    return effects(path, which, rule).get(0);
  }

  private static JsonNode effects(
      String path, Map<String, Object> which, Map<String, Object> rule) {
    return here.mara()
        .post(path, Map.of("which", which, "rule", rule, "preview", true))
        .body()
        .path("effects");
  }

  private static long item() {
    return here.world()
        .db()
        .select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(SKU))
        .fetchSingle()
        .value1();
  }

  private static long id(String node) {
    return here.world()
        .db()
        .select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq(node))
        .fetchSingle()
        .value1();
  }
}
