package dev.ordinator.stock;

import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.network.Nodes;
import dev.ordinator.stock.Items.Available;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Kits.Shelf;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;

/**
 * How many of a kit can be promised, day by day: at each node as many as what can be promised of
 * its components comes to, and of ready-made ones, over all nodes; less the kits that orders wait
 * for. What orders wait for of a component by itself is taken off at every node, as it is not known
 * which will send it.
 */
@Component
public class KitsAhead {
  private final Kits kits;
  private final Items items;
  private final Expected expected;
  private final ShelfLife shelfLife;
  private final Nodes nodes;

  KitsAhead(Kits kits, Items items, Expected expected, ShelfLife shelfLife, Nodes nodes) {
    this.kits = kits;
    this.items = items;
    this.expected = expected;
    this.shelfLife = shelfLife;
    this.nodes = nodes;
  }

  /**
   * @param serving codes of nodes; empty: all but channels' depots
   * @param waiting kits that orders wait for
   * @param days how many, today included
   */
  List<Long> promisable(String sku, Set<String> serving, long waiting, int days) {
    Shelf shelf = kits.shelf();
    Goods goods = items.byId(shelf.reach(sku));
    var byNode = byNode(goods, supplies(goods), serving, days);
    return IntStream.range(0, days)
        .mapToObj(day -> Math.max(0, units(shelf.book(), sku, byNode, day) - waiting))
        .toList();
  }

  /**
   * How many more of each kit there can be from some day on, as if they came as kits.
   *
   * @param serving codes of nodes; empty: all but channels' depots
   * @return by item; kits of which no more can be are left out
   */
  public Map<Long, List<Atp.Supply>> supplies(Set<String> serving, int days) {
    Shelf shelf = kits.shelf();
    List<String> skus = shelf.kits();
    Goods goods = items.byId(shelf.reach(skus));
    Map<Long, Map<String, List<Atp.Supply>>> supplies = supplies(goods);
    var byNode = byNode(goods, supplies, serving, days);
    List<Integer> arrivals =
        supplies.values().stream()
            .flatMap(there -> there.values().stream().flatMap(List::stream))
            .map(Atp.Supply::countedFrom)
            .filter(day -> day > 0 && day < days)
            .distinct()
            .sorted()
            .toList();
    Map<Long, List<Atp.Supply>> found = new HashMap<>();
    for (String sku : skus) {
      long before = units(shelf.book(), sku, byNode, 0);
      for (int day : arrivals) {
        long then = units(shelf.book(), sku, byNode, day);
        if (then > before) {
          found
              .computeIfAbsent(shelf.id(sku), k -> new ArrayList<>())
              .add(new Atp.Supply(day, then - before, 100, 0));
          before = then;
        }
      }
    }
    return found;
  }

  private static long units(
      KitBook book, String sku, Map<String, Map<String, Atp>> byNode, int day) {
    return byNode.values().stream()
        .mapToLong(components -> {
          Map<String, Long> units = new HashMap<>();
          components.forEach((component, atp) -> units.put(component, atp.at(day)));
          return Kits.available(book, sku, units);
        })
        .sum();
  }

  private Map<Long, Map<String, List<Atp.Supply>>> supplies(Goods goods) {
    return expected.suppliesByNode(goods.byId().keySet());
  }

  /** By node's code and then by SKU. */
  private Map<String, Map<String, Atp>> byNode(
      Goods goods,
      Map<Long, Map<String, List<Atp.Supply>>> supplies,
      Set<String> serving,
      int days) {
    Map<Long, Long> waited = expected.waitedFor(goods.byId().keySet());
    Map<Long, Map<String, Long>> free =
        items.available(goods, List.of()).stream()
            .collect(
                Collectors.groupingBy(
                    Available::itemId, Collectors.toMap(Available::node, Available::units)));
    var runningOut = shelfLife.runningOut(goods.byId().keySet(), serving);
    Map<String, Map<String, Atp>> byNode = new HashMap<>();
    for (Nodes.NodeCard node : nodes.all()) {
      boolean serves = serving.isEmpty() || serving.contains(node.code());
      if (node.kind() == NodeKind.CHANNEL_DEPOT || !serves) {
        continue;
      }
      Map<String, Atp> there = byNode.computeIfAbsent(node.code(), n -> new HashMap<>());
      goods
          .byId()
          .forEach((id, item) ->
              there.put(
                  item.item().sku(),
                  Atp.of(
                      free.getOrDefault(id, Map.of()).getOrDefault(node.code(), 0L),
                      runningOut.getOrDefault(id, Map.of()).getOrDefault(node.code(), List.of()),
                      supplies.getOrDefault(id, Map.of()).getOrDefault(node.code(), List.of()),
                      item.isKit()
                          ? List.of()
                          : List.of(new Atp.Commitment(0, waited.getOrDefault(id, 0L))),
                      days)));
    }
    return byNode;
  }
}
