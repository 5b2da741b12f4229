package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Telling channels and buyers of what left, over wires that fail. */
class TellingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aShopThatKeepsFailingBecomesASnagAndIsToldOnceAPersonTriesAgain() {
    long order = released("W1");
    here.world().shop().webhooks().sendTo(""); // so that only what we ask of it fails
    pausePulls(true);
    here.world().shop().faults().failNext(1_000);
    Packer.packAndHandOver(here.world(), order);
    await("the snag says so").until(() -> !notTold(order).isMissingNode());
    assertThat(here.world().shop().told().shipments()).isEmpty();
    assertThat(here.world().standIns().mailbox().mails())
        .as("the buyer was told all the same, and when it will come")
        .singleElement()
        .satisfies(mail ->
            assertThat(mail.text()).contains("It should arrive by " + arrival(order) + "."));

    here.world().shop().faults().failNext(0);
    long message = notTold(order).path("outboxId").asLong();
    assertThat(here.mara().post("/api/orders/messages/" + message + "/try-again", "").status())
        .isEqualTo(204);
    await("the shop is told").until(() -> here.world().shop().told().shipments().size() == 1);
    await("the snag is gone").until(() -> notTold(order).isMissingNode());
    pausePulls(false);
    here.world().shop().webhooks().sendTo(here.world().address() + "/hooks/channels/WEB");
  }

  @Test
  void aConnectionThatOnlyListensTellsNobodyAndSaysSo() {
    long order = released("W2");
    int shipments = here.world().shop().told().requests();
    here.world().db().update(CHANNEL).set(CHANNEL.WRITES_BACK, false).execute();
    Packer.packAndHandOver(here.world(), order);
    here.world().db().update(CHANNEL).set(CHANNEL.WRITES_BACK, true).execute();

    assertThat(
            here.world()
                .db()
                .fetchCount(OUTBOX, OUTBOX.ORDER_ID.eq(order).and(OUTBOX.STATE.eq("SKIPPED"))))
        .isEqualTo(2);
    assertThat(here.mara().read("/api/orders/" + order).path("timeline").toString())
        .contains("The channel was not told", "The buyer was not told");
    assertThat(here.world().shop().told().requests()).isEqualTo(shipments);
  }

  /** The day that it was planned for, such as Thu 26 Nov 2026. */
  private static String arrival(long order) {
    LocalDate day =
        here.world()
            .db()
            .select(CONSIGNMENT.ARRIVAL_ON)
            .from(CONSIGNMENT)
            .where(CONSIGNMENT.ORDER_ID.eq(order))
            .fetchSingle(CONSIGNMENT.ARRIVAL_ON);
    return DateTimeFormatter.ofPattern("EEE d MMM yyyy", Locale.UK).format(day);
  }

  private static void pausePulls(boolean paused) {
    here.world().db().update(CHANNEL).set(CHANNEL.PAUSED, paused).execute();
  }

  private static JsonNode notTold(long order) {
    return here.mara()
        .read("/api/orders/" + order)
        .path("snags")
        .valueStream()
        .filter(s -> s.path("cause").asString().equals("NOT_TOLD"))
        .findFirst()
        .orElse(Visitor.nothing());
  }

  private static long released(String externalId) {
    here.world().shop().place(Sample.order(externalId, "SMOKER-L", 1));
    return here.awaitStage(externalId, "RELEASED").path("id").asLong();
  }
}
