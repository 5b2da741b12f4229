package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.select;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Parcels that don't arrive as they should. */
class ParcelTroubleTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeAll
  static void parcelsTakeTheirTime() {
    here.world().standIns().carrier().pace(Duration.ofDays(1));
  }

  @AfterAll
  static void asEverywhere() {
    here.world().standIns().carrier().pace(Duration.ZERO);
  }

  @Test
  void oneThatIsOnItsWayBackWaitsForAPerson() {
    long order = sent("PT1");
    here.world().standIns().carrier().mishap(tracking(order), "RETURNED");
    here.awaitMark("PT1", "parcel trouble");
    assertThat(snag(order).path("detail").asString()).contains("on its way back to the sender");
    settle(order);
    assertThat(snag(order).isMissingNode()).isTrue();
  }

  @Test
  void oneOfWhichNothingIsHeardForDaysWaitsForAPersonOnceUntilItIsSilentAsLongAgain() {
    long order = sent("PT2");
    aged(order, Duration.ofDays(5));
    here.awaitMark("PT2", "parcel trouble");
    assertThat(snag(order).path("detail").asString()).contains("no news of it since");
    settle(order);
    Instant asked = askedNow(order);
    await("it is asked about again").until(() -> next(order).isAfter(asked));
    assertThat(snag(order).isMissingNode()).isTrue();
  }

  @Test
  void oneThatIsNotDeliveredAfterAMonthIsNotAskedAboutAnyMore() {
    long order = sent("PT3");
    aged(order, Duration.ofDays(31));
    here.awaitMark("PT3", "not tracked");
    assertThat(
            here.world()
                .db()
                .fetchExists(
                    PARCEL, PARCEL.TRACKING.eq(tracking(order)).and(PARCEL.NEXT_TRACK_AT.isNull())))
        .isTrue();
    Instant before = Instant.now();
    assertThat(here.mara().post("/api/orders/" + order + "/try-again", "").status()).isEqualTo(204);
    await("it is asked about again, and goes on to be")
        .until(() -> next(order).isAfter(before.plusSeconds(1)));
  }

  @Test
  void oneThatShouldHaveArrivedIsMarkedAndListed() {
    long order = sent("PT4");
    here.world()
        .db()
        .update(CONSIGNMENT)
        .set(CONSIGNMENT.ARRIVAL_ON, LocalDate.now().minusDays(2))
        .where(CONSIGNMENT.ORDER_ID.eq(order))
        .execute();
    here.awaitMark("PT4", "late");
    JsonNode late = here.mara().read("/api/dispatch/consignments?doing=ASK_CARRIER");
    assertThat(late.findValuesAsString("orderId")).contains(Long.toString(order));
    assertThat(here.mara().read("/api/today").path("late").asInt()).isEqualTo(late.size());

    here.world()
        .db()
        .update(CONSIGNMENT)
        .set(
            CONSIGNMENT.NODE_ID,
            select(NODE.ID).from(NODE).where(NODE.KIND.eq("CHANNEL_DEPOT")).limit(1))
        .where(CONSIGNMENT.ORDER_ID.eq(order))
        .execute();
    assertThat(here.mara().read("/api/dispatch/consignments?doing=ASK_CARRIER"))
        .as("what a channel’s depot sends we hear nothing of")
        .hasSize(late.size() - 1);
  }

  private static long sent(String id) {
    here.world().shop().place(Sample.order(id, "BRUSH", 1));
    long order = here.awaitStage(id, "RELEASED").path("id").asLong();
    Packer.packAndHandOver(here.world(), order);
    await("the carrier has it")
        .until(() ->
            here.world()
                .db()
                .fetchExists(
                    PARCEL,
                    PARCEL.TRACKING.eq(tracking(order)).and(PARCEL.LAST_SCAN_AT.isNotNull())));
    return order;
  }

  /** As if it had left, and been heard of, so long ago. */
  private static void aged(long order, Duration ago) {
    Instant then = Instant.now().minus(ago);
    var db = here.world().db();
    db.update(CONSIGNMENT)
        .set(CONSIGNMENT.HANDED_OVER_AT, then)
        .where(CONSIGNMENT.ORDER_ID.eq(order))
        .execute();
    db.update(PARCEL)
        .set(PARCEL.LAST_SCAN_AT, then)
        .set(PARCEL.NEXT_TRACK_AT, Instant.now())
        .where(PARCEL.TRACKING.eq(tracking(order)))
        .execute();
  }

  private static Instant askedNow(long order) {
    Instant now = Instant.now();
    here.world()
        .db()
        .update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, now)
        .where(PARCEL.TRACKING.eq(tracking(order)))
        .execute();
    return now.plusMillis(100);
  }

  private static Instant next(long order) {
    return here.world()
        .db()
        .select(PARCEL.NEXT_TRACK_AT)
        .from(PARCEL)
        .where(PARCEL.TRACKING.eq(tracking(order)))
        .fetchSingle()
        .value1();
  }

  private static String tracking(long order) {
    return here.world()
        .db()
        .select(PARCEL.TRACKING)
        .from(PARCEL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(order))
        .fetchSingle()
        .value1();
  }

  private static JsonNode snag(long order) {
    return StreamSupport.stream(
            here.mara().read("/api/orders/" + order).path("snags").spliterator(), false)
        .filter(s -> s.path("cause").asString().equals("PARCEL_TROUBLE"))
        .findFirst()
        .orElseGet(() -> here.mara().read("/api/orders/" + order).path("nothing"));
  }

  private static void settle(long order) {
    assertThat(here.mara().post("/api/orders/" + order + "/parcels/settle", "").status())
        .isEqualTo(204);
  }
}
