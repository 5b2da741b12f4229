package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What is set aside, and what is kept back. */
class EarmarksTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatIsSetAsideIsNotGivenToOthersAndTakenFirstByThoseForWhomItIs() {
    long item = stocked("SMOKER-S", 10);
    assertThat(setAside(item, 11, "CUSTOMER", "club@bees.example", null)).isEqualTo(422);
    assertThat(setAside(item, 8, "CUSTOMER", "buyer-E2@buyer.example", null)).isEqualTo(201);
    assertThat(available("SMOKER-S")).isEqualTo(2);
    here.world().shop().place(Sample.order("E1", "SMOKER-S", 3));
    here.awaitMark("E1", "waiting for stock");

    here.world().shop().place(Sample.order("E2", "SMOKER-S", 9));
    here.awaitStage("E2", "RELEASED");
    assertThat(earmark(item).path("units").asLong()).as("all eight and one more").isZero();
    assertThat(available("SMOKER-S")).isEqualTo(1);

    here.world().shop().change("E2", ShopOrder::cancelled);
    here.awaitStage("E2", "CANCELLED");
    assertThat(earmark(item).path("units").asLong()).as("it is theirs again").isEqualTo(8);
    await("who waits needs more than the others").until(() -> available("SMOKER-S") == 2);

    assertThat(release(earmark(item))).isEqualTo(204);
    here.awaitStage("E1", "RELEASED");
    assertThat(earmarks(item)).isEmpty();
  }

  @Test
  void anEarmarkEndsByItselfAfterItsLastDay() {
    long item = stocked("SMOKER-L", 5);
    assertThat(setAside(item, 5, "CHANNEL", "MARKET", LocalDate.now().minusDays(2))).isEqualTo(422);
    assertThat(setAside(item, 5, "CHANNEL", "NOSUCH", null)).isEqualTo(422);
    assertThat(setAside(item, 5, "CHANNEL", "MARKET", LocalDate.now().plusDays(2))).isEqualTo(201);
    here.world().shop().place(Sample.order("E3", "SMOKER-L", 1));
    here.awaitMark("E3", "waiting for stock");
    assertThat(here.world().bean(Earmarks.class).end()).isZero();
    here.world()
        .db()
        .update(EARMARK)
        .set(EARMARK.UNTIL, LocalDate.now().minusDays(2))
        .where(EARMARK.ITEM_ID.eq(item))
        .execute();
    assertThat(here.world().bean(Earmarks.class).end()).isEqualTo(1);
    here.awaitStage("E3", "RELEASED");
  }

  @Test
  void whatIsSetAsideForAChannelIsFedToItAlone() {
    long item = stocked("BRUSH", 20);
    setAside(item, 15, "CHANNEL", "WEB", null);
    await("the shop may sell it all").until(() -> fed("BRUSH") == 20);
    assertThat(available("BRUSH")).as("others may not").isEqualTo(5);
  }

  @Test
  void safetyStockIsNeverOffered() {
    long item = stocked("TOOL-STD", 10);
    assertThat(limits(item, 12, 5L)).as("most below safety").isEqualTo(422);
    assertThat(limits(item, 8, null)).isEqualTo(204);
    here.world().shop().place(Sample.order("E4", "TOOL-STD", 3));
    here.awaitMark("E4", "waiting for stock");
    assertThat(limits(item, 7, 40L)).isEqualTo(204);
    here.awaitStage("E4", "RELEASED");
  }

  private static int limits(long item, long safety, @Nullable Long most) {
    Map<String, Object> limits = new HashMap<>();
    limits.put("nodeId", node());
    limits.put("safety", safety);
    limits.put("most", most);
    return here.mara().change("PUT", "/api/stock/items/" + item + "/limits", limits).status();
  }

  private static int setAside(
      long item, long units, String kind, String who, @Nullable LocalDate until) {
    Map<String, Object> wish = new HashMap<>();
    wish.put("nodeId", node());
    wish.put("quantity", units);
    wish.put("kind", kind);
    wish.put("who", who);
    wish.put("until", until == null ? null : until.toString());
    wish.put("note", "");
    return here.mara().post("/api/stock/items/" + item + "/earmarks", wish).status();
  }

  private static int release(JsonNode earmark) {
    return here.mara()
        .post("/api/stock/earmarks/" + earmark.path("id").asLong() + "/release", "")
        .status();
  }

  private static JsonNode earmarks(long item) {
    return here.mara().read("/api/stock/items/" + item + "/earmarks");
  }

  private static JsonNode earmark(long item) {
    return earmarks(item).get(0);
  }

  private static long available(String sku) {
    return here.mara()
        .read("/api/stock?search=" + sku)
        .path("items")
        .path("rows")
        .get(0)
        .path("available")
        .asLong();
  }

  /** What the web shop would be told of an item. */
  private static long fed(String sku) {
    long id =
        here.mara()
            .read("/api/channels")
            .valueStream()
            .filter(c -> c.path("code").asString().equals("WEB"))
            .findFirst()
            .orElseThrow()
            .path("id")
            .asLong();
    return here.mara()
        .read("/api/channels/" + id + "/feed/lines?search=" + sku)
        .path("rows")
        .valueStream()
        .filter(l -> l.path("itemSku").asString().equals(sku))
        .mapToLong(l -> l.path("available").asLong())
        .findFirst()
        .orElse(-1);
  }

  /** All that there is of it lies at Stillwater. */
  private static long stocked(String sku, long units) {
    here.world().scrapAll(sku);
    long id =
        here.world().db().select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
    here.world()
        .bean(StockLedger.class)
        .adjust(id, node(), units, StockLedger.Reason.RECEIPT, "test", "");
    return id;
  }

  private static long node() {
    return here.world()
        .db()
        .select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq("STW"))
        .fetchSingle()
        .value1();
  }
}
