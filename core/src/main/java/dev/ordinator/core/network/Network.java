package dev.ordinator.core.network;

import static java.util.stream.Collectors.groupingBy;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** All nodes, lanes and zones, in listed order; ties are broken by that order. */
public final class Network {
  private final List<Node> nodes;
  private final Map<String, Integer> places = new HashMap<>();
  private final List<Zone> zones;
  private final Zones byPostcode;
  private final Map<String, Map<String, List<Lane>>> lanesByZoneAndNode;

  public Network(List<Node> nodes, List<Lane> lanes, List<Zone> zones) {
    this.nodes = List.copyOf(nodes);
    for (int place = 0; place < nodes.size(); place++) {
      places.putIfAbsent(nodes.get(place).code(), place);
    }
    this.zones = List.copyOf(zones);
    this.byPostcode = new Zones(zones);
    this.lanesByZoneAndNode =
        lanes.stream().collect(groupingBy(Lane::zone, groupingBy(Lane::node)));
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

  /** Where a node stands in the listed order, from 0; −1 if there is none with that code. */
  public int place(String node) {
    return places.getOrDefault(node, -1);
  }
}
