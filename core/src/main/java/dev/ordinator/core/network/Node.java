package dev.ordinator.core.network;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Set;

/**
 * A place that can fulfil.
 *
 * @param country ISO 3166-1 alpha-2
 * @param timeZone in which its days and its cut-off are meant
 * @param cutOff a release at or before this time of a workday still counts for that day
 * @param processingDays workdays between release and hand-over
 * @param hazards hazard classes it may handle
 */
public record Node(
    String code,
    NodeKind kind,
    String country,
    ZoneId timeZone,
    WorkCalendar calendar,
    LocalTime cutOff,
    int processingDays,
    Handling handling,
    Set<String> hazards) {

  public Node {
    if (code.isBlank() || processingDays < 0) {
      throw new IllegalArgumentException("a node needs a code and processing days ≥ 0: " + code);
    }
    hazards = Set.copyOf(hazards);
  }

  /** The same node, but that it does not work on some days more. */
  public Node withDaysOff(Set<LocalDate> days) {
    return new Node(
        code,
        kind,
        country,
        timeZone,
        calendar.withDaysOff(days),
        cutOff,
        processingDays,
        handling,
        hazards);
  }

  /** The local day at the node. */
  public LocalDate today(Instant now) {
    return now.atZone(timeZone).toLocalDate();
  }

  /**
   * The day on which something released now leaves: today if today is a workday and the cut-off has
   * not passed, else the next workday; plus the processing days.
   */
  public LocalDate handOverDay(Instant now) {
    ZonedDateTime local = now.atZone(timeZone);
    LocalDate today = local.toLocalDate();
    boolean inTime = calendar.works(today) && !local.toLocalTime().isAfter(cutOff);
    LocalDate dayZero = inTime ? today : calendar.sameOrNext(today.plusDays(1));
    return calendar.plusWorkdays(dayZero, processingDays);
  }
}
