package dev.ordinator.routing;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Orders that a person sends from elsewhere. */
class ElsewhereTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatItWouldCostIsSeenFirstAndThenItIsSentSo() {
    String path = released("EW1");
    JsonNode before = here.mara().read(path);
    JsonNode seen = here.mara().read(path + "/alternatives");
    assertThat(here.mara().read(path)).as("only looked at").isEqualTo(before);
    assertThat(seen.path("now").path("cost").asLong()).isPositive();

    JsonNode other = seen.path("others").get(0);
    assertThat(other.path("nodes").toString()).isNotEqualTo(seen.path("nowNodes").toString());
    List<String> nodes = other.path("nodes").valueStream().map(JsonNode::asString).toList();
    assertThat(send(path, nodes, "").status()).as("no reason").isEqualTo(422);
    assertThat(send(path, nodes, "the window display goes to it").status()).isEqualTo(204);

    await("the other node has it").until(() -> released(here.mara().read(path)) == nodes.size());
    JsonNode decision = here.mara().read(path + "/decisions").get(0);
    assertThat(decision.path("overrideReason").asString())
        .isEqualTo("the window display goes to it");
    assertThat(decision.path("cost")).isEqualTo(other.path("cost"));
    assertThat(decision.path("chosen")).isEqualTo(other.path("parts"));
    assertThat(here.mara().read(path).path("timeline").toString())
        .contains("by hand: the window display goes to it", "Taken back from");
    JsonNode counted =
        here.mara()
            .read("/api/routing/overrides")
            .valueStream()
            .filter(o -> o.path("reason").asString().equals("the window display goes to it"))
            .findFirst()
            .orElseThrow();
    assertThat(counted.path("times").asLong()).isEqualTo(1);
    assertThat(counted.path("by").asString()).isEqualTo("Mara");
  }

  @Test
  void whatWouldBecomeOfItIsAnsweredWithoutChangingAnything() {
    String path = released("EW5");
    JsonNode before = here.mara().read(path);
    JsonNode same = here.mara().read(path + "/what-if");
    assertThat(same.path("then")).isEqualTo(same.path("now"));
    String chosen = same.path("now").path("how").path("nodes").get(0).asString();
    JsonNode without = here.mara().read(path + "/what-if?without=" + chosen);
    assertThat(without.path("then").path("how").path("nodes").toString()).doesNotContain(chosen);
    assertThat(without.path("now")).isEqualTo(same.path("now"));
    assertThat(here.mara().read(path)).as("only asked").isEqualTo(before);
    assertThat(here.mara().get(path + "/what-if?more=9").status()).isEqualTo(422);
  }

  @Test
  void savedAsACaseItIsPlannedAsTheRulebookWould() {
    String path = released("EW6");
    JsonNode now = here.mara().read(path + "/what-if").path("now").path("how");
    JsonNode answer =
        here.mara().post("/api/planning/cases", here.mara().read(path + "/case")).body();
    JsonNode planned = answer.path("orders").get(0);
    assertThat(planned.path("cost")).isEqualTo(now.path("cost"));
    assertThat(
            planned.path("consignments").valueStream().map(c -> c.path("node").asString()).toList())
        .isEqualTo(now.path("nodes").valueStream().map(JsonNode::asString).toList());
  }

  @Test
  void whatIsBeingPackedStaysAndWhereItCannotComeFromIsSaid() {
    String path = released("EW2");
    JsonNode seen = here.mara().read(path + "/alternatives");
    String barred = seen.path("ruledOut").get(0).path("node").asString();
    Visitor.Answer refused = send(path, List.of(barred), "try it");
    assertThat(refused.status()).isEqualTo(409);
    assertThat(released(here.mara().read(path))).as("as it was").isEqualTo(1);

    long consignment = here.mara().read(path).path("consignments").get(0).path("id").asLong();
    here.mara()
        .post("/api/dispatch/consignments/" + consignment + "/scans", Map.of("code", "SMOKER-L"));
    assertThat(here.mara().get(path + "/alternatives").status()).isEqualTo(409);
  }

  private static String released(String id) {
    here.world().shop().place(Sample.order(id));
    return "/api/orders/" + here.awaitStage(id, "RELEASED").path("id").asLong();
  }

  private static int released(JsonNode sheet) {
    return (int)
        sheet
            .path("consignments")
            .valueStream()
            .filter(c -> c.path("state").asString().equals("RELEASED"))
            .count();
  }

  private static Visitor.Answer send(String path, List<String> nodes, String reason) {
    return here.mara().post(path + "/elsewhere", Map.of("nodes", nodes, "reason", reason));
  }
}
