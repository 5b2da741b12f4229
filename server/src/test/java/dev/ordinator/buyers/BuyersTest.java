package dev.ordinator.buyers;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.ShortWorld;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What buyers are told and asked, and how long they wait. */
class BuyersTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();
  private final ShortWorld world = new ShortWorld(here);

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aPromiseStaysWhenTheSupplySlipsAndIsListedUntilTheBuyerIsTold() {
    long item = world.stocked("SMOKER-L", 0);
    long supply = world.expect(item, 5, 6);
    world.waits("P1", "SMOKER-L", 3);
    String promised = world.awaitPromise("P1");
    assertThat(LocalDate.parse(promised)).isAfter(LocalDate.parse(world.day(6)));

    here.mara().post("/api/stock/expected/" + supply + "/slip", Map.of("due", world.day(16)));
    await("it breaks").until(() -> world.breaking("P1") != null);
    JsonNode breaks = Objects.requireNonNull(world.breaking("P1"));
    assertThat(breaks.path("promisedOn").asString()).isEqualTo(promised);
    String expected = breaks.path("expectedOn").asString();
    assertThat(LocalDate.parse(expected)).isAfter(LocalDate.parse(promised).plusDays(6));

    JsonNode told = here.mara().post("/api/backorders/promises/tell", world.orders("P1")).body();
    assertThat(told.path("done").asInt()).isEqualTo(1);
    assertThat(world.breaking("P1")).isNull();
    JsonNode sheet = world.sheet("P1");
    assertThat(sheet.path("promises")).hasSize(2);
    assertThat(sheet.path("promises").get(0).path("arrivesOn").asString()).isEqualTo(expected);
    await("the letter is in the timeline").until(() -> world.timeline("P1").contains("Mail sent"));
  }

  @Test
  void aBuyerWhoIsAskedCancelsWhatIsMissingByTheLinkAndOnlyOnce() {
    long item = world.stocked("BRUSH", 0);
    world.expect(item, 50, 9);
    world.waits("A1", "BRUSH", 4);
    world.awaitPromise("A1");
    assertThat(
            here.mara()
                .post("/api/backorders/promises/ask", world.orders("A1"))
                .body()
                .path("done")
                .asInt())
        .isEqualTo(1);
    JsonNode again = here.mara().post("/api/backorders/promises/ask", world.orders("A1")).body();
    assertThat(again.path("refused").get(0).path("why").asString()).contains("asked already");
    String path = world.linkFor("A1");
    assertThat(world.visit(path).body())
        .contains("4 × Listing of BRUSH", "I will wait", "Cancel what is missing");
    assertThat(world.visit(path.substring(0, path.length() - 2) + "xx").statusCode())
        .as("a link that we did not make")
        .isEqualTo(404);
    world.fill(path, "answer=CANCEL");
    here.awaitStage("A1", "CANCELLED");
    assertThat(world.visit(path).body()).contains("We have cancelled what was missing");
    world.fill(path, "answer=WAIT");
    assertThat(here.order("A1").path("stage").asString()).isEqualTo("CANCELLED");
    assertThat(world.queue(item)).isEmpty();
  }

  @Test
  void silenceOfABuyerWhoWasNeverReachedIsNoAnswer() {
    world.stocked("SCALE", 0);
    world.terms(true, "SNAG", null, false, null);
    run("update channel set no_answer = 'CANCEL', mail_waiting = false");
    world.waits("Q1", "SCALE", 1);
    JsonNode off = here.mara().post("/api/backorders/promises/ask", world.orders("Q1")).body();
    assertThat(off.path("refused").get(0).path("why").asString()).contains("no such mails");

    run("update channel set mail_waiting = true");
    JsonNode asked = here.mara().post("/api/backorders/promises/ask", world.orders("Q1")).body();
    assertThat(asked.path("done").asInt()).isEqualTo(1);
    await("the letter left").until(() -> world.timeline("Q1").contains("Mail sent"));
    run("update buyer_question set asked_at = '2026-01-01', due_at = '2026-01-06'");
    run("update outbox set state = 'DEAD', done_at = null where kind = 'BUYER'");
    here.world().bean(Patience.class).look();
    assertThat(world.marks("Q1")).as("as if it had not left").contains("waiting for stock");
    run("update outbox set state = 'DONE', done_at = now(3) where kind = 'BUYER'");
    here.world().bean(Patience.class).look();
    assertThat(world.marks("Q1")).as("the buyer has five days").contains("waiting for stock");
    run("update outbox set done_at = now(3) - interval 6 day where kind = 'BUYER'");
    here.world().bean(Patience.class).look();
    here.awaitStage("Q1", "CANCELLED");
    run("update channel set no_answer = 'WAIT'");
  }

  private static void run(String sql) {
    here.world().db().execute(sql);
  }

  @Test
  void whatHasWaitedTooLongIsWarnedOfThenCancelledButNotIfItIsThereThatDay() {
    long item = world.stocked("SCALE", 0);
    world.terms(true, "SNAG", null, false, 10);
    world.waits("C1", "SCALE", 1);
    world.waits("C2", "SCALE", 2);
    waitedFor("C1", 8);
    here.world().bean(Patience.class).look();
    assertThat(world.timeline("C1")).contains("Will be cancelled on");
    assertThat(world.timeline("C2")).doesNotContain("Will be cancelled on");
    await("the warning went out").until(() -> world.timeline("C1").contains("Mail sent"));
    waitedFor("C1", 11);
    here.world().bean(Patience.class).look();
    assertThat(world.marks("C1"))
        .as("it was warned just now: it has its days")
        .contains("waiting for stock");
    here.world()
        .db()
        .update(OUTBOX)
        .set(OUTBOX.DONE_AT, Instant.now().minus(4, ChronoUnit.DAYS))
        .where(OUTBOX.ORDER_ID.eq(world.orderId("C1")))
        .execute();
    here.world().bean(Patience.class).look();
    here.awaitStage("C1", "CANCELLED");
    assertThat(world.marks("C2")).contains("waiting for stock");
    world.terms(true, "SNAG", null, false, null);
    assertThat(world.queue(item)).hasSize(1);
  }

  @Test
  void whatArrivesByThePromisedDayIsNotCancelledAndNobodyIsCancelledUnwarned() {
    long item = world.stocked("GLOVE-LEA-9", 0);
    world.expect(item, 50, 20);
    world.waits("C4", "GLOVE-LEA-9", 1);
    world.awaitPromise("C4");
    world.terms(true, "SNAG", null, false, 10);
    waitedFor("C4", 30);
    here.world().bean(Patience.class).look();
    assertThat(world.marks("C4")).contains("waiting for stock");
    assertThat(world.timeline("C4")).doesNotContain("Will be cancelled");

    long other = world.stocked("SCALE", 0);
    world.waits("C5", "SCALE", 1);
    waitedFor("C5", 30);
    here.world().bean(Patience.class).look();
    assertThat(world.timeline("C5")).as("warned first, however late").contains("Will be cancelled");
    assertThat(world.marks("C5")).contains("waiting for stock");
    world.terms(true, "SNAG", null, false, null);
    assertThat(world.queue(other)).isNotEmpty();
  }

  @Test
  void whoCannotBeWarnedIsAPersonsBusinessAndAskedOfOnce() {
    world.stocked("GLOVE-LEA-10", 0);
    world.waits("C6", "GLOVE-LEA-10", 1);
    here.world()
        .db()
        .update(SALES_ORDER)
        .set(SALES_ORDER.EMAIL, "")
        .where(SALES_ORDER.ID.eq(world.orderId("C6")))
        .execute();
    world.terms(true, "SNAG", null, false, 10);
    waitedFor("C6", 30);
    here.world().bean(Patience.class).look();
    here.world().bean(Patience.class).look();
    assertThat(world.snags("C6")).contains("could not be warned");
    assertThat(world.marks("C6")).contains("waiting for stock");
    here.mara().post("/api/orders/" + world.orderId("C6") + "/let-wait", "");
    assertThat(world.snags("C6")).doesNotContain("could not be warned");
    here.world().bean(Patience.class).look();
    assertThat(world.snags("C6")).as("it was decided").doesNotContain("could not be warned");
    world.terms(true, "SNAG", null, false, null);
  }

  @Test
  void theLinkSaysWhatIsTrueOfThisMoment() {
    long item = world.stocked("BRUSH", 0);
    world.expect(item, 50, 9);
    world.waits("A2", "BRUSH", 4);
    world.awaitPromise("A2");
    here.mara().post("/api/backorders/promises/ask", world.orders("A2"));
    String path = world.linkFor("A2");
    here.mara()
        .post("/api/orders/" + world.orderId("A2") + "/cancel", Map.of("reason", "by telephone"));
    here.awaitStage("A2", "CANCELLED");
    assertThat(world.visit(path).body()).contains("is cancelled").doesNotContain("I will wait");
    world.fill(path, "answer=WAIT");
    assertThat(world.timeline("A2")).doesNotContain("The buyer waits");
  }

  @Test
  void whoSaidToWaitHasAllDaysAgain() {
    long item = world.stocked("MARK-PEN", 0);
    world.expect(item, 50, 9);
    world.waits("C3", "MARK-PEN", 1);
    world.awaitPromise("C3");
    here.mara().post("/api/backorders/promises/ask", world.orders("C3"));
    world.fill(world.linkFor("C3"), "answer=WAIT");
    world.terms(true, "SNAG", null, false, 10);
    waitedFor("C3", 40);
    here.world().bean(Patience.class).look();
    assertThat(world.marks("C3")).contains("waiting for stock");
    assertThat(world.timeline("C3"))
        .contains("The buyer waits")
        .doesNotContain("Will be cancelled");
    world.terms(true, "SNAG", null, false, null);
  }

  /** So many days have passed since it joined the queue. */
  private void waitedFor(String id, int days) {
    here.world()
        .db()
        .update(BACKORDER)
        .set(BACKORDER.SINCE, Instant.now().minus(days, ChronoUnit.DAYS))
        .where(BACKORDER.ORDER_ID.eq(world.orderId(id)))
        .execute();
  }
}
