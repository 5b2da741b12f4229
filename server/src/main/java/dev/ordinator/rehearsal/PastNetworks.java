package dev.ordinator.rehearsal;

import dev.ordinator.network.NetworkHistory;
import java.time.Instant;
import java.util.List;
import java.util.NavigableMap;
import java.util.TreeMap;

/** The network at each moment of the days that are rehearsed. */
final class PastNetworks {
  private final NavigableMap<Instant, NetworkHistory.State> bySince = new TreeMap<>();

  /**
   * @param states at least one
   */
  PastNetworks(List<NetworkHistory.State> states) {
    states.forEach(s -> bySince.put(s.since(), s));
  }

  NetworkHistory.State at(Instant moment) {
    var last = bySince.floorEntry(moment);
    return (last == null ? bySince.firstEntry() : last).getValue();
  }
}
