package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.jooq.TableField;
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
        .filteredOn(mail -> mail.to().contains("buyer-W1@"))
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
  void aConnectionThatOnlyListensIsToldNothingButItsBuyersAreMailedIfTheyAreToBe() {
    int shipments = here.world().shop().told().requests();
    long mailed = released("W2");
    channel(CHANNEL.WRITES_BACK, false);
    Packer.packAndHandOver(here.world(), mailed);
    long unmailed = released("W3");
    channel(CHANNEL.MAIL_SENT, false);
    Packer.packAndHandOver(here.world(), unmailed);
    channel(CHANNEL.WRITES_BACK, true);
    channel(CHANNEL.MAIL_SENT, true);

    assertThat(timeline(mailed))
        .contains("The channel was not told")
        .doesNotContain("The buyer was not told");
    await("the mail has come").until(() -> mails("W2") == 1);
    assertThat(timeline(unmailed)).contains("The channel was not told", "The buyer was not told");
    assertThat(mails("W3")).isZero();
    assertThat(here.world().shop().told().requests()).isEqualTo(shipments);
  }

  private static void channel(TableField<?, Boolean> setting, boolean yes) {
    here.world().db().update(CHANNEL).set(setting, yes).execute();
  }

  private static String timeline(long order) {
    return here.mara().read("/api/orders/" + order).path("timeline").toString();
  }

  private static long mails(String order) {
    return here.world().standIns().mailbox().mails().stream()
        .filter(m -> m.to().contains("buyer-" + order))
        .count();
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
