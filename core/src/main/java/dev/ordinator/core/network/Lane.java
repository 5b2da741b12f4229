package dev.ordinator.core.network;

import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Node → zone by one carrier's service.
 *
 * @param node the node's code
 * @param zone the zone's code
 * @param workdays the days on which it moves; lanes know no holidays
 * @param transitDays workdays of the lane after the hand-over day; 0: arrives that day
 * @param hazards hazard classes it carries
 */
public record Lane(
    String node,
    String zone,
    String carrier,
    String service,
    ServiceLevel level,
    WorkCalendar workdays,
    int transitDays,
    RateTable rates,
    Set<String> hazards) {

  /** The carrier of what the buyer collects. */
  public static final String NO_CARRIER = "";

  /** Whatever it weighs. */
  private static final RateTable FREE =
      new RateTable(List.of(new RateTable.Step(1_000_000_000, 0)));

  public Lane {
    if (transitDays < 0) {
      throw new IllegalArgumentException("transit days can't be negative");
    }
    hazards = Set.copyOf(hazards);
  }

  /**
   * No carrier: the buyer collects it at the node, on the day on which it is packed, at no
   * carriage.
   */
  public static Lane collection(Node node) {
    return new Lane(
        node.code(),
        "",
        NO_CARRIER,
        "collection",
        ServiceLevel.EXPRESS,
        node.calendar(),
        0,
        FREE,
        Set.of());
  }

  /** Whether it takes goods of a hazard class; null: they are not hazardous. */
  public boolean carries(@Nullable String hazard) {
    return hazard == null || carrier.equals(NO_CARRIER) || hazards.contains(hazard);
  }

  /** Arrival of what is handed over that day; counting starts on the day after. */
  public LocalDate arrival(LocalDate handOver) {
    return workdays.plusWorkdays(handOver, transitDays);
  }

  /**
   * The ship-by date: the latest of the node's workdays whose arrival is not after {@code
   * arriveBy}. It may lie in the past, and then the promise is broken already.
   */
  public LocalDate shipBy(LocalDate arriveBy, WorkCalendar node) {
    LocalDate day = node.sameOrPrevious(arriveBy);
    while (arrival(day).isAfter(arriveBy)) {
      day = node.sameOrPrevious(day.minusDays(1));
    }
    return day;
  }
}
