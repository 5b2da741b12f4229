package dev.ordinator.platform;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Nothing fails unseen: what fails is on Today, in health, or a snag with something to do. */
class FailuresTest {
  private static final Duration A_MINUTE = Duration.ofMinutes(1);

  private static TestWorld world;
  private static Visitor mara;

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.installed();
    // nothing listens there: the mail server is away
    world.addInstance("--spring.mail.port=9");
    mara = world.visitor("mara");
  }

  @AfterAll
  static void end() {
    world.close();
  }

  @Test
  void anOrderWhoseStepFailsThreeTimesWaitsForAPersonWhoCanTryAgain() {
    world
        .db()
        .execute(
            """
            create trigger never before insert on consignment for each row
            signal sqlstate '45000' set message_text = 'the floor is wet'
            """);
    try {
      world.shop().place(Sample.order("F1", "SMOKER-L", 1));
      await("its step failed three times")
          .atMost(A_MINUTE)
          .until(() -> !snag("STEP_FAILED").isMissingNode());
      assertThat(snag("STEP_FAILED").path("detail").asString())
          .startsWith("routing failed 3 times")
          .contains("the floor is wet");
    } finally {
      world.db().execute("drop trigger never");
    }

    long order = snag("STEP_FAILED").path("orderId").asLong();
    assertThat(mara.post("/api/orders/" + order + "/try-again", Map.of()).status()).isEqualTo(204);

    await("it goes on").until(() -> stage(order).equals("RELEASED"));
    assertThat(snag("STEP_FAILED").isMissingNode()).isTrue();
  }

  @Test
  void aMailServerThatIsAwayAndACarrierThatAnswersGarbageAreSeenWithinAMinute() {
    world.shop().place(Sample.order("F2", "TOOL-J", 1));
    await("it is released").until(() -> !consignment("F2").isMissingNode());
    long order = consignment("F2").path("orderId").asLong();
    world
        .standIns()
        .carrier()
        .faults()
        .rewrite(answer -> answer.contains("scans") ? "<html>under construction</html>" : answer);
    Packer.packAndHandOver(mara, order);
    try {
      await("both are on Today")
          .atMost(A_MINUTE)
          .untilAsserted(() ->
              assertThat(mara.read("/api/today").path("troubles").toString())
                  .contains("Sending mail", "Tracking parcels"));
      assertThat(mara.read("/actuator/health").path("status").asString()).isEqualTo("DEGRADED");
      await("the parcel waits for a person").until(() -> !snag("NOT_TRACKED").isMissingNode());
    } finally {
      world.standIns().carrier().faults().rewrite(answer -> answer);
    }

    mara.post("/api/orders/" + order + "/try-again", Map.of());

    await("it is delivered").until(() -> stage(order).equals("DELIVERED"));
  }

  @Test
  void healthTellsManagersOfEachLoopAndOthersOnlyWhetherAllIsWell() {
    JsonNode loop =
        mara.read("/actuator/health")
            .path("components")
            .path("work")
            .path("details")
            .path("order-desk");
    assertThat(loop.path("alive").asBoolean()).isTrue();
    assertThat(loop.path("lastSuccess").asString()).isNotEmpty();

    assertThat(world.visitor("joss").read("/actuator/health").has("components")).isFalse();
  }

  @Test
  void whatIsRefusedSaysWhyAndWhere() {
    HttpResponse<String> stranger = Visitor.anonymous(world.address()).raw("/api/orders");
    assertThat(stranger.statusCode()).isEqualTo(401);
    assertThat(stranger.body()).contains("you are not logged in");

    Visitor vera = world.visitor("vera");
    Visitor.Answer forbidden = vera.post("/api/orders/1/try-again", Map.of());
    assertThat(forbidden.status()).isEqualTo(403);
    assertThat(forbidden.body().path("detail").asString())
        .isEqualTo("your role does not allow that");

    Visitor.Answer misspelt =
        mara.post("/api/routing/pauses", Map.of("chanel", "WEB", "reason", "stocktaking"));
    assertThat(misspelt.status()).isEqualTo(422);
    assertThat(misspelt.body().path("field").asString()).isEqualTo("chanel");
    assertThat(misspelt.body().path("detail").asString()).isEqualTo("there is no such field");

    Visitor.Answer broken =
        mara.postText("/api/routing/pauses", "application/json", "{\"channel\":");
    assertThat(broken.status()).isEqualTo(400);
    assertThat(broken.body().path("detail").asString()).contains("not JSON", "line 1");
  }

  @Test
  void whatNobodyForesawIsAnsweredWithTheIdUnderWhichItStandsInTheLog() {
    world
        .db()
        .execute(
            """
            create trigger broken before insert on routing_pause for each row
            signal sqlstate '45000' set message_text = 'secret of the inside'
            """);
    try {
      Visitor.Answer failed = mara.post("/api/routing/pauses", Map.of("reason", "stocktaking"));
      assertThat(failed.status()).isEqualTo(500);
      assertThat(failed.body().path("detail").asString())
          .matches(".*It stands in the log as [0-9a-f]{8}")
          .doesNotContain("secret");
    } finally {
      world.db().execute("drop trigger broken");
    }
  }

  private static JsonNode snag(String cause) {
    return first(mara.read("/api/today").path("snags"), "cause", cause);
  }

  private static JsonNode consignment(String externalId) {
    JsonNode order =
        first(mara.read("/api/orders?pile=ALL&limit=50").path("rows"), "externalId", externalId);
    return first(
        mara.read("/api/dispatch/consignments"), "orderId", order.path("id").asString("none"));
  }

  private static JsonNode first(JsonNode rows, String field, String value) {
    return rows.valueStream()
        .filter(row -> row.path(field).asString("").equals(value))
        .findFirst()
        .orElseGet(() -> Visitor.nothing());
  }

  private static String stage(long order) {
    return mara.read("/api/orders/" + order).path("order").path("stage").asString("");
  }
}
