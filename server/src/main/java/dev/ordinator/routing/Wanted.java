package dev.ordinator.routing;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.rules.GoodsFacts;
import dev.ordinator.core.stock.KitStock;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.dispatch.Consignments.Pick;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.routing.Routing.Shortage;
import dev.ordinator.stock.Items.Available;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.Kits.Shelf;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What an order wants, and what each node could give for it. The router sees components: a node
 * that can fill a kit from what it keeps ready-made is shown to it as having the components, so
 * that it weighs and prices what is really sent.
 */
public final class Wanted {
  private final Shelf shelf;
  private final Goods goods;
  private final List<Wish> wishes;
  private final Map<String, Long> components = new LinkedHashMap<>();
  private final Map<Long, Long> asked = new HashMap<>();
  private final Map<String, Long> ids;

  /**
   * Part of a line.
   *
   * @param ofKit whether it is a kit, or a component of one that is kept together: all of its line
   *     then comes from one node
   * @param first the first part of its line bears the units that were ordered; none does if its
   *     parts may come from several nodes
   */
  private record Wish(
      OrderLine line, String sku, long quantity, Chosen chosen, boolean ofKit, boolean first) {

    /** Units of the line as the channel counts them that go with so many of the wish. */
    long ordered(long units) {
      return first ? (ofKit ? line.quantity() : units) / line.unitsEach() : 0;
    }
  }

  private record At(String node, long itemId) {}

  private record LineItem(long lineId, long itemId) {}

  /**
   * What a node could give.
   *
   * @param missing SKUs of components that it lacks; empty if it has all of it
   */
  private record Filling(List<Pick> picks, Set<String> missing) {}

  /**
   * A line's kits as they were taken apart at intake.
   *
   * @param units by SKU
   * @param loose whether the components may come from several nodes
   */
  record Apart(Map<String, Long> units, boolean loose) {
    static final Apart NOT_YET = new Apart(Map.of(), false);
  }

  /**
   * @param goods the lines' items and all that their kits may need
   * @param apart by line, those that are taken apart
   */
  Wanted(
      Shelf shelf,
      Goods goods,
      List<OrderLine> lines,
      Map<Long, Chosen> chosen,
      Map<Long, Apart> apart) {
    this.shelf = shelf;
    this.goods = goods;
    this.ids =
        goods.byId().values().stream()
            .collect(Collectors.toMap(g -> g.item().sku(), StockedItem::id));
    this.wishes = new ArrayList<>();
    for (OrderLine line : lines) {
      asked.merge(line.id(), line.quantity(), Long::sum);
      String sku = goods.of(line.itemId()).item().sku();
      Kit kit = shelf.book().kit(sku);
      Chosen choice = chosen.getOrDefault(line.id(), Chosen.NOTHING);
      Apart parts = apart.getOrDefault(line.id(), Apart.NOT_YET);
      if (kit == null || parts.units().isEmpty() || isAsNow(sku, choice, line, parts)) {
        wishes.add(new Wish(line, sku, line.quantity(), choice, kit != null, true));
        continue;
      }
      boolean first = !parts.loose();
      for (Map.Entry<String, Long> part : parts.units().entrySet()) {
        if (part.getValue() > 0) {
          wishes.add(new Wish(line, part.getKey(), part.getValue(), choice, !parts.loose(), first));
          first = false;
        }
      }
    }
    wishes.forEach(wish ->
        shelf
            .book()
            .components(wish.sku(), wish.chosen())
            .forEach((sku, each) -> components.merge(sku, each * wish.quantity(), Long::sum)));
  }

  /**
   * Whether a kit that stays together is made of what it is made of now: then what is kept
   * ready-made may be sent for it. One that was changed since goes as it was ordered.
   */
  private boolean isAsNow(String sku, Chosen choice, OrderLine line, Apart parts) {
    Map<String, Long> now = new LinkedHashMap<>(shelf.book().components(sku, choice));
    now.replaceAll((component, each) -> each * line.quantity());
    return !parts.loose() && now.equals(parts.units());
  }

  /** Units of each of its lines, by the line's id. */
  public Map<Long, Long> asked() {
    return Map.copyOf(asked);
  }

  /** All that may be taken for it. */
  public Goods goods() {
    return goods;
  }

  Set<Long> itemIds() {
    return goods.byId().keySet();
  }

  /** What its components cost us, in minor units of the base currency. */
  public long cost() {
    return components.entrySet().stream()
        .mapToLong(each -> goods.of(id(each.getKey())).cost() * each.getValue())
        .sum();
  }

  /** What is missing of it if these units are sent by nobody. */
  List<Shortage> shortages(Collection<PlannedConsignment.Line> unfilled) {
    Map<LineItem, Long> units = new LinkedHashMap<>();
    unfilled.forEach(part ->
        units.merge(
            new LineItem(wish(part).line().id(), component(part)), part.quantity(), Long::sum));
    return shortages(units, Set.copyOf(units.keySet().stream().map(LineItem::itemId).toList()));
  }

  /** What is missing of it if nothing is sent for want of some items: all of it. */
  List<Shortage> shortages(Set<Long> lacking) {
    Map<LineItem, Long> units = new LinkedHashMap<>();
    wishes.forEach(wish ->
        shelf
            .book()
            .components(wish.sku(), wish.chosen())
            .forEach((sku, each) ->
                units.merge(
                    new LineItem(wish.line().id(), id(sku)), each * wish.quantity(), Long::sum)));
    return shortages(units, lacking);
  }

  private static List<Shortage> shortages(Map<LineItem, Long> units, Set<Long> lacking) {
    List<Shortage> shortages = new ArrayList<>();
    units.forEach((of, missing) ->
        shortages.add(
            new Shortage(of.lineId(), of.itemId(), missing, lacking.contains(of.itemId()))));
    return shortages;
  }

  private Wish wish(PlannedConsignment.Line part) {
    return wishes.get(Integer.parseInt(part.id().substring(0, part.id().indexOf('/'))));
  }

  private long component(PlannedConsignment.Line part) {
    return id(part.id().substring(part.id().indexOf('/') + 1));
  }

  /** Codes of the nodes at which its components are at home. */
  public Set<String> homes() {
    return components.keySet().stream()
        .map(sku -> goods.of(id(sku)).home())
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }

  /** The components, each as a line of its own. */
  public List<OrderDemand.Line> lines() {
    List<OrderDemand.Line> lines = new ArrayList<>();
    for (int w = 0; w < wishes.size(); w++) {
      Wish wish = wishes.get(w);
      String together = wish.ofKit() ? "line " + wish.line().id() : null;
      for (Map.Entry<String, Long> each :
          shelf.book().components(wish.sku(), wish.chosen()).entrySet()) {
        lines.add(
            new OrderDemand.Line(
                w + "/" + each.getKey(),
                goods.of(id(each.getKey())).item(),
                each.getValue() * wish.quantity(),
                wish.line().unitsEach() == 1,
                together));
      }
    }
    return lines;
  }

  /**
   * What each node has of the components, or can make up for with kits that are ready-made; what a
   * supplier has must be bought, at what that supplier asks.
   */
  public List<Situation.Offer> offers(Collection<Available> available, Network network) {
    Set<String> suppliers =
        network.nodes().stream()
            .filter(n -> n.kind() == NodeKind.SUPPLIER)
            .map(Node::code)
            .collect(Collectors.toSet());
    Map<At, List<Situation.Perishable>> lasting = new HashMap<>();
    Map<At, Long> costs = new HashMap<>();
    available.forEach(a -> {
      At at = new At(a.node(), a.itemId());
      lasting.put(at, a.perishable());
      if (a.cost() != null) {
        costs.put(at, a.cost());
      }
    });
    List<Situation.Offer> offers = new ArrayList<>();
    byNode(available)
        .forEach((node, units) -> {
          boolean whole = fill(units, all()).missing().isEmpty();
          components.forEach((sku, need) -> {
            long there = units.getOrDefault(sku, 0L);
            long price =
                suppliers.contains(node)
                    ? costs.getOrDefault(new At(node, id(sku)), goods.of(id(sku)).cost())
                    : 0;
            // a kit that is ready-made stands in for its components, however long those last
            boolean loose = there >= need || !whole;
            offers.add(
                new Situation.Offer(
                    node,
                    sku,
                    loose ? there : need,
                    price,
                    0,
                    loose ? lasting.getOrDefault(new At(node, id(sku)), List.of()) : List.of()));
          });
        });
    return offers;
  }

  /** What rules see of the stock there is for it. */
  public GoodsFacts.Stock stock(Collection<Available> available) {
    Map<String, Map<String, Long>> nodes = byNode(available);
    Set<String> having = new HashSet<>();
    nodes.forEach((node, units) -> {
      if (fill(units, all()).missing().isEmpty()) {
        having.add(node);
      }
    });
    long least =
        wishes.stream()
            .mapToLong(wish ->
                nodes.values().stream()
                    .mapToLong(
                        units -> KitStock.available(shelf.book(), wish.sku(), wish.chosen(), units))
                    .sum())
            .min()
            .orElse(0);
    return new GoodsFacts.Stock(least, having);
  }

  /** All that may be taken for a line. */
  public Set<Long> itemsFor(long lineId) {
    Set<Long> ids = new HashSet<>();
    wishesOf(lineId)
        .forEach(wish -> {
          ids.add(id(wish.sku()));
          if (shelf.book().kit(wish.sku()) != null) {
            ids.addAll(shelf.reach(wish.sku()));
          }
        });
    return ids;
  }

  /**
   * What is taken for all that a line wants.
   *
   * @param there units by item at one node; of what nobody counts there is enough everywhere
   * @return units by item, without what nobody counts; empty if there is not enough
   */
  public Map<Long, Long> take(long lineId, Map<Long, Long> there) {
    Map<String, Long> stock = new HashMap<>();
    itemsFor(lineId)
        .forEach(item ->
            stock.put(
                goods.of(item).item().sku(),
                goods.of(item).counted() ? there.getOrDefault(item, 0L) : StockLevel.PLENTY));
    Map<Wish, Long> its = new LinkedHashMap<>();
    wishesOf(lineId).forEach(wish -> its.put(wish, wish.quantity()));
    Filling filling = fill(stock, its);
    Map<Long, Long> taken = new LinkedHashMap<>();
    if (filling.missing().isEmpty()) {
      filling.picks().stream()
          .filter(pick -> goods.of(pick.itemId()).counted())
          .forEach(pick -> taken.merge(pick.itemId(), pick.quantity(), Long::sum));
    }
    return taken;
  }

  private List<Wish> wishesOf(long lineId) {
    return wishes.stream().filter(wish -> wish.line().id() == lineId).toList();
  }

  /** What a node takes from its shelves for a consignment. */
  public List<Pick> picks(Collection<Available> available, PlannedConsignment planned) {
    Map<Wish, Long> given = new LinkedHashMap<>();
    for (PlannedConsignment.Line line : planned.lines()) {
      Wish wish = wish(line);
      given.put(wish, wish.ofKit() ? wish.quantity() : line.quantity());
    }
    return fill(byNode(available).getOrDefault(planned.node(), Map.of()), given).picks();
  }

  /**
   * Ids of the components that no node has enough of; if each is somewhere, of those that are not
   * at one node together. Empty if some node has all of it.
   */
  Set<Long> shortOf(Collection<Available> available) {
    List<Set<String>> missing =
        byNode(available).values().stream().map(units -> fill(units, all()).missing()).toList();
    if (missing.stream().anyMatch(Set::isEmpty)) {
      return Set.of();
    }
    Set<String> everywhere = new HashSet<>(components.keySet());
    missing.forEach(everywhere::retainAll);
    Set<String> somewhere =
        missing.stream().flatMap(Set::stream).collect(Collectors.toCollection(HashSet::new));
    return (everywhere.isEmpty() ? somewhere : everywhere)
        .stream().map(this::id).collect(Collectors.toSet());
  }

  private Map<Wish, Long> all() {
    Map<Wish, Long> all = new LinkedHashMap<>();
    wishes.forEach(wish -> all.put(wish, wish.quantity()));
    return all;
  }

  private Filling fill(Map<String, Long> stock, Map<Wish, Long> given) {
    KitStock kits = new KitStock(shelf.book(), stock);
    List<Pick> picks = new ArrayList<>();
    Set<String> missing = new HashSet<>();
    given.forEach((wish, units) -> {
      KitStock.Take take = kits.take(wish.sku(), units, wish.chosen());
      missing.addAll(take.missing().keySet());
      long ordered = wish.ordered(units);
      for (Map.Entry<String, Long> taken : take.units().entrySet()) {
        picks.add(new Pick(wish.line().id(), id(taken.getKey()), taken.getValue(), ordered));
        ordered = 0;
      }
    });
    return new Filling(picks, missing);
  }

  private Map<String, Map<String, Long>> byNode(Collection<Available> available) {
    Map<String, Map<String, Long>> byNode = new LinkedHashMap<>();
    available.forEach(a ->
        byNode
            .computeIfAbsent(a.node(), n -> new HashMap<>())
            .put(goods.of(a.itemId()).item().sku(), a.units()));
    return byNode;
  }

  Set<Long> ids(Collection<String> skus) {
    return skus.stream().map(this::id).collect(Collectors.toSet());
  }

  private long id(String sku) {
    Long id = ids.get(sku);
    if (id == null) {
      throw new IllegalArgumentException(sku + " is not among them");
    }
    return id;
  }

  /** The book of no kits, for orders that ask for none. */
  static Shelf noKits() {
    return new Shelf(KitBook.of(List.of()), Map.of(), Map.of());
  }
}
