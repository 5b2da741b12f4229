package dev.ordinator.core.routing;

import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.ServiceLevel;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * By which lanes nodes reach zones, and when, at one moment; worked out once, as every order of a
 * batch asks for the same.
 */
final class Trips {
  private final Instant now;
  private final Network network;
  private final Map<Wish, Map<String, List<Trip>>> known = new ConcurrentHashMap<>();

  private record Wish(String zone, ServiceLevel level) {}

  /**
   * A lane that a node could use now.
   *
   * @param handOver the day on which its carrier gets what the node is given now
   * @param least no consignment goes for less, minor units
   */
  record Trip(Lane lane, LocalDate handOver, LocalDate arrival, long least) {}

  Trips(Instant now, Network network) {
    this.now = now;
    this.network = network;
  }

  /** Of the level asked for or better, by their node's code, each node's in listed order. */
  Map<String, List<Trip>> to(String zone, ServiceLevel level) {
    return known.computeIfAbsent(new Wish(zone, level), this::trips);
  }

  /** What is not sent, as the buyer collects it at the node. */
  Map<String, List<Trip>> collected() {
    Map<String, List<Trip>> byNode = new HashMap<>();
    for (Node node : network.nodes()) {
      LocalDate ready = node.handOverDay(now);
      byNode.put(node.code(), List.of(new Trip(Lane.collection(node), ready, ready, 0)));
    }
    return byNode;
  }

  private Map<String, List<Trip>> trips(Wish wish) {
    Map<String, List<Trip>> byNode = new HashMap<>();
    for (Node node : network.nodes()) {
      List<Trip> trips = new ArrayList<>();
      LocalDate handOver = node.handOverDay(now);
      for (Lane lane : network.lanes(node, wish.zone())) {
        if (lane.level().covers(wish.level())) {
          trips.add(new Trip(lane, handOver, lane.arrival(handOver), least(lane.rates())));
        }
      }
      byNode.put(node.code(), trips);
    }
    return byNode;
  }

  private static long least(RateTable rates) {
    return rates.steps().stream().mapToLong(RateTable.Step::price).min().orElseThrow();
  }
}
