package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Mailbox.Mail;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Orders that their buyers collect at a node. */
class CollectionTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void whatIsCollectedWaitsAtTheNodeForItsBuyerWhoIsToldAndNoCarrierGetsIt() {
    long had = here.cell("BRUSH", "STW").path("onHand").asLong();
    here.world().shop().place(Sample.collected("CO1", "BRUSH", 1, "STW"));
    long id = here.awaitStage("CO1", "RELEASED").path("id").asLong();
    JsonNode planned = consignment(id);
    assertThat(planned.path("node").asString()).isEqualTo("Stillwater");
    assertThat(planned.path("carrier").asString()).as("the buyer comes").isEmpty();

    Packer.pack(here.mara(), planned.path("id").asLong());
    await("the buyer is told").until(() -> mails("CO1").size() == 1);
    assertThat(mails("CO1").getFirst().subject()).contains("is ready for you");
    assertThat(mails("CO1").getFirst().text()).contains("Collect it at Stillwater");
    assertThat(consignment(id).path("parcels")).isEmpty();
    assertThat(here.world().standIns().carrier().parcels()).as("nothing to post").isEmpty();

    String path = "/api/dispatch/consignments/" + planned.path("id").asLong();
    assertThat(here.mara().post(path + "/hand-over", "").status()).isEqualTo(200);
    assertThat(here.mara().post(path + "/hand-over", "").status()).as("twice").isEqualTo(409);
    here.awaitStage("CO1", "DELIVERED");
    assertThat(here.cell("BRUSH", "STW").path("onHand").asLong()).isEqualTo(had - 1);
    await("the shop is told").until(() -> here.world().shop().told().shipments().size() == 1);
    assertThat(mails("CO1")).as("the buyer knows").hasSize(1);
  }

  @Test
  void whatNobodyCollectsGoesBackToStockAndAPersonSaysWhatBecomesOfIt() {
    long free = here.cell("BRUSH", "STW").path("available").asLong();
    here.world().shop().place(Sample.collected("CO2", "BRUSH", 2, "STW"));
    long id = here.awaitStage("CO2", "RELEASED").path("id").asLong();
    long consignment = consignment(id).path("id").asLong();
    String uncollected = "/api/dispatch/consignments/" + consignment + "/not-collected";
    assertThat(here.mara().post(uncollected, Map.of("reason", "")).status())
        .as("it is not ready yet")
        .isEqualTo(409);
    Packer.pack(here.mara(), consignment);
    assertThat(here.mara().post(uncollected, Map.of("reason", "moved away")).status())
        .isEqualTo(200);
    assertThat(here.cell("BRUSH", "STW").path("available").asLong()).isEqualTo(free);
    JsonNode sheet = here.mara().read("/api/orders/" + id);
    assertThat(sheet.path("holds").toString() + sheet.path("timeline"))
        .contains("Not collected at Stillwater. moved away");
    assertThat(here.mara().post("/api/orders/" + id + "/release-hold", "").status()).isEqualTo(204);
    await("it is planned again").until(() -> consignments(id).size() == 2);
  }

  @Test
  void anOrderThatIsToBeCollectedWhereNoNodeIsIsRefusedWithTheReason() {
    here.world().shop().place(Sample.collected("CO3", "BRUSH", 1, "NOWHERE"));
    await("it is kept")
        .until(() ->
            here.world()
                .db()
                .fetchExists(
                    REFUSED_MESSAGE, REFUSED_MESSAGE.PROBLEM.contains("has the code ‘NOWHERE’")));
    assertThat(here.order("CO3").isMissingNode()).isTrue();
  }

  private static List<JsonNode> consignments(long order) {
    return here.mara().read("/api/orders/" + order).path("consignments").valueStream().toList();
  }

  private static JsonNode consignment(long order) {
    return consignments(order).getLast();
  }

  private static List<Mail> mails(String order) {
    return here.world().standIns().mailbox().mails().stream()
        .filter(m -> m.to().contains("buyer-" + order))
        .toList();
  }
}
