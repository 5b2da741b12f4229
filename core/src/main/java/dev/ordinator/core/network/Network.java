package dev.ordinator.core.network;

import static java.util.stream.Collectors.groupingBy;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** All nodes, lanes and zones, in listed order; ties are broken by that order. */
public final class Network {
  private final List<Node> nodes;
  private final Map<String, Integer> places = new HashMap<>();
  private final List<Zone> zones;
  private final Zones byPostcode;
  private final Map<String, Map<String, List<Lane>>> lanesByZoneAndNode;
  private final Set<String> paused;

  public Network(List<Node> nodes, List<Lane> lanes, List<Zone> zones) {
    this(nodes, lanes, zones, Set.of());
  }

  /**
   * @param paused codes of nodes to which nothing new may be routed for now
   */
  public Network(List<Node> nodes, List<Lane> lanes, List<Zone> zones, Set<String> paused) {
    this.paused = Set.copyOf(paused);
    this.nodes = List.copyOf(nodes);
    for (int place = 0; place < nodes.size(); place++) {
      places.putIfAbsent(nodes.get(place).code(), place);
    }
    this.zones = List.copyOf(zones);
    this.byPostcode = new Zones(zones);
    this.lanesByZoneAndNode =
        lanes.stream().collect(groupingBy(Lane::zone, groupingBy(Lane::node)));
  }

  private Network(Network other, List<Node> nodes) {
    this.nodes = nodes;
    this.places.putAll(other.places);
    this.zones = other.zones;
    this.byPostcode = other.byPostcode;
    this.lanesByZoneAndNode = other.lanesByZoneAndNode;
    this.paused = other.paused;
  }

  /**
   * The same, but that some nodes don't work on some days more.
   *
   * @param days by codes of nodes
   */
  public Network withDaysOff(Map<String, Set<LocalDate>> days) {
    return new Network(
        this,
        nodes.stream().map(n -> n.withDaysOff(days.getOrDefault(n.code(), Set.of()))).toList());
  }

  public List<Node> nodes() {
    return nodes;
  }

  public List<Zone> zones() {
    return zones;
  }

  /** The node's lanes to the destination's zone, in listed order; none if no zone holds it. */
  public List<Lane> lanes(Node node, Destination to) {
    return zoneOf(to).map(zone -> lanes(node, zone.code())).orElse(List.of());
  }

  /** The node's lanes to a zone, in listed order. */
  public List<Lane> lanes(Node node, String zone) {
    return lanesByZoneAndNode.getOrDefault(zone, Map.of()).getOrDefault(node.code(), List.of());
  }

  /** The zone that holds the destination, see {@link Zones#of}; none may. */
  public Optional<Zone> zoneOf(Destination to) {
    return byPostcode.of(to);
  }

  public Optional<Node> node(String code) {
    return Optional.ofNullable(places.get(code)).map(nodes::get);
  }

  /** Whether nothing new may be routed to a node for now. */
  public boolean isPaused(String node) {
    return paused.contains(node);
  }

  /** Where a node stands in the listed order, from 0; −1 if there is none with that code. */
  public int place(String node) {
    return places.getOrDefault(node, -1);
  }
}
