package dev.ordinator.writeback;

import static dev.ordinator.schema.Tables.CARRIER_WORD;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Market;
import dev.ordinator.standins.Told;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What channels are told, and what becomes of it when they won't hear. */
class WriteBackTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aCarrierThatTheChannelDoesNotKnowIsNamedOnceForAllThatWait() {
    here.world().db().deleteFrom(CARRIER_WORD).execute();
    long one = shippedFromMarket("K-1");
    long two = shippedFromMarket("K-2");
    here.awaitMark("K-1", "carrier unknown there");
    here.awaitMark("K-2", "carrier unknown there");
    assertThat(market().told().requests()).as("it is not told a name it won't take").isZero();

    String carriers = "/api/channels/" + channel("MARKET") + "/carriers";
    JsonNode asked = here.mara().read(carriers);
    assertThat(asked.path("names").toString()).contains("Heron", "Dunlin International");
    for (JsonNode carrier : asked.path("carriers")) {
      String code = carrier.path("carrier").asString();
      String name = code.equals("HERON") ? "Heron" : "Dunlin International";
      assertThat(here.mara().change("PUT", carriers + "/" + code, Map.of("name", name)).status())
          .isEqualTo(204);
    }
    await("both are told")
        .until(() ->
            market().told().shipmentsOf("K-1").size() == 1
                && market().told().shipmentsOf("K-2").size() == 1);
    assertThat(Market.CARRIERS).contains(market().told().shipmentsOf("K-1").getFirst().carrier());
    for (long order : new long[] {one, two}) {
      await("no snag is left").until(() -> sheet(order).path("snags").isEmpty());
    }
  }

  @Test
  void whatThePersonCancelsTheChannelIsTold() {
    here.world().shop().place(Sample.order("C1", "TOOL-J", 3));
    long id = here.awaitStage("C1", "RELEASED").path("id").asLong();
    assertThat(cancel(id, "")).as("a reason is wanted").isEqualTo(422);
    assertThat(cancel(id, "the buyer called")).isEqualTo(204);
    here.awaitStage("C1", "CANCELLED");
    await("the shop is told").until(() -> here.world().shop().told().cancellations().size() == 1);
    Told.Cancellation told = here.world().shop().told().cancellations().getFirst();
    assertThat(told.orderId()).isEqualTo("C1");
    assertThat(told.lines()).containsExactly(Map.entry("1", 3L));
    assertThat(cancel(id, "again")).isEqualTo(409);
  }

  @Test
  void aRefusalIsNotTriedAgainButShownAndCanBeSettledByHand() {
    here.world().shop().place(Sample.order("R1", "TOOL-J", 1));
    long id = here.awaitStage("R1", "RELEASED").path("id").asLong();
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.BASE_URL, here.world().shop().url() + "/nowhere")
        .where(CHANNEL.CODE.eq("WEB"))
        .execute();
    Packer.packAndHandOver(here.world(), id);
    here.awaitMark("R1", "not told");
    assertThat(
            here.world()
                .db()
                .select(OUTBOX.ATTEMPTS)
                .from(OUTBOX)
                .where(OUTBOX.ORDER_ID.eq(id))
                .and(OUTBOX.KIND.eq("WRITE_BACK"))
                .fetchSingle()
                .value1())
        .as("the shop said no: asking again is no use")
        .isEqualTo(1);
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.BASE_URL, here.world().shop().url())
        .where(CHANNEL.CODE.eq("WEB"))
        .execute();
    long message = sheet(id).path("snags").get(0).path("outboxId").asLong();
    assertThat(here.mara().post("/api/orders/messages/" + message + "/settle", "").status())
        .isEqualTo(204);
    assertThat(sheet(id).path("snags").isEmpty()).isTrue();
    assertThat(sheet(id).path("timeline").toString()).contains("Settled by hand");
  }

  @Test
  void aChannelThatHangsKeepsNoOtherFromBeingTold() {
    long hanging = shippedSoon("K-3");
    here.world().shop().place(Sample.order("H1", "TOOL-J", 1));
    long well = here.awaitStage("H1", "RELEASED").path("id").asLong();
    market().faults().delay(4_000);
    Packer.packAndHandOver(here.world(), hanging);
    Packer.packAndHandOver(here.world(), well);
    await("the shop is told").until(() -> !here.world().shop().told().shipmentsOf("H1").isEmpty());
    assertThat(
            here.world()
                .db()
                .fetchCount(
                    OUTBOX,
                    OUTBOX
                        .ORDER_ID
                        .eq(hanging)
                        .and(OUTBOX.KIND.eq("WRITE_BACK"))
                        .and(OUTBOX.STATE.eq("DONE"))))
        .as("while the market still thinks about it")
        .isZero();
    market().faults().delay(0);
  }

  private static long shippedFromMarket(String ref) {
    long id = shippedSoon(ref);
    Packer.packAndHandOver(here.world(), id);
    return id;
  }

  private static long shippedSoon(String ref) {
    market().place(market().generator().of(ref, "NL", "TOOL-J", 1));
    return here.awaitStage(ref, "RELEASED").path("id").asLong();
  }

  private static int cancel(long id, String reason) {
    return here.mara().post("/api/orders/" + id + "/cancel", Map.of("reason", reason)).status();
  }

  private static long channel(String code) {
    return here.world()
        .db()
        .select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq(code))
        .fetchSingle()
        .value1();
  }

  private static JsonNode sheet(long id) {
    return here.mara().read("/api/orders/" + id);
  }

  private static Market market() {
    return here.world().standIns().market();
  }
}
