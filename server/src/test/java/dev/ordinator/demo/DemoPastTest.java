package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SUPPLIER_OFFER;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.doctor.Doctor;
import dev.ordinator.testing.SeedWorld;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * The demo world can be made on any day and at any hour, and every trouble of the trade is in it.
 * Two telling moments are tried each time; with {@code -Ddemo.moments=all} weekdays, clock changes,
 * month ends, each hour of a day and a year's sample as well.
 */
class DemoPastTest {
  private static final int DAYS = 21;
  private static final int ORDERS = 24;

  private static SeedWorld world;

  @BeforeAll
  static void start() throws Exception {
    world = new SeedWorld();
  }

  @AfterAll
  static void end() {
    world.close();
  }

  private static final List<String> TELLING =
      List.of(
          "2026-12-01T09:40:00Z", // Tuesday: two numbers came back as one part
          "2027-01-01T00:00:00Z"); // Friday, a holiday, midnight

  private static final List<String> FURTHER =
      List.of(
          "2027-03-28T01:00:00Z", // Sunday, clocks go forward in this moment
          "2028-02-29T12:00:00Z", // Tuesday, leap day, noon
          "2026-12-27T23:59:59Z", // Sunday after two holidays
          "2026-10-25T01:00:00Z", // Sunday, clocks go back in this moment
          "2027-04-30T22:10:00Z", // Friday, already May in the merchant's zone
          "2027-03-01T05:20:00Z", // Monday, the season that was sold ahead begins
          "2026-07-15T16:45:00Z", // Wednesday, after the cut-offs
          "2026-09-24T13:00:00Z", // Thursday
          "2026-05-16T18:30:00Z"); // Saturday

  static Stream<Instant> moments() {
    Stream<Instant> telling = TELLING.stream().map(Instant::parse);
    if (!System.getProperty("demo.moments", "").equals("all")) {
      return telling;
    }
    Stream<Instant> further = FURTHER.stream().map(Instant::parse);
    return Stream.of(telling, further, hoursOfADay(), samplesOfAYear()).flatMap(m -> m);
  }

  private static Stream<Instant> hoursOfADay() {
    Instant midnight = Instant.parse("2026-12-04T00:17:00Z");
    return IntStream.range(0, 24).mapToObj(hour -> midnight.plus(Duration.ofHours(hour)));
  }

  /** Every eleventh day of a leap year, each at another hour. */
  private static Stream<Instant> samplesOfAYear() {
    return IntStream.iterate(0, day -> day < 366, day -> day + 11)
        .mapToObj(day ->
            LocalDate.of(2028, 1, 1)
                .plusDays(day)
                .atTime(day * 7 % 24, 33)
                .toInstant(ZoneOffset.UTC));
  }

  @ParameterizedTest
  @MethodSource("moments")
  void whenItEndsEveryTroubleOfTheTradeIsThereAndTheBooksAreRight(Instant end) throws Exception {
    world.make(end, DAYS, ORDERS);

    assertThat(world.bean(Doctor.class).look())
        .extracting(Doctor.Finding::trouble)
        .containsOnly("");
    DSLContext db = world.db();
    assertThat(
            db.selectDistinct(SNAG.CAUSE)
                .from(SNAG)
                .where(SNAG.CLOSED_AT.isNull())
                .fetchSet(SNAG.CAUSE))
        .as("what waits for a person")
        .contains(
            "UNMATCHED_LISTING", "UNKNOWN_SERVICE", "BAD_ADDRESS", "CHOICE_OPEN", "FEED_HELD");
    assertThat(db.selectDistinct(RMA.STATE).from(RMA).fetchSet(RMA.STATE))
        .as("steps of returns")
        .containsAll(Set.of("AWAITED", "ARRIVED", "CLOSED", "CALLED_OFF"));
    assertThat(db.fetchCount(SALES_ORDER, SALES_ORDER.PAYMENT_STATE.eq("UNPAID")))
        .as("payments awaited")
        .isPositive();
    assertThat(db.fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue()))
        .as("orders that wait for foundation, and for the season")
        .isGreaterThanOrEqualTo(4);
    LocalDate slipped = LocalDate.ofInstant(end, ZoneId.of("Europe/Amsterdam")).plusDays(16);
    assertThat(db.fetchCount(EXPECTED_SUPPLY, EXPECTED_SUPPLY.DUE.eq(slipped)))
        .as("supplies that slipped")
        .isPositive();
    assertThat(db.fetchCount(EVENT, EVENT.KIND.eq("REFUSED").and(EVENT.AT.gt(days(end, 5)))))
        .as("refusals of late")
        .isPositive();
    assertThat(unanswered(db)).as("consignments that a supplier does not answer").isPositive();
    assertThat(
            db.fetchCount(
                PARCEL, PARCEL.LAST_SCAN_AT.lt(days(end, 4)).and(PARCEL.NEXT_TRACK_AT.isNotNull())))
        .as("parcels without a scan for four days")
        .isPositive();
    assertThat(
            db.fetchCount(
                SUPPLIER_OFFER,
                SUPPLIER_OFFER.CODE.eq("QC-101").and(SUPPLIER_OFFER.PRICE.eq(540L))))
        .as("offers that got dearer")
        .isOne();
    long guild = ofGuild(db, "EUR") + ofGuild(db, "CHF");
    assertThat(ofGuild(db, "CHF") * 3).as("a third is in francs").isBetween(guild - 2, guild + 2);
    assertThat(db.fetchCount(SALES_ORDER)).as("orders").isGreaterThan(ORDERS);
  }

  private static Instant days(Instant end, int before) {
    return end.minus(Duration.ofDays(before));
  }

  private static long ofGuild(DSLContext db, String currency) {
    return db.fetchCount(
        SALES_ORDER, SALES_ORDER.NUMBER.startsWith("AG-").and(SALES_ORDER.CURRENCY.eq(currency)));
  }

  private static int unanswered(DSLContext db) {
    return db.fetchCount(
        db.selectOne()
            .from(CONSIGNMENT)
            .join(NODE)
            .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
            .where(NODE.KIND.eq("SUPPLIER"))
            .and(CONSIGNMENT.STATE.eq("RELEASED")));
  }
}
