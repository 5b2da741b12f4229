package dev.ordinator.routing;

import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.dispatch.KitsInParts;
import dev.ordinator.kits.OrderKits;
import dev.ordinator.kits.OrderKits.Part;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.routing.Wanted.Apart;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.Kits;
import dev.ordinator.stock.Kits.Shelf;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Reads what orders want, of many at once. */
@Component
public class WantedReader {
  private final Items items;
  private final Kits kits;
  private final OrderKits orderKits;
  private final KitsInParts kitsInParts;

  WantedReader(Items items, Kits kits, OrderKits orderKits, KitsInParts kitsInParts) {
    this.items = items;
    this.kits = kits;
    this.orderKits = orderKits;
    this.kitsInParts = kitsInParts;
  }

  /** What an order that is to be routed now wants: kits that are not apart yet are taken apart. */
  Wanted toRoute(long orderId, List<OrderLine> lines) {
    Goods ordered = items.byId(itemsOf(Stream.of(lines)));
    if (noneIsKit(ordered)) {
      return plain(ordered, lines);
    }
    Shelf shelf = kits.shelf();
    orderKits.explodeRouted(orderId, shelf);
    Map<Long, List<OrderLine>> its = Map.of(orderId, lines);
    return withKits(ordered, shelf, its, kitsInParts.spare(its.keySet()))
        .values()
        .iterator()
        .next();
  }

  /**
   * What orders want, as their kits stand.
   *
   * @param lines by their orders, each matched to an item
   */
  public Map<Long, Wanted> of(Map<Long, List<OrderLine>> lines) {
    return of(lines, Map.of());
  }

  /** The same, without the components that nodes have already. */
  public Map<Long, Wanted> left(Map<Long, List<OrderLine>> lines) {
    return of(lines, kitsInParts.spare(lines.keySet()));
  }

  private Map<Long, Wanted> of(Map<Long, List<OrderLine>> lines, Map<Long, Map<Long, Long>> spare) {
    Goods ordered = items.byId(itemsOf(lines.values().stream()));
    if (!noneIsKit(ordered)) {
      return withKits(ordered, kits.shelf(), lines, spare);
    }
    Map<Long, Wanted> wanted = new LinkedHashMap<>();
    lines.forEach((order, its) -> wanted.put(order, plain(ordered.only(itemsOf(its)), its)));
    return wanted;
  }

  /**
   * @param spare units of components that nodes have beyond those of whole kits, by line and item
   */
  private Map<Long, Wanted> withKits(
      Goods ordered,
      Shelf shelf,
      Map<Long, List<OrderLine>> lines,
      Map<Long, Map<Long, Long>> spare) {
    Map<Long, List<Part>> components = orderKits.components(lines.keySet());
    Map<Long, Chosen> chosen = orderKits.chosen(lines.keySet());
    Map<Long, Set<Long>> reach = new HashMap<>();
    lines.forEach((order, its) -> reach.put(order, reach(ordered, shelf, its, components)));
    Goods goods =
        items.byId(reach.values().stream().flatMap(Set::stream).collect(Collectors.toSet()));
    Map<Long, Wanted> wanted = new LinkedHashMap<>();
    lines.forEach((order, its) ->
        wanted.put(
            order,
            new Wanted(
                shelf,
                goods.only(reach.getOrDefault(order, Set.of())),
                its,
                chosen,
                apart(goods, its, components, spare))));
    return wanted;
  }

  /** All that may be taken for an order. */
  private static Set<Long> reach(
      Goods ordered, Shelf shelf, List<OrderLine> lines, Map<Long, List<Part>> components) {
    Set<Long> reach = new HashSet<>(itemsOf(lines));
    for (OrderLine line : lines) {
      String sku = ordered.of(line.itemId()).item().sku();
      if (shelf.book().kit(sku) != null) {
        reach.addAll(shelf.reach(sku));
      }
      components.getOrDefault(line.id(), List.of()).forEach(part -> reach.add(part.itemId()));
    }
    return reach;
  }

  private static Map<Long, Apart> apart(
      Goods goods,
      List<OrderLine> lines,
      Map<Long, List<Part>> components,
      Map<Long, Map<Long, Long>> spare) {
    Map<Long, Apart> apart = new HashMap<>();
    for (OrderLine line : lines) {
      Map<Long, Long> its = spare.getOrDefault(line.id(), Map.of());
      Map<String, Long> units = new LinkedHashMap<>();
      boolean loose = false;
      for (Part part : components.getOrDefault(line.id(), List.of())) {
        Long inOne = part.looseInOne();
        loose |= inOne != null;
        long left =
            inOne == null
                ? part.quantity()
                : inOne * (line.quantity() / line.unitsEach())
                    - its.getOrDefault(part.itemId(), 0L);
        units.put(goods.of(part.itemId()).item().sku(), left);
      }
      apart.put(line.id(), new Apart(units, loose));
    }
    return apart;
  }

  private static Wanted plain(Goods ordered, List<OrderLine> lines) {
    return new Wanted(Wanted.noKits(), ordered, lines, Map.of(), Map.of());
  }

  private static boolean noneIsKit(Goods goods) {
    return goods.byId().values().stream().noneMatch(StockedItem::isKit);
  }

  private static Set<Long> itemsOf(Stream<List<OrderLine>> lines) {
    return lines
        .flatMap(List::stream)
        .map(line -> Objects.requireNonNull(line.itemId()))
        .collect(Collectors.toSet());
  }

  private static Set<Long> itemsOf(List<OrderLine> lines) {
    return itemsOf(Stream.of(lines));
  }
}
