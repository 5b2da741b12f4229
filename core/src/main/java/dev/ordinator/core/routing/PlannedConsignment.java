package dev.ordinator.core.routing;

import java.time.LocalDate;
import java.util.List;

/**
 * What one node would send.
 *
 * @param handOver the day on which the carrier gets it, in the node's time zone
 * @param shipBy the latest hand-over day that still meets the date asked for; the hand-over day
 *     itself if none was asked for
 * @param billable grams
 */
public record PlannedConsignment(
    String node,
    String carrier,
    String service,
    LocalDate handOver,
    LocalDate shipBy,
    LocalDate arrival,
    long billable,
    Cost cost,
    List<Line> lines) {

  public record Line(String id, long quantity) {}

  /** The parts of a consignment's cost; minor units of the base currency. */
  public record Cost(long carriage, long handling, long purchase, long clearance, long lateness) {

    /** carriage + handling + purchase − clearance + lateness. */
    public long total() {
      return carriage + handling + purchase - clearance + lateness;
    }
  }

  public PlannedConsignment {
    lines = List.copyOf(lines);
  }
}
