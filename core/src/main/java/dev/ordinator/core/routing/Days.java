package dev.ordinator.core.routing;

import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Days of one moment, each worked out once: every order of a batch asks for the same. */
final class Days {
  private final Instant now;
  private final Map<String, LocalDate> handOver = new ConcurrentHashMap<>();
  private final Map<Trip, LocalDate> arrivals = new ConcurrentHashMap<>();

  /** Lanes are told apart by being the same object: comparing all that one is would take long. */
  private record Trip(Lane lane, LocalDate handOver) {
    @Override
    public boolean equals(Object other) {
      return other instanceof Trip(Lane same, LocalDate day)
          && same == lane
          && day.equals(handOver);
    }

    @Override
    public int hashCode() {
      return 31 * System.identityHashCode(lane) + handOver.hashCode();
    }
  }

  Days(Instant now) {
    this.now = now;
  }

  LocalDate handOver(Node node) {
    return handOver.computeIfAbsent(node.code(), code -> node.handOverDay(now));
  }

  LocalDate arrival(Lane lane, LocalDate handOver) {
    return arrivals.computeIfAbsent(
        new Trip(lane, handOver), trip -> lane.arrival(trip.handOver()));
  }
}
