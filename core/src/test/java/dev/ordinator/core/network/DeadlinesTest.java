package dev.ordinator.core.network;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** How much time there is for an order. */
class DeadlinesTest {
  /** Friday, before the cut-off. */
  private static final Instant NOW = Instant.parse("2026-11-27T09:00:00Z");

  private static final LocalDate THURSDAY = LocalDate.parse("2026-12-03");
  private static final Destination HERE = new Destination("NL", "1012 AB");
  private static final Deadlines DEADLINES =
      new Deadlines(
          new Network(
              List.of(node("STW", 2), node("CAN", 0)),
              List.of(
                  lane("STW", ServiceLevel.STANDARD, 1),
                  lane("CAN", ServiceLevel.STANDARD, 2),
                  lane("CAN", ServiceLevel.EXPRESS, 0)),
              List.of(new Zone("HOME", List.of(new Zone.Match("NL", List.of()))))),
          NOW);

  @Test
  void theWayThatLeavesMostTimeCounts() {
    // express on the day itself
    assertThat(DEADLINES.shipBy(HERE, ServiceLevel.STANDARD, Set.of(), THURSDAY))
        .contains(THURSDAY);
    // from Stillwater: on Wednesday, two workdays of processing
    assertThat(DEADLINES.shipBy(HERE, ServiceLevel.STANDARD, Set.of("STW"), THURSDAY))
        .contains(LocalDate.parse("2026-12-02"));
    assertThat(DEADLINES.latestStart(HERE, ServiceLevel.STANDARD, Set.of("STW"), THURSDAY, 0))
        .contains(LocalDate.parse("2026-11-30"));
  }

  @Test
  void whatMustBeMadeFirstIsBegunSomeWorkdaysBefore() {
    assertThat(DEADLINES.latestStart(HERE, ServiceLevel.STANDARD, Set.of("STW"), THURSDAY, 6))
        .as("six workdays before Monday 30 November")
        .contains(LocalDate.parse("2026-11-20"));
  }

  @Test
  void nothingArrivesWhereNothingGoes() {
    assertThat(DEADLINES.arrival(HERE, ServiceLevel.STANDARD, Set.of("STW")))
        .as("Friday, two workdays, one on the way")
        .contains(LocalDate.parse("2026-12-02"));
    assertThat(DEADLINES.arrival(HERE, ServiceLevel.STANDARD, Set.of()))
        .contains(LocalDate.parse("2026-11-27"));
    assertThat(DEADLINES.arrival(HERE, ServiceLevel.EXPRESS, Set.of("STW"))).isEmpty();
    assertThat(DEADLINES.arrival(new Destination("US", "10115"), ServiceLevel.STANDARD, Set.of()))
        .isEmpty();
  }

  private static Node node(String code, int processingDays) {
    return new Node(
        code,
        NodeKind.WAREHOUSE,
        "NL",
        ZoneId.of("Europe/Amsterdam"),
        WorkCalendar.parse("MON-FRI", Set.of()),
        LocalTime.of(15, 0),
        processingDays,
        new Handling(0, 0, 0),
        Set.of());
  }

  private static Lane lane(String node, ServiceLevel level, int transitDays) {
    return new Lane(
        node,
        "HOME",
        "HERON",
        level.name(),
        level,
        WorkCalendar.parse("MON-FRI", Set.of()),
        transitDays,
        new RateTable(List.of(new RateTable.Step(1000, 100))),
        Set.of());
  }
}
