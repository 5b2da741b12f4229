package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Routing stops for a channel or for all, and goes on where it stopped. */
class RoutingPausesTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static final String PAUSES = "/api/routing/pauses";

  @AfterEach
  void allGoOn() {
    here.mara().read(PAUSES).forEach(RoutingPausesTest::end);
  }

  @Test
  void ordersOfAPausedChannelWaitApprovedAndAreRoutedWhenItEnds() {
    assertThat(begin("WEB", "counting the shelves")).isEqualTo(204);
    here.world().shop().place(Sample.order("RP1", "BRUSH", 1));
    here.awaitStage("RP1", "APPROVED");
    await("it was looked at").until(() -> pause().path("waiting").asLong() == 1);
    assertThat(pause().path("reason").asString()).isEqualTo("counting the shelves");
    assertThat(pause().path("by").asString()).isEqualTo("Mara");

    end(pause());
    here.awaitStage("RP1", "RELEASED");
    assertThat(here.mara().read(PAUSES)).isEmpty();
  }

  @Test
  void ofAPausedNetworkNothingIsRoutedAndOtherChannelsPausesDontMatter() {
    assertThat(begin(null, "stocktaking")).isEqualTo(204);
    assertThat(begin(null, "again")).as("once is enough").isEqualTo(409);
    here.world().shop().place(Sample.order("RP2", "BRUSH", 1));
    here.awaitStage("RP2", "APPROVED");
    await("it waits").until(() -> pause().path("waiting").asLong() == 1);
    assertThat(begin("WEB", "its own reasons")).isEqualTo(204);
    end(pause());
    assertThat(here.awaitStage("RP2", "APPROVED").path("stage").asString())
        .as("its channel is paused still")
        .isEqualTo("APPROVED");
    end(pause());
    here.awaitStage("RP2", "RELEASED");
  }

  @Test
  void nothingNewIsRoutedToAPausedNodeAndWhatOnlyItHasGoesThereWhenItEnds() {
    here.world().scrapAll("BRUSH");
    receive("BRUSH", "STW");
    receive("BRUSH", "CAN");
    assertThat(beginAt("STW", "the roof leaks")).isEqualTo(204);
    assertThat(beginAt("STW", "again")).as("once is enough").isEqualTo(409);
    assertThat(pause().path("nodeName").asString()).isNotEmpty();
    here.world().shop().place(Sample.order("RP3", "BRUSH", 1));
    here.awaitStage("RP3", "RELEASED");
    assertThat(nodes("RP3")).as("another has it").doesNotContain("STW").isNotEmpty();

    here.world().scrapAll("TOOL-J");
    receive("TOOL-J", "STW");
    here.world().shop().place(Sample.order("RP4", "TOOL-J", 1));
    here.awaitMark("RP4", "no way there");
    end(pause());
    here.awaitStage("RP4", "RELEASED");
    assertThat(nodes("RP4")).containsExactly("STW");
  }

  @Test
  void whatCantBeIsSaid() {
    assertThat(beginAt("NONE", "why not")).isEqualTo(422);
    assertThat(begin("NONE", "why not")).isEqualTo(422);
    assertThat(begin(null, " ")).isEqualTo(422);
    assertThat(here.mara().change("DELETE", PAUSES + "/999999", "").status()).isEqualTo(404);
  }

  private static int begin(@Nullable String channel, String reason) {
    Map<String, @Nullable String> wish = new HashMap<>();
    wish.put("channel", channel);
    wish.put("reason", reason);
    return here.mara().post(PAUSES, wish).status();
  }

  private static int beginAt(String node, String reason) {
    Map<String, @Nullable String> wish = new HashMap<>();
    wish.put("channel", null);
    wish.put("node", node);
    wish.put("reason", reason);
    return here.mara().post(PAUSES, wish).status();
  }

  private static void receive(String sku, String node) {
    here.world()
        .bean(StockLedger.class)
        .adjust(here.itemId(sku), here.nodeId(node), 20, StockLedger.Reason.RECEIPT, "test", "");
  }

  /** Codes of the nodes to which an order is routed. */
  private static List<String> nodes(String externalId) {
    return here.world()
        .db()
        .select(NODE.CODE)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .fetch(NODE.CODE);
  }

  /** The first of them. */
  private static JsonNode pause() {
    return here.mara().read(PAUSES).get(0);
  }

  private static void end(JsonNode pause) {
    assertThat(here.mara().change("DELETE", PAUSES + "/" + pause.path("id").asLong(), "").status())
        .isEqualTo(204);
  }
}
