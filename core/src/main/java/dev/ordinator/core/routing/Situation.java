package dev.ordinator.core.routing;

import dev.ordinator.core.network.Network;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Everything outside the order that routing looks at, at one moment. */
public final class Situation {

  /**
   * What a node has of an item.
   *
   * @param available units
   * @param purchasePrice minor units per unit that must be bought in; 0 for own stock
   * @param clearanceCredit minor units per unit by which using it up is welcome
   */
  public record Offer(
      String node, String sku, long available, long purchasePrice, long clearanceCredit) {}

  private record Key(String node, String sku) {}

  private final Instant now;
  private final Network network;
  private final Map<String, Integer> capacityLeft;
  private final Map<Key, Offer> offers;

  /**
   * @param capacityLeft consignments that a node can still take; a node not in it has no limit
   * @param offers at most one per node and SKU
   */
  public Situation(
      Instant now, Network network, Map<String, Integer> capacityLeft, List<Offer> offers) {
    this.now = now;
    this.network = network;
    this.capacityLeft = Map.copyOf(capacityLeft);
    this.offers =
        offers.stream()
            .collect(
                Collectors.toUnmodifiableMap(o -> new Key(o.node(), o.sku()), Function.identity()));
  }

  public Instant now() {
    return now;
  }

  public Network network() {
    return network;
  }

  boolean hasCapacity(String node) {
    return capacityLeft.getOrDefault(node, Integer.MAX_VALUE) > 0;
  }

  Offer offer(String node, String sku) {
    Offer offer = offers.get(new Key(node, sku));
    return offer == null ? new Offer(node, sku, 0, 0, 0) : offer;
  }
}
