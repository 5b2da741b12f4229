package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Telling channels and buyers of what left, over wires that fail. */
class TellingTest {
  private static TestWorld world;
  private static Visitor mara;

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.started();
    mara = world.visitor("mara");
  }

  @AfterAll
  static void stop() {
    world.close();
  }

  @Test
  void aShopThatKeepsFailingBecomesASnagAndIsToldOnceAPersonTriesAgain() {
    long order = released("W1");
    world.shop().webhooks().sendTo(""); // so that only what we ask of it fails
    pausePulls(true);
    world.shop().faults().failNext(1_000);
    Packer.packAndHandOver(world, order);
    await("the snag says so").until(() -> !notTold(order).isMissingNode());
    assertThat(world.shop().shipments()).isEmpty();
    assertThat(world.standIns().mailbox().mails()).as("the buyer was told all the same").hasSize(1);

    world.shop().faults().failNext(0);
    long message = notTold(order).path("outboxId").asLong();
    assertThat(mara.post("/api/orders/messages/" + message + "/try-again", "").status())
        .isEqualTo(204);
    await("the shop is told").until(() -> world.shop().shipments().size() == 1);
    await("the snag is gone").until(() -> notTold(order).isMissingNode());
    pausePulls(false);
    world.shop().webhooks().sendTo(world.address() + "/hooks/channels/WEB");
  }

  @Test
  void aConnectionThatOnlyListensTellsNobodyAndSaysSo() {
    long order = released("W2");
    int shipments = world.shop().shipmentRequests();
    world.db().update(CHANNEL).set(CHANNEL.LISTEN_ONLY, true).execute();
    Packer.packAndHandOver(world, order);
    world.db().update(CHANNEL).set(CHANNEL.LISTEN_ONLY, false).execute();

    assertThat(
            world
                .db()
                .fetchCount(OUTBOX, OUTBOX.ORDER_ID.eq(order).and(OUTBOX.STATE.eq("SKIPPED"))))
        .isEqualTo(2);
    assertThat(mara.read("/api/orders/" + order).path("timeline").toString())
        .contains("Neither channel nor buyer was told");
    assertThat(world.shop().shipmentRequests()).isEqualTo(shipments);
  }

  private static void pausePulls(boolean paused) {
    world.db().update(CHANNEL).set(CHANNEL.PAUSED, paused).execute();
  }

  private static JsonNode notTold(long order) {
    return mara.read("/api/orders/" + order)
        .path("snags")
        .valueStream()
        .filter(s -> s.path("cause").asString().equals("NOT_TOLD"))
        .findFirst()
        .orElse(mara.get("/none").body());
  }

  private static long released(String externalId) {
    world.shop().place(Sample.order(externalId, "SMOKER-L", 1));
    await(externalId + " is released")
        .until(() -> order(externalId).path("stage").asString("").equals("RELEASED"));
    return order(externalId).path("id").asLong();
  }

  private static JsonNode order(String externalId) {
    return mara.read("/api/orders?limit=500")
        .path("rows")
        .valueStream()
        .filter(r -> r.path("externalId").asString().equals(externalId))
        .findFirst()
        .orElse(mara.get("/none").body());
  }
}
