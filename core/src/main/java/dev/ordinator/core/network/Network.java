package dev.ordinator.core.network;

import java.util.List;
import java.util.Optional;

/** All nodes, lanes and zones, in listed order; ties are broken by that order. */
public record Network(List<Node> nodes, List<Lane> lanes, List<Zone> zones) {
  public Network {
    nodes = List.copyOf(nodes);
    lanes = List.copyOf(lanes);
    zones = List.copyOf(zones);
  }

  /** The node's lanes to the destination's zone, in listed order; none if no zone holds it. */
  public List<Lane> lanes(Node node, Destination to) {
    return Zone.of(to, zones)
        .map(zone ->
            lanes.stream()
                .filter(l -> l.node().equals(node.code()) && l.zone().equals(zone.code()))
                .toList())
        .orElse(List.of());
  }

  public Optional<Node> node(String code) {
    return nodes.stream().filter(n -> n.code().equals(code)).findFirst();
  }
}
