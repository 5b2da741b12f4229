package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.platform.WebhookSignature;
import dev.ordinator.standins.Shop;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What a channel may send, and what becomes of it. */
class IntakeTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void badOrdersAreKeptWithTheirPlaceAndNeverStopTheGoodOnes() {
    String name = "😀 نحّال 蜂 <script>alert(1)</script>";
    send(changed("B1", "\"quantity\":1", "\"quantity\":-3"));
    send(changed("B2", "\"unitPrice\":\"10.00\"", "\"unitPrice\":\"10.005\""));
    send(
        changed(
            "B3",
            "\"name\":\"Ilse Verbruggen\",\"email\"",
            "\"name\":\"" + "x".repeat(1_000_000) + "\",\"email\""));
    send("{ this is not JSON");
    send("[".repeat(5_000));
    send(changed("B4", "\"currency\":\"EUR\"", "\"currency\":\"XXX\""));
    send(changed("B5", "\"country\":\"NL\"", "\"country\":\"\""));
    send(changed("B6", "Ilse Verbruggen", name));
    send(JSON.writeValueAsString(Sample.order("B7")));

    await("all are dealt with")
        .untilAsserted(() ->
            assertThat(refusals())
                .containsEntry("B1", "lines[0].quantity")
                .containsEntry("B2", "lines[0].unitPrice")
                .containsEntry("B3", "buyer.name")
                .containsEntry("B4", "currency"));
    await("the unreadable ones too")
        .until(() -> here.mara().read("/api/intake/refused").size() == 6);
    assertThat(stage("B7")).isNotEmpty();
    await("emoji and right-to-left text go through").until(() -> stage("B6").equals("RELEASED"));
    assertThat(
            here.world()
                .db()
                .select(SALES_ORDER.SHIP_NAME)
                .from(SALES_ORDER)
                .where(SALES_ORDER.EXTERNAL_ID.eq("B6"))
                .fetchSingle()
                .value1())
        .isEqualTo(name);
    await("a missing country is a snag, to be filled in")
        .until(() ->
            here.mara()
                .read("/api/today")
                .path("snags")
                .toString()
                .contains("the country is missing"));
  }

  @Test
  void aRefusedMessageCanBeCorrectedAndIsThenTakenIn() {
    send(changed("R1", "\"quantity\":1", "\"quantity\":0"));
    await("it is refused").until(() -> refusals().containsKey("R1"));
    JsonNode card =
        here.mara()
            .read("/api/intake/refused")
            .valueStream()
            .filter(r -> r.path("externalId").asString().equals("R1"))
            .findFirst()
            .orElseThrow();
    String path = "/api/intake/refused/" + card.path("id").asLong();
    String body = here.mara().read(path).path("body").asString();

    Visitor.Answer still =
        here.mara()
            .post(
                path + "/correct",
                new Correction(body.replace("\"quantity\":0", "\"quantity\":1.5")));
    assertThat(still.status()).isEqualTo(422);
    assertThat(still.body().path("field").asString()).isEqualTo("lines[0].quantity");

    assertThat(
            here.mara()
                .post(
                    path + "/correct",
                    new Correction(body.replace("\"quantity\":0", "\"quantity\":1")))
                .status())
        .isEqualTo(204);
    await("it goes on as any other").until(() -> stage("R1").equals("RELEASED"));
    assertThat(here.mara().get(path).status()).as("it is no longer waiting").isEqualTo(404);
  }

  @Test
  void theSameOrderFromManySidesAtOnceIsTakenInOnce() {
    String message = JSON.writeValueAsString(Sample.order("M1"));
    CompletableFuture.allOf(
            IntStream.range(0, 12)
                .mapToObj(i -> CompletableFuture.runAsync(() -> send(message)))
                .toArray(CompletableFuture[]::new))
        .join();
    assertThat(here.world().db().fetchCount(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("M1")))
        .isEqualTo(1);
  }

  @Test
  void forgedAndLateWebhooksAreRefused() {
    String body = JSON.writeValueAsString(Sample.order("F1"));
    String now = Long.toString(Instant.now().getEpochSecond());
    String late = Long.toString(Instant.now().minusSeconds(3_600).getEpochSecond());
    assertThat(post(body, "f1", now, "v1,bm90IHRoZSBzaWduYXR1cmU=")).isEqualTo(401);
    assertThat(post(body, "f1", late, sign("f1", late, body))).isEqualTo(401);
    assertThat(post(body + " ", "f1", now, sign("f1", now, body))).isEqualTo(401);
    assertThat(here.world().db().fetchCount(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("F1")))
        .isZero();
    assertThat(post(body, "f1", now, sign("f1", now, body))).isEqualTo(204);
  }

  @Test
  void aReplayedWebhookIsRefusedAndASendersOwnSecondTryIsNot() {
    String body = JSON.writeValueAsString(Sample.order("P1"));
    long now = Instant.now().getEpochSecond();
    String first = Long.toString(now);
    String second = Long.toString(now + 1);
    assertThat(post(body, "p1", first, sign("p1", first, body))).isEqualTo(204);
    assertThat(post(body, "p1", first, sign("p1", first, body))).isEqualTo(409);
    assertThat(post(body, "p1", first, "v1,eA== " + sign("p1", first, body))).isEqualTo(409);
    assertThat(post(body, "p1", second, sign("p1", second, body))).isEqualTo(204);
    assertThat(here.world().db().fetchCount(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("P1")))
        .isEqualTo(1);
  }

  @Test
  void aShopThatFailsIsAskedAgainAndNothingIsLost() {
    here.world().shop().webhooks().sendTo("");
    here.world().shop().faults().failNext(2);
    here.world().shop().faults().garbleNext(2);
    here.world().shop().place(Sample.order("T1"));
    await("it comes in all the same").until(() -> stage("T1").equals("RELEASED"));
    assertThat(here.mara().read("/api/channels").get(0).path("lastError").isNull()).isTrue();
    here.world().shop().webhooks().sendTo(here.world().address() + "/hooks/channels/WEB");
  }

  @Test
  void anOrderThatCantBeReckonedWithIsKeptAndThoseOfItsPageAreTakenIn() {
    here.world().shop().webhooks().sendTo("");
    here.world().shop().place(Sample.order("G1"));
    here.world().shop().place(tooLarge("G2"));
    here.world().shop().place(Sample.order("G3"));
    await("the good ones go on")
        .until(() -> stage("G1").equals("RELEASED") && stage("G3").equals("RELEASED"));
    await("the other waits for a person").until(() -> refusals().containsKey("G2"));
    assertThat(here.mara().read("/api/intake/refused").toString()).contains("too large");
    await("the channel is read on")
        .untilAsserted(() ->
            assertThat(here.mara().read("/api/channels").get(0).path("lastError").isNull())
                .isTrue());

    here.world().shop().change("G2", order -> order.withLines(Sample.order("G2").lines()));
    await("it comes again, and well").until(() -> stage("G2").equals("RELEASED"));
    assertThat(refusals()).as("what was refused of it waits no longer").doesNotContainKey("G2");
    here.world().shop().webhooks().sendTo(here.world().address() + "/hooks/channels/WEB");
  }

  @Test
  void aShopThatSaysMoreAndMeansTheSameIsNotAskedWithoutEnd() {
    here.world().shop().webhooks().sendTo("");
    here.world().shop().place(Sample.order("S1"));
    here.world().shop().faults().rewrite(page -> page.replace("\"more\":false", "\"more\":true"));
    await("it is told as the shop's fault")
        .until(() ->
            here.mara()
                .read("/api/channels")
                .get(0)
                .path("lastError")
                .asString("")
                .contains("the same again"));
    assertThat(stage("S1")).as("what it sent is in").isNotEmpty();
    here.world().shop().faults().rewrite(page -> page);
    here.world().shop().place(Sample.order("S2"));
    await("and it goes on").until(() -> !stage("S2").isEmpty());
    here.world().shop().webhooks().sendTo(here.world().address() + "/hooks/channels/WEB");
  }

  @Test
  void aPausedConnectionIsToldToSendAgainLaterAndNothingIsLost() {
    String body = JSON.writeValueAsString(Sample.order("P1"));
    pause(true);
    try {
      assertThat(send("msg-p1", body)).as("later, please").isEqualTo(503);
      assertThat(stage("P1")).isEmpty();
    } finally {
      pause(false);
    }
    assertThat(send("msg-p1", body)).isEqualTo(204);
    assertThat(stage("P1")).isNotEmpty();
  }

  private static void pause(boolean paused) {
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.PAUSED, paused)
        .where(CHANNEL.CODE.eq("WEB"))
        .execute();
  }

  private record Correction(String body) {}

  /** As many lines, units and cents as may be in one order, and more than a number can hold. */
  private static ShopOrder tooLarge(String id) {
    ShopOrder order = Sample.order(id);
    return order.withLines(
        IntStream.rangeClosed(1, 400)
            .mapToObj(no ->
                new ShopOrder.Line(
                    Integer.toString(no),
                    "listing-SMOKER-L",
                    "SMOKER-L",
                    "",
                    "Smoker",
                    100_000,
                    "9999999999.99",
                    "0.00"))
            .toList());
  }

  private static String changed(String id, String from, String to) {
    String message = JSON.writeValueAsString(Sample.order(id));
    assertThat(message).contains(from);
    return message.replace(from, to);
  }

  private static void send(String body) {
    assertThat(send("msg_" + System.nanoTime(), body)).isEqualTo(204);
  }

  private static int send(String id, String body) {
    String now = Long.toString(Instant.now().getEpochSecond());
    return post(body, id, now, sign(id, now, body));
  }

  private static int post(String body, String id, String timestamp, String signature) {
    return Visitor.anonymous(here.world().address())
        .postRaw(
            "/hooks/channels/WEB",
            body,
            Map.of(
                "webhook-id", id, "webhook-timestamp", timestamp, "webhook-signature", signature));
  }

  private static String sign(String id, String timestamp, String body) {
    return WebhookSignature.sign(
        Shop.WEBHOOK_SECRET, id, timestamp, body.getBytes(StandardCharsets.UTF_8));
  }

  private static Map<String, String> refusals() {
    return here.world()
        .db()
        .select(REFUSED_MESSAGE.EXTERNAL_ID, REFUSED_MESSAGE.PLACE)
        .from(REFUSED_MESSAGE)
        .where(REFUSED_MESSAGE.STATE.eq("REFUSED"))
        .and(REFUSED_MESSAGE.EXTERNAL_ID.ne(""))
        .fetchMap(REFUSED_MESSAGE.EXTERNAL_ID, REFUSED_MESSAGE.PLACE);
  }

  private static String stage(String externalId) {
    return here.world()
        .db()
        .select(SALES_ORDER.STAGE)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .fetchOptional(SALES_ORDER.STAGE)
        .orElse("");
  }
}
