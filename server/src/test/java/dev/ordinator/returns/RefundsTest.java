package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.standins.Told;
import dev.ordinator.testing.Caller;
import dev.ordinator.testing.MachineConnection;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What buyers get back, and who is told of it. */
class RefundsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aRefundIsWorkedOutToldAndSettledByTheChannelsYes() {
    long id = placed("RF1", 3);
    JsonNode sheet = sheet(id);
    assertThat(sheet.path("left").asLong()).isEqualTo(3000);
    long line = sheet.path("lines").get(0).path("id").asLong();
    JsonNode preview = here.mara().post(path(id) + "/preview", asked(line, 1, 0, 250)).body();
    assertThat(preview.path("total").asLong()).isEqualTo(750);
    assertThat(preview.path("tenders").get(0).path("method").asString()).isEqualTo("card");
    assertThat(sheet(id).path("refunds").isEmpty()).as("a preview changes nothing").isTrue();

    assertThat(ask(id, 1, asked(line, 1, 0, 250), "came scratched")).isEqualTo(204);
    await("the shop is told")
        .until(() -> !sheet(id).path("refunds").get(0).path("state").asString().equals("ASKED"));
    Told.Refund told = toldOf("RF1").getFirst();
    assertThat(told.amount()).isEqualTo("7.50");
    assertThat(told.lines()).isEqualTo(Map.of("1", 1L));
    assertThat(payment(id)).isEqualTo("PART_REFUNDED");

    here.world().shop().change("RF1", o -> o.withLines(o.lines()));
    await("the shop says again that it is paid").until(() -> revision(id) == 2);
    assertThat(payment(id)).as("which takes no refund back").isEqualTo("PART_REFUNDED");

    assertThat(ask(id, 2, asked(line, 3, 0, 0), "all of it")).as("one is refunded").isEqualTo(422);
    assertThat(ask(id, 2, asked(line, 2, 0, 0), "")).as("no reason").isEqualTo(422);
    assertThat(ask(id, 2, asked(line, 2, 0, 0), "the rest")).isEqualTo(204);
    await("that is told too").until(() -> toldOf("RF1").size() == 2);
    await("and settled")
        .until(() -> sheet(id).path("refunds").get(1).path("state").asString().equals("SETTLED"));
    assertThat(payment(id)).as("the fee was kept").isEqualTo("PART_REFUNDED");
    assertThat(here.mara().read("/api/orders/" + id).path("timeline").toString())
        .contains("7.50 EUR paid back")
        .contains("came scratched");
  }

  @Test
  void ofSixteenWhoAskAtTheSameTimeOneIsHeard() throws Exception {
    long id = placed("RF2", 4);
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    List<Callable<Integer>> all =
        IntStream.range(0, 16)
            .<Callable<Integer>>mapToObj(i -> () -> ask(id, 1, asked(line, 1, 0, 0), "broken"))
            .toList();
    int heard = 0;
    try (var pool = Executors.newFixedThreadPool(16)) {
      for (Future<Integer> answer : pool.invokeAll(all)) {
        assertThat(answer.get()).isIn(204, 409);
        heard += answer.get() == 204 ? 1 : 0;
      }
    }
    assertThat(heard).isEqualTo(1);
    await("the shop is told once").until(() -> toldOf("RF2").size() == 1);
  }

  @Test
  void whatOnlyListensIsNotToldAndItsRefundIsSettledOrWithdrawnByHand() {
    long id = placed("RF3", 2);
    writesBack(false);
    try {
      long line = sheet(id).path("lines").get(0).path("id").asLong();
      assertThat(ask(id, 1, asked(line, 1, 0, 0), "lost")).isEqualTo(204);
      assertThat(ask(id, 2, asked(line, 1, 0, 0), "lost too")).isEqualTo(204);
      JsonNode refunds = sheet(id).path("refunds");
      assertThat(then(id, refunds.get(0), "withdraw")).isEqualTo(204);
      assertThat(then(id, refunds.get(0), "withdraw")).as("once").isEqualTo(409);
      assertThat(then(id, refunds.get(1), "settle")).isEqualTo(204);
      assertThat(sheet(id).path("left").asLong()).isEqualTo(1000);
      assertThat(toldOf("RF3")).isEmpty();
    } finally {
      writesBack(true);
    }
  }

  @Test
  void whatWasPaidTooMuchForAnOrderThatBecameSmallerCanBePaidBack() {
    long id = placed("RF5", 3);
    ShopOrder.Line line = Sample.order("RF5", "TOOL-J", 2).lines().getFirst();
    here.world().shop().change("RF5", o -> o.withLines(List.of(line)));
    here.awaitMark("RF5", "changed by channel");
    assertThat(here.mara().post("/api/orders/" + id + "/take-theirs", "").status()).isEqualTo(204);
    await("one is no longer on it").until(() -> sheet(id).path("excess").asLong() == 1000);
    assertThat(sheet(id).path("left").asLong()).as("what came in stays").isEqualTo(3000);
    Map<String, Object> asked = Map.of("units", Map.of(), "shipping", 0, "excess", 1000, "fee", 0);
    assertThat(ask(id, 1, asked, "one less")).isEqualTo(204);
    assertThat(sheet(id).path("excess").asLong()).isZero();
    assertThat(ask(id, 2, asked, "one less")).as("once").isEqualTo(422);
  }

  @Test
  void aTenderThatDoesNotCoverTheOrderIsNoPaymentUntilTheRestCame() {
    ShopOrder order = Sample.order("RF6", "TOOL-J", 2);
    ShopOrder.Tender card = new ShopOrder.Tender("card", "1.00", "c-1");
    here.world().shop().place(order.withTenders(card));
    await("it is in").until(() -> !here.order("RF6").path("id").isMissingNode());
    long id = here.order("RF6").path("id").asLong();
    assertThat(payment(id)).isEqualTo("UNPAID");
    assertThat(sheet(id).path("left").asLong()).as("what came in").isEqualTo(100);
    here.world()
        .shop()
        .change("RF6", o -> o.withTenders(card, new ShopOrder.Tender("voucher", "19.00", "v-1")));
    await("the rest came").until(() -> payment(id).equals("PAID"));
    assertThat(sheet(id).path("left").asLong()).isEqualTo(2000);
    here.awaitStage("RF6", "RELEASED");
  }

  @Test
  void tendersThatAreLessARefundAreNoMissingPayment() {
    ShopOrder order = Sample.order("RF7", "TOOL-J", 2);
    ShopOrder.Tender card = new ShopOrder.Tender("card", "20.00", "c-7");
    here.world().shop().place(order.withTenders(card));
    long id = here.awaitStage("RF7", "RELEASED").path("id").asLong();
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(ask(id, 1, asked(line, 1, 0, 0), "one is missing")).isEqualTo(204);
    await("the shop paid it back").until(() -> payment(id).equals("PART_REFUNDED"));
    long before = revision(id);
    here.world()
        .shop()
        .change("RF7", o -> o.withTenders(new ShopOrder.Tender("card", "10.00", "c-7")));
    await("it lists what is left of the card").until(() -> revision(id) > before);
    assertThat(payment(id)).isEqualTo("PART_REFUNDED");
    assertThat(sheet(id).path("left").asLong()).isEqualTo(1000);
  }

  @Test
  void whatTheChannelCallsTheTotalIsWhatCameInThoughAnotherPartOfTheOrderChanges() {
    here.world().shop().place(Sample.order("RF8", "TOOL-J", 3).withTotal("25.00"));
    here.awaitMark("RF8", "total differs");
    long id = here.order("RF8").path("id").asLong();
    assertThat(here.mara().post("/api/orders/" + id + "/total/accept", "").status()).isEqualTo(204);
    here.awaitStage("RF8", "RELEASED");
    assertThat(sheet(id).path("left").asLong()).isEqualTo(2500);
    long before = revision(id);
    here.world().shop().change("RF8", o -> o.withGift("Happy birthday"));
    await("the gift's message changed").until(() -> revision(id) > before);
    assertThat(sheet(id).path("left").asLong()).isEqualTo(2500);
  }

  @Test
  void whatNeverCameInIsNotPaidBack() {
    ShopOrder order = Sample.order("RF4", "TOOL-J", 1, Sample.HOME, "authorised", "Home delivery");
    here.world().shop().place(order);
    await("it is in").until(() -> !here.order("RF4").path("id").isMissingNode());
    long id = here.order("RF4").path("id").asLong();
    assertThat(sheet(id).path("left").asLong()).isZero();
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(ask(id, 1, asked(line, 1, 0, 0), "no longer wanted")).isEqualTo(422);
  }

  @Test
  void whatTheChannelPaidBackByItselfIsNotPaidBackAgain() {
    Caller till = till("RTILL");
    long id = sold(till, "RF5", "PAID", "");
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(sheet(id).path("left").asLong()).isEqualTo(2000);
    change(till, "RF5", 2, "REFUNDED", "");
    assertThat(sheet(id).path("left").asLong()).isZero();
    assertThat(ask(id, 2, asked(line, 2, 0, 0), "they came back")).isEqualTo(422);
    assertThat(payment(id)).isEqualTo("REFUNDED");
  }

  @Test
  void aPartPaidBackSettlesOnlyWhatItIsEnoughFor() {
    Caller till = till("PTILL");
    long id = sold(till, "TILL6", "PAID", "");
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(ask(id, 1, asked(line, 1, 0, 0), "scratched")).isEqualTo(204);
    change(till, "TILL6", 2, "PART_REFUNDED", "");
    assertThat(sheet(id).path("refunds").get(0).path("state").asString())
        .as("how much is not said")
        .isEqualTo("ASKED");
    change(till, "TILL6", 3, "PART_REFUNDED", ",\"refunded\":400");
    JsonNode refunds = sheet(id).path("refunds");
    assertThat(refunds.get(0).path("state").asString()).as("10.00 of it").isEqualTo("ASKED");
    assertThat(refunds.get(1).path("amount").asLong()).as("by itself").isEqualTo(400);
    change(till, "TILL6", 4, "PART_REFUNDED", ",\"refunded\":1400");
    refunds = sheet(id).path("refunds");
    assertThat(refunds.get(0).path("state").asString()).isEqualTo("SETTLED");
    assertThat(refunds.size()).as("and no more").isEqualTo(2);
    assertThat(sheet(id).path("left").asLong()).isEqualTo(600);
  }

  @Test
  void whatCameInForACancelledOrderWaitsForAPersonUntilItIsAskedBackOrKept() {
    long id = placed("RF20", 2);
    assertThat(cancel(id)).isEqualTo(204);
    assertThat(snag(id).path("detail").asString()).contains("20.00 EUR came in");
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(ask(id, 1, asked(line, 1, 0, 50), "cancelled")).isEqualTo(204);
    assertThat(sheet(id).path("excess").asLong()).as("a fee is kept").isZero();
    assertThat(snag(id).path("detail").asString()).as("the rest").contains("10.00 EUR came in");
    assertThat(ask(id, 2, asked(line, 1, 0, 0), "cancelled")).isEqualTo(204);
    assertThat(snag(id).isMissingNode()).as("all is asked back").isTrue();

    long kept = placed("RF21", 1);
    assertThat(cancel(kept)).isEqualTo(204);
    assertThat(keep(kept, "")).isEqualTo(422);
    assertThat(keep(kept, "the buyer has a voucher for it")).isEqualTo(204);
    assertThat(snag(kept).isMissingNode()).isTrue();
    assertThat(here.mara().read("/api/orders/" + kept).path("timeline").toString())
        .contains("Not paid back", "the buyer has a voucher for it");
    assertThat(keep(kept, "again")).as("once").isEqualTo(409);

    here.world()
        .shop()
        .place(Sample.order("RF22", "TOOL-J", 1, Sample.HOME, "unpaid", "Home delivery"));
    await("it is in").until(() -> !here.order("RF22").path("id").isMissingNode());
    long unpaid = here.order("RF22").path("id").asLong();
    assertThat(cancel(unpaid)).isEqualTo(204);
    assertThat(snag(unpaid).isMissingNode()).as("nothing came in").isTrue();
  }

  @Test
  void aPaymentThatAPersonNotesPaysTheOrderOnceAllOfItIsThereAndCanBePaidBack() {
    here.world()
        .shop()
        .place(Sample.order("RF23", "TOOL-J", 2, Sample.HOME, "unpaid", "Home delivery"));
    await("it is in").until(() -> !here.order("RF23").path("id").isMissingNode());
    long id = here.order("RF23").path("id").asLong();
    assertThat(pay(id, 0, "T-1")).isEqualTo(422);
    assertThat(pay(id, 1500, "T-1")).isEqualTo(204);
    assertThat(pay(id, 1500, "T-1")).as("twice").isEqualTo(409);
    assertThat(payment(id)).isEqualTo("UNPAID");
    assertThat(pay(id, 500, "T-2")).isEqualTo(204);
    assertThat(payment(id)).isEqualTo("PAID");
    here.awaitStage("RF23", "RELEASED");
    assertThat(pay(id, 100, "T-3")).as("it is paid").isEqualTo(409);
    assertThat(sheet(id).path("left").asLong()).isEqualTo(2000);
  }

  private static int pay(long id, long amount, String reference) {
    return here.mara()
        .post(
            "/api/orders/" + id + "/payments",
            Map.of("method", "bank transfer", "amount", amount, "reference", reference))
        .status();
  }

  @Test
  void unitsThatAPersonCancelsAreTakenBackAndTheRestGoesOn() {
    long id = placed("RF24", 3);
    long line = sheet(id).path("lines").get(0).path("id").asLong();
    assertThat(cancelUnits(id, line, 4)).as("more than it has").isEqualTo(422);
    assertThat(cancelUnits(id, line, Long.MAX_VALUE)).isEqualTo(422);
    assertThat(cancelUnits(id, line, 1)).isEqualTo(204);
    await("the rest goes on")
        .until(() ->
            here.mara()
                .read("/api/orders/" + id)
                .path("consignments")
                .valueStream()
                .anyMatch(c ->
                    c.path("state").asString().equals("RELEASED")
                        && c.path("units").asLong() == 2));
    assertThat(snag(id).path("detail").asString()).contains("10.00 EUR came in");
    JsonNode packed =
        here.mara()
            .read("/api/orders/" + id)
            .path("consignments")
            .valueStream()
            .filter(c -> c.path("state").asString().equals("RELEASED"))
            .findFirst()
            .orElseThrow();
    Packer.pack(here.mara(), packed.path("id").asLong());
    assertThat(cancelUnits(id, line, 1)).as("somebody packs it").isEqualTo(409);
  }

  private static int cancelUnits(long id, long line, long units) {
    return here.mara()
        .post(
            "/api/orders/" + id + "/cancel-units",
            Map.of("units", Map.of(line, units), "reason", "too many"))
        .status();
  }

  private static int cancel(long id) {
    return here.mara()
        .post("/api/orders/" + id + "/cancel", Map.of("reason", "no longer wanted"))
        .status();
  }

  private static int keep(long id, String why) {
    return here.mara().post(path(id) + "/kept", Map.of("reason", why)).status();
  }

  private static JsonNode snag(long id) {
    return here.mara()
        .read("/api/orders/" + id)
        .path("snags")
        .valueStream()
        .filter(s -> s.path("cause").asString().equals("MONEY_TO_RETURN"))
        .findFirst()
        .orElseGet(() -> Visitor.nothing());
  }

  private static Caller till(String code) {
    long connection =
        MachineConnection.connect(here.mara(), code, code.substring(0, 2) + "-", Map.of());
    return new Caller(
        here.world().address(),
        MachineConnection.token(here.mara(), connection, List.of("ORDERS_WRITE")));
  }

  private static long sold(Caller till, String ref, String state, String more) {
    assertThat(till.post("/api/machine/orders", ref, message(ref, 1, state, more)).status())
        .isEqualTo(201);
    await("it is in").until(() -> !here.order(ref).path("id").isMissingNode());
    return here.order(ref).path("id").asLong();
  }

  private static void change(Caller till, String ref, int revision, String state, String more) {
    assertThat(
            till.change("PUT", "/api/machine/orders/" + ref, message(ref, revision, state, more))
                .status())
        .isEqualTo(200);
  }

  private static String message(String ref, int revision, String state, String more) {
    return """
    {"id":"%s","revision":%d,"placedAt":"2026-11-25T09:00:00Z","buyer":{"name":"Marit"},\
    "shipTo":{"name":"Marit","street":"Lindepad 12","postcode":"1012 AB","city":"Amsterdam",\
    "country":"NL"},"service":"Standard","payment":{"state":"%s"%s},\
    "lines":[{"id":"1","sku":"TOOL-J","quantity":2,"price":1000}]}
    """
        .formatted(ref, revision, state, more);
  }

  private static long placed(String ref, long units) {
    here.world().shop().place(Sample.order(ref, "TOOL-J", units));
    return here.awaitStage(ref, "RELEASED").path("id").asLong();
  }

  private static List<Told.Refund> toldOf(String ref) {
    return here.world().shop().told().refunds().stream()
        .filter(r -> r.orderId().equals(ref))
        .toList();
  }

  private static Map<String, Object> asked(long line, long units, long shipping, long fee) {
    return Map.of("units", Map.of(line, units), "shipping", shipping, "fee", fee);
  }

  private static int ask(long id, int no, Map<String, Object> asked, String reason) {
    return here.mara().post(path(id), Map.of("no", no, "asked", asked, "reason", reason)).status();
  }

  private static int then(long id, JsonNode refund, String what) {
    return here.mara().post(path(id) + "/" + refund.path("id").asLong() + "/" + what, "").status();
  }

  private static JsonNode sheet(long id) {
    return here.mara().read(path(id));
  }

  private static String path(long id) {
    return "/api/orders/" + id + "/refunds";
  }

  private static String payment(long id) {
    return here.mara().read("/api/orders/" + id).path("payment").asString();
  }

  private static long revision(long id) {
    return here.world()
        .db()
        .select(SALES_ORDER.EXTERNAL_REV)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(id))
        .fetchSingle()
        .value1();
  }

  private static void writesBack(boolean whether) {
    here.world()
        .db()
        .update(CHANNEL)
        .set(CHANNEL.WRITES_BACK, whether)
        .where(CHANNEL.CODE.eq("WEB"))
        .execute();
  }
}
