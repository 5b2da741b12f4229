package dev.ordinator.core.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class DatesAndCarriageTest {
  private static final LocalDate TUESDAY = LocalDate.parse("2026-11-24");
  private static final Set<LocalDate> CHRISTMAS = Set.of(LocalDate.parse("2026-12-25"));

  private static Node node(String workdays, String cutOff, int processingDays) {
    return new Node(
        "STW",
        NodeKind.WAREHOUSE,
        "NL",
        ZoneId.of("Europe/Amsterdam"),
        WorkCalendar.parse(workdays, CHRISTMAS),
        LocalTime.parse(cutOff),
        processingDays,
        new Handling(0, 0, 0),
        Set.of());
  }

  private static Lane lane(String workdays, int transitDays) {
    return new Lane(
        "STW",
        "NL",
        "HERON",
        "STD",
        ServiceLevel.STANDARD,
        WorkCalendar.parse(workdays, Set.of()),
        transitDays,
        new RateTable(List.of(new RateTable.Step(1000, 100))),
        Set.of());
  }

  @Test
  void aReleaseAtTheCutOffStillLeavesThatDayAndAMinuteLaterTheNext() {
    // Amsterdam is an hour ahead of UTC in November
    assertThat(node("MON-FRI", "15:00", 0).handOverDay(Instant.parse("2026-11-24T14:00:00Z")))
        .isEqualTo(TUESDAY);
    assertThat(node("MON-FRI", "15:00", 0).handOverDay(Instant.parse("2026-11-24T14:00:01Z")))
        .isEqualTo(TUESDAY.plusDays(1));
  }

  @Test
  void weekendsAndHolidaysAreSkippedAlsoWhileProcessing() {
    assertThat(node("MON-FRI", "15:00", 0).handOverDay(Instant.parse("2026-11-28T08:00:00Z")))
        .as("Saturday → Monday")
        .isEqualTo(LocalDate.parse("2026-11-30"));
    assertThat(node("MON-FRI", "15:00", 1).handOverDay(Instant.parse("2026-12-24T08:00:00Z")))
        .as("Thursday + 1, over Christmas and the weekend")
        .isEqualTo(LocalDate.parse("2026-12-28"));
  }

  @Test
  void theDayIsTheNodesOwn() {
    assertThat(node("MON-SUN", "23:59", 0).handOverDay(Instant.parse("2026-11-24T23:30:00Z")))
        .as("half past midnight in Amsterdam")
        .isEqualTo(LocalDate.parse("2026-11-25"));
  }

  @Test
  void transitCountsTheLanesDaysFromTheDayAfter() {
    assertThat(lane("MON-SAT", 0).arrival(LocalDate.parse("2026-11-29")))
        .isEqualTo(LocalDate.parse("2026-11-29"));
    assertThat(lane("MON-SAT", 1).arrival(LocalDate.parse("2026-11-28")))
        .as("Saturday → Monday")
        .isEqualTo(LocalDate.parse("2026-11-30"));
    assertThat(lane("MON-FRI", 3).arrival(TUESDAY)).isEqualTo(LocalDate.parse("2026-11-27"));
  }

  @Test
  void theShipByDateIsTheLatestDayThatStillArrivesInTime() {
    Random random = new Random(7);
    for (int round = 0; round < 500; round++) {
      WorkCalendar workdays =
          WorkCalendar.parse(random.nextBoolean() ? "MON-FRI" : "TUE-SAT", CHRISTMAS);
      Lane lane = lane(random.nextBoolean() ? "MON-SAT" : "MON-FRI", random.nextInt(5));
      LocalDate arriveBy = TUESDAY.plusDays(random.nextInt(60));
      LocalDate shipBy = lane.shipBy(arriveBy, workdays);
      assertThat(lane.arrival(shipBy)).as("round %d", round).isBeforeOrEqualTo(arriveBy);
      assertThat(workdays.works(shipBy)).isTrue();
      LocalDate next = workdays.sameOrNext(shipBy.plusDays(1));
      assertThat(next.isAfter(arriveBy) || lane.arrival(next).isAfter(arriveBy))
          .as("round %d: a day later would be too late", round)
          .isTrue();
    }
  }

  @Test
  void carriageGoesByStepsAndAboveTheTopByFullParcels() {
    RateTable rates =
        new RateTable(
            List.of(
                new RateTable.Step(2000, 420),
                new RateTable.Step(10000, 690),
                new RateTable.Step(30000, 1190)));
    assertThat(rates.carriage(0)).isEqualTo(420);
    assertThat(rates.carriage(2000)).isEqualTo(420);
    assertThat(rates.carriage(2001)).isEqualTo(690);
    assertThat(rates.carriage(30000)).isEqualTo(1190);
    assertThat(rates.carriage(30001)).isEqualTo(1190 + 420);
    assertThat(rates.carriage(60000)).as("no remainder costs nothing").isEqualTo(2 * 1190);
    assertThat(rates.carriage(65000)).isEqualTo(2 * 1190 + 690);
  }

  @Test
  void theLongestPrefixDecidesTheZoneAndTiesGoToTheFirst() {
    Zone benelux =
        new Zone(
            "BENELUX",
            List.of(new Zone.Match("NL", List.of()), new Zone.Match("BE", List.of("1", "20"))));
    Zone islands = new Zone("ISLANDS", List.of(new Zone.Match("NL", List.of("8881", "9166"))));
    Zone again = new Zone("AGAIN", List.of(new Zone.Match("NL", List.of("8881"))));
    Zones zones = new Zones(List.of(benelux, islands, again));
    assertThat(zones.of(new Destination("NL", "1012 AB"))).contains(benelux);
    assertThat(zones.of(new Destination("NL", "8881 ab"))).contains(islands);
    assertThat(zones.of(new Destination("BE", "2000"))).contains(benelux);
    assertThat(zones.of(new Destination("BE", "3000"))).isEmpty();
    assertThat(zones.of(new Destination("DE", "10115"))).isEmpty();
  }

  @Test
  void weekdaysAreReadAsRangesAndLists() {
    assertThat(WorkCalendar.parse("SAT-MON,WED", Set.of()).workdays())
        .containsExactlyInAnyOrder(
            DayOfWeek.SATURDAY, DayOfWeek.SUNDAY, DayOfWeek.MONDAY, DayOfWeek.WEDNESDAY);
    assertThatIllegalArgumentException().isThrownBy(() -> WorkCalendar.parse("MON-XYZ", Set.of()));
    assertThatIllegalArgumentException().isThrownBy(() -> WorkCalendar.parse("", Set.of()));
  }
}
