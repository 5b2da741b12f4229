package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor.Answer;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What buyers send back: what may come, what becomes of it, and what is owed for it. */
class ReturnsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private record Part(
      long lineId, long units, String disposition, String lot, @Nullable String note) {
    Part(long lineId, long units, String disposition, String lot) {
      this(lineId, units, disposition, lot, null);
    }
  }

  @AfterEach
  void levelsAreWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatComesBackIsPutWhereItBelongsAndPaidBack() {
    long order = sent("RT1", "TOOL-J", 3);
    long stock = here.onHand("TOOL-J");
    JsonNode opened = open(order, 3);
    assertThat(opened.path("number").asString()).startsWith("RMA-").endsWith("-1");
    assertThat(marks("RT1")).contains("being returned");

    long line = line(opened);
    assertThat(
            arrive(
                    opened,
                    true,
                    new Part(line, 1, "RESTOCK", ""),
                    new Part(line, 1, "SCRAP", ""),
                    new Part(line, 1, "SUPPLIER", ""))
                .status())
        .isEqualTo(204);
    assertThat(here.onHand("TOOL-J")).as("one is sold again").isEqualTo(stock + 1);
    assertThat(movements("TOOL-J", opened))
        .containsExactlyInAnyOrder(
            "RETURN 1", "RETURN 1", "RETURN 1", "SCRAP -1", "TO_SUPPLIER -1");

    JsonNode sheet = sheet(opened);
    assertThat(sheet.path("card").path("stage").asString()).isEqualTo("ARRIVED");
    assertThat(sheet.path("whole").valueStream().map(JsonNode::asLong)).containsExactly(3L);
    assertThat(owed()).isEqualTo(1);
    assertThat(refund(order, opened, 3)).isEqualTo(204);
    assertThat(owed()).isZero();
    assertThat(refund(order, opened, 1)).as("twice for one return").isEqualTo(409);
    await("the shop pays").until(() -> stage(opened).equals("CLOSED"));
    assertThat(sheet(opened).path("card").path("refunded").asLong()).isEqualTo(3000);
    assertThat(marks("RT1")).doesNotContain("being returned");
    assertThat(here.mara().read("/api/orders/" + order).path("timeline").toString())
        .contains("to come back to")
        .contains("came back to")
        .contains("is closed");
  }

  @Test
  void onlyWhatWasSentAndIsNotBackYetCanComeBack() {
    here.world().shop().place(Sample.order("RT2", "TOOL-J", 2));
    long id = here.awaitStage("RT2", "RELEASED").path("id").asLong();
    assertThat(returnable(id).path("lines").isEmpty()).as("nothing has left").isTrue();
    Packer.packAndHandOver(here.world(), id);
    assertThat(tryOpen(id, 3).status()).isEqualTo(422);
    assertThat(tryOpen(id, 0).status()).isEqualTo(422);
    JsonNode opened = open(id, 2);
    assertThat(tryOpen(id, 1).status()).as("both are to come").isEqualTo(422);

    assertThat(post(opened, "call-off").status()).isEqualTo(204);
    JsonNode again = open(id, 1);
    assertThat(post(opened, "reopen").body().path("detail").asString())
        .contains("1 of TOOL-J can come back, not 2");
    assertThat(post(again, "call-off").status()).isEqualTo(204);
    assertThat(post(opened, "reopen").status()).isEqualTo(204);
    assertThat(stage(opened)).isEqualTo("AWAITED");
  }

  @Test
  void whatComesInPartsIsAwaitedUntilTheRestDoesNotCome() {
    long order = sent("RT3", "TOOL-J", 3);
    JsonNode opened = open(order, 3);
    long line = line(opened);
    assertThat(arrive(opened, true, new Part(line, 1, "QUARANTINE", "")).status()).isEqualTo(204);
    assertThat(stage(opened)).isEqualTo("AWAITED");
    assertThat(post(opened, "call-off").status()).as("some came").isEqualTo(409);
    Answer tooMany = arrive(opened, true, new Part(line, 3, "RESTOCK", ""));
    assertThat(tooMany.status()).isEqualTo(422);
    assertThat(tooMany.body().path("detail").asString()).contains("2 of TOOL-J are awaited, not 3");

    assertThat(arrive(opened, false, new Part(line, 1, "RESTOCK", "")).status()).isEqualTo(204);
    assertThat(stage(opened)).isEqualTo("ARRIVED");
    assertThat(returnable(order).path("lines").get(0).path("left").asLong()).isEqualTo(1);

    assertThat(close(opened, "").status()).as("why").isEqualTo(422);
    assertThat(close(opened, "worn before it came").status()).isEqualTo(204);
    assertThat(refund(order, opened, 1)).as("it is closed").isEqualTo(409);
    assertThat(post(opened, "reopen").status()).isEqualTo(204);
    assertThat(close(opened, "so it is").status()).isEqualTo(204);
  }

  @Test
  void aLotThatWasNotSentWithTheOrderIsAskedAboutAndNeverSoldUnseen() {
    long order = sent("RT8", "FO-DEEP-WAX-1", 2);
    JsonNode opened = open(order, 2);
    long line = line(opened);
    Answer asked = arrive(opened, true, new Part(line, 1, "RESTOCK", "NOT-OURS-7", "found in it"));
    assertThat(asked.status()).isEqualTo(422);
    assertThat(asked.body().path("detail").asString()).contains("was not sent with this order");
    assertThat(arrive(opened, true, new Part(line, 1, "QUARANTINE", "NOT-OURS-7")).status())
        .as("a note says what is known")
        .isEqualTo(422);
    assertThat(
            arrive(opened, true, new Part(line, 1, "QUARANTINE", "X".repeat(41), "label torn"))
                .status())
        .as("longer than a lot is called")
        .isEqualTo(422);
    assertThat(
            arrive(opened, true, new Part(line, 1, "QUARANTINE", "NOT-OURS-7", "label torn"))
                .status())
        .isEqualTo(204);
    assertThat(sheet(opened).path("arrivals").get(0).path("lot").asString())
        .isEqualTo("NOT-OURS-7");
    assertThat(here.mara().read("/api/orders/" + order).path("timeline").toString())
        .contains("which was not sent with it: label torn");
  }

  @Test
  void whatComesBackToASupplierIsNotOursToSell() {
    long order = sent("RT9", "TOOL-J", 1);
    JsonNode opened = open(order, 1);
    here.world()
        .db()
        .update(RMA)
        .set(RMA.NODE_ID, here.nodeId("QUI"))
        .where(RMA.ID.eq(opened.path("id").asLong()))
        .execute();
    assertThat(sheet(opened).path("atSupplier").asBoolean()).isTrue();
    long line = line(opened);
    assertThat(arrive(opened, true, new Part(line, 1, "RESTOCK", "")).status()).isEqualTo(422);
    assertThat(arrive(opened, true, new Part(line, 1, "QUARANTINE", "")).status()).isEqualTo(422);
    assertThat(arrive(opened, true, new Part(line, 1, "SUPPLIER", "")).status()).isEqualTo(204);
  }

  @Test
  void goodsByLotComeBackToTheirLotAndARecalledOneIsNotSold() {
    long order = sent("RT4", "FO-DEEP-WAX-1", 2);
    JsonNode opened = open(order, 2);
    JsonNode sent = sheet(opened).path("lines").get(0).path("sent");
    assertThat(sent.path("tracked").asBoolean()).isTrue();
    String lot = sent.path("lots").get(0).asString();
    long line = line(opened);
    assertThat(arrive(opened, true, new Part(line, 1, "RESTOCK", "")).status()).isEqualTo(422);
    assertThat(arrive(opened, true, new Part(line, 1, "RESTOCK", "none-such")).status())
        .isEqualTo(422);
    assertThat(arrive(opened, true, new Part(line, 1, "RESTOCK", lot)).status()).isEqualTo(204);
    recalled(lot, true);
    try {
      Answer refused = arrive(opened, true, new Part(line, 1, "RESTOCK", lot));
      assertThat(refused.body().path("detail").asString()).contains("is recalled");
      assertThat(arrive(opened, true, new Part(line, 1, "QUARANTINE", lot)).status())
          .isEqualTo(204);
    } finally {
      recalled(lot, false);
    }
    assertThat(sheet(opened).path("arrivals").get(1).path("lot").asString()).isEqualTo(lot);
    assertThat(close(opened, "sent on to the next club").status()).isEqualTo(204);
  }

  @Test
  void ofSixteenWhoBookTheSameParcelOneDoes() throws Exception {
    JsonNode opened = open(sent("RT5", "TOOL-J", 2), 2);
    Part all = new Part(line(opened), 2, "QUARANTINE", "");
    List<Callable<Integer>> bookings =
        IntStream.range(0, 16)
            .<Callable<Integer>>mapToObj(i -> () -> arrive(opened, true, all).status())
            .toList();
    int booked = 0;
    try (var pool = Executors.newFixedThreadPool(16)) {
      for (var answer : pool.invokeAll(bookings)) {
        assertThat(answer.get()).isIn(204, 409);
        booked += answer.get() == 204 ? 1 : 0;
      }
    }
    assertThat(booked).isEqualTo(1);
    assertThat(close(opened, "they keep the money").status()).isEqualTo(204);
  }

  @Test
  void returnsAreFoundByPileAndNumberAndWrittenAsCsv() {
    JsonNode opened = open(sent("RT6", "TOOL-J", 1), 1);
    String number = opened.path("number").asString();
    assertThat(list("AWAITED", number)).containsExactly(number);
    assertThat(list("ENDED", number)).isEmpty();
    assertThat(list("ALL", "no such")).isEmpty();
    assertThat(here.mara().read("/api/find?q=" + number).get(0).path("kind").asString())
        .isEqualTo("RETURN");
    assertThat(here.mara().raw("/api/returns.csv?pile=AWAITED").body()).contains(number + ",");
    assertThat(here.world().visitor("vera").post(path(opened) + "/call-off", "").status())
        .isEqualTo(403);
    assertThat(post(opened, "call-off").status()).isEqualTo(204);
    assertThat(list("ENDED", number)).containsExactly(number);
  }

  @Test
  void returnsAreListedFromEitherEnd() {
    long order = sent("RT7", "TOOL-J", 2);
    JsonNode first = open(order, 1);
    JsonNode second = open(order, 1);
    String of = here.order("RT7").path("number").asString();
    String one = first.path("number").asString();
    String other = second.path("number").asString();
    assertThat(list("ALL", of)).containsExactly(other, one);
    assertThat(list("ALL", of + "&after=" + second.path("id").asLong())).containsExactly(one);
    String oldest = of + "&sort=OLDEST";
    assertThat(list("ALL", oldest)).containsExactly(one, other);
    assertThat(list("ALL", oldest + "&after=" + first.path("id").asLong())).containsExactly(other);
    post(first, "call-off");
    post(second, "call-off");
  }

  private static long sent(String ref, String sku, long units) {
    here.world().shop().place(Sample.order(ref, sku, units));
    long id = here.awaitStage(ref, "RELEASED").path("id").asLong();
    Packer.packAndHandOver(here.world(), id);
    return id;
  }

  private static Answer tryOpen(long order, long units) {
    long line = returnable(order).path("lines").get(0).path("id").asLong();
    return here.mara()
        .post(
            "/api/orders/" + order + "/returns",
            Map.of("reason", "UNWANTED", "note", "", "units", Map.of(line, units)));
  }

  private static JsonNode open(long order, long units) {
    Answer answer = tryOpen(order, units);
    assertThat(answer.status()).as("%s", answer.body()).isEqualTo(201);
    return answer.body();
  }

  private static long line(JsonNode opened) {
    return sheet(opened).path("lines").get(0).path("id").asLong();
  }

  private static Answer arrive(JsonNode opened, boolean restComes, Part... parts) {
    return here.mara()
        .post(path(opened) + "/arrival", Map.of("parts", List.of(parts), "restComes", restComes));
  }

  private static int refund(long order, JsonNode opened, long units) {
    JsonNode sheet = here.mara().read("/api/orders/" + order + "/refunds");
    long line = sheet.path("lines").get(0).path("id").asLong();
    return here.mara()
        .post(
            "/api/orders/" + order + "/refunds",
            Map.of(
                "no", sheet.path("next").asInt(),
                "rma", opened.path("id").asLong(),
                "asked", Map.of("units", Map.of(line, units), "shipping", 0, "fee", 0),
                "reason", "came back"))
        .status();
  }

  private static Answer close(JsonNode opened, String why) {
    return here.mara().post(path(opened) + "/close", Map.of("why", why));
  }

  private static Answer post(JsonNode opened, String what) {
    return here.mara().post(path(opened) + "/" + what, "");
  }

  private static JsonNode sheet(JsonNode opened) {
    return here.mara().read(path(opened));
  }

  private static String stage(JsonNode opened) {
    return sheet(opened).path("card").path("stage").asString();
  }

  private static String path(JsonNode opened) {
    return "/api/returns/" + opened.path("id").asLong();
  }

  private static JsonNode returnable(long order) {
    return here.mara().read("/api/orders/" + order + "/returnable");
  }

  private static int owed() {
    return here.mara().read("/api/today/counts").path("returns").asInt();
  }

  private static String marks(String ref) {
    return here.order(ref).path("marks").toString();
  }

  private static List<String> list(String pile, String search) {
    return here.mara()
        .read("/api/returns?pile=" + pile + "&search=" + search.replace(" ", "%20"))
        .path("part")
        .path("rows")
        .valueStream()
        .map(row -> row.path("number").asString())
        .toList();
  }

  private static List<String> movements(String sku, JsonNode opened) {
    return here.mara()
        .read("/api/stock/movements?item=" + here.itemId(sku))
        .path("rows")
        .valueStream()
        .filter(m -> m.path("note").asString().equals(opened.path("number").asString()))
        .map(m -> m.path("reason").asString() + " " + m.path("quantity").asLong())
        .toList();
  }

  private static void recalled(String lot, boolean whether) {
    here.world()
        .db()
        .update(LOT)
        .set(LOT.RECALLED_AT, whether ? Instant.now() : null)
        .where(LOT.CODE.eq(lot))
        .execute();
  }
}
