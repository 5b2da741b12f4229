package dev.ordinator.routing;

import dev.ordinator.channels.Channel;
import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.PlacesLeft;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Earmarks;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Available;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.Kits;
import dev.ordinator.stock.Kits.Shelf;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.util.function.SingletonSupplier;

/**
 * What a channel may tell a buyer before there is an order: what can be had, and when it would
 * arrive. The same router decides that would route the order, over what is there and what is
 * expected.
 */
@Service
public class Promises {
  /** Supplies that come later are not promised. */
  private static final int DAYS = 61;

  private static final Duration STALE = Duration.ofSeconds(2);

  private final Items items;
  private final Kits kits;
  private final Expected expected;
  private final Earmarks earmarks;
  private final Nodes nodes;
  private final Editions editions;
  private final OrdinatorSettings settings;
  private final Clock clock;
  private volatile @Nullable Seen seen;

  Promises(
      Items items,
      Kits kits,
      Expected expected,
      Earmarks earmarks,
      Nodes nodes,
      Editions editions,
      OrdinatorSettings settings,
      Clock clock) {
    this.items = items;
    this.kits = kits;
    this.expected = expected;
    this.earmarks = earmarks;
    this.nodes = nodes;
    this.editions = editions;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * @param chosen SKUs by choice, where a kit leaves any
   */
  public record Line(String sku, long quantity, Map<String, String> chosen) {}

  /**
   * A way in which a basket would come.
   *
   * @param carrier whom it would be given to, with the carrier's name of the service
   * @param cost carriage and handling, in minor units of the base currency, without tax
   * @param inStock false: it waits for goods that are expected
   */
  public record Promised(
      ServiceLevel level,
      String carrier,
      String service,
      LocalDate handOver,
      LocalDate arrival,
      long cost,
      boolean inStock) {}

  /**
   * What decides besides stock, as it was at a moment.
   *
   * @param items by SKU, as they are asked for
   * @param capacities what nodes can still take, by days from then; {@code places}: on any day
   */
  private record Seen(
      Network network,
      Edition edition,
      Shelf shelf,
      Map<String, StockedItem> items,
      Map<Integer, Map<String, Integer>> capacities,
      Supplier<PlacesLeft> places,
      Instant at) {}

  /** What the answers of one request are found from. */
  private record Sight(
      Channel channel,
      Destination to,
      Seen seen,
      Wanted wanted,
      List<Available> available,
      Map<Long, Map<String, List<Atp.Supply>>> supplies,
      Map<Long, Long> waiting) {}

  /**
   * The services by which a basket can come, the better levels last; without those that can't.
   *
   * @throws Problem if there is no such item, or a kit leaves a choice open
   */
  public List<Promised> of(Channel channel, Destination to, List<Line> basket) {
    Sight sight = sight(channel, to, basket);
    LocalDate today = expected.today();
    Instant asked = clock.instant();
    List<Promised> services = new ArrayList<>();
    for (ServiceLevel level : ServiceLevel.values()) {
      for (int day : days(sight)) {
        Instant now =
            day == 0 ? asked : today.plusDays(day).atStartOfDay(settings.timeZone()).toInstant();
        Optional<Promised> promised = route(sight, level, day, now);
        if (promised.isPresent()) {
          services.add(promised.get());
          break;
        }
      }
    }
    return services;
  }

  /**
   * Units of items that each node could send somewhere: those of kits are as many as it could put
   * together.
   *
   * @param to null: anywhere
   * @return by SKU and then by node's code; what no node has is left out
   */
  public Map<String, Map<String, Long>> available(
      Channel channel, List<String> skus, @Nullable Destination to) {
    Seen now = seen();
    Goods goods = goods(now, now.shelf().book().reach(skus));
    Map<String, Map<String, Long>> free =
        items.freeByNode(
            goods,
            now.shelf(),
            channel.terms().nodes(),
            earmarks.forChannel(channel.code(), goods.byId().keySet()));
    Map<String, Map<String, Long>> found = new LinkedHashMap<>();
    for (String sku : skus) {
      StockedItem item = now.items().get(sku);
      if (item == null) {
        continue;
      }
      Map<String, Long> byNode = new LinkedHashMap<>();
      for (Node node : now.network().nodes()) {
        long units = free.getOrDefault(node.code(), Map.of()).getOrDefault(sku, 0L);
        if (units > 0 && (to == null || travels(now.network(), node, item.item(), to))) {
          byNode.put(node.code(), units);
        }
      }
      found.put(sku, byNode);
    }
    return found;
  }

  private static boolean travels(Network network, Node node, Item item, Destination to) {
    String hazard = item.hazard();
    if (item.bannedCountries().contains(to.country())
        || (hazard != null && !node.hazards().contains(hazard))) {
      return false;
    }
    return network.lanes(node, to).stream()
        .anyMatch((Lane l) -> hazard == null || l.hazards().contains(hazard));
  }

  private Sight sight(Channel channel, Destination to, List<Line> basket) {
    Seen now = seen();
    Goods goods = goods(now, basket.stream().map(Line::sku).toList());
    List<OrderLine> lines = new ArrayList<>();
    for (Line line : basket) {
      int no = lines.size();
      StockedItem item = now.items().get(line.sku());
      if (item == null) {
        throw Problem.invalid(
            "lines[%d].sku".formatted(no), "no item has the SKU ‘" + line.sku() + "’");
      }
      lines.add(new OrderLine(no, no, "", 0, item.id(), line.sku(), line.quantity(), 1));
    }
    boolean anyKit = goods.byId().values().stream().anyMatch(StockedItem::isKit);
    Wanted wanted =
        anyKit
            ? withKits(now, basket, lines)
            : new Wanted(Wanted.noKits(), goods, lines, Map.of(), Map.of());
    Set<String> ours = new HashSet<>();
    now.network().nodes().forEach(n -> ours.add(n.code()));
    return new Sight(
        channel,
        to,
        now,
        wanted,
        items
            .available(wanted.goods(), earmarks.forChannel(channel.code(), wanted.itemIds()))
            .stream()
            .filter(a -> ours.contains(a.node()))
            .toList(),
        expected.suppliesByNode(wanted.itemIds()),
        expected.waitedFor(wanted.itemIds()));
  }

  private Wanted withKits(Seen now, List<Line> basket, List<OrderLine> lines) {
    Shelf shelf = now.shelf();
    Map<Long, Chosen> chosen = new HashMap<>();
    Map<Long, Wanted.Apart> apart = new HashMap<>();
    for (int i = 0; i < basket.size(); i++) {
      Line line = basket.get(i);
      Kit kit = shelf.book().kit(line.sku());
      if (kit == null) {
        continue;
      }
      Chosen choice = new Chosen(line.chosen());
      List<Kit.Choice> open = shelf.book().open(line.sku(), choice);
      if (!open.isEmpty()) {
        throw Problem.invalid(
            "lines[%d].chosen".formatted(i), "say which " + open.getFirst().name());
      }
      long id = lines.get(i).id();
      chosen.put(id, choice);
      if (kit.explode().isAtIntake()) {
        Map<String, Long> parts = new LinkedHashMap<>();
        shelf
            .book()
            .components(line.sku(), choice)
            .forEach((sku, each) -> parts.put(sku, each * line.quantity()));
        apart.put(id, new Wanted.Apart(parts, kit.explode() == Explode.IN_PARTS));
      }
    }
    Set<String> reach = shelf.book().reach(basket.stream().map(Line::sku).toList());
    return new Wanted(shelf, goods(now, reach), lines, chosen, apart);
  }

  /** Today, and each day on which something of it comes. */
  private static Set<Integer> days(Sight sight) {
    Set<Integer> days = new TreeSet<>(Comparator.naturalOrder());
    days.add(0);
    sight
        .supplies()
        .values()
        .forEach(byNode ->
            byNode
                .values()
                .forEach(supplies ->
                    supplies.stream()
                        .map(Atp.Supply::countedFrom)
                        .filter(day -> day < DAYS)
                        .forEach(days::add)));
    return days;
  }

  /**
   * What there is on a day. Today it is what is free; later what is expected is there too, less
   * what orders wait for already.
   */
  private static List<Available> on(Sight sight, int day) {
    if (day == 0) {
      return sight.available();
    }
    Map<Long, Map<String, Available>> free = new LinkedHashMap<>();
    sight
        .available()
        .forEach(
            a -> free.computeIfAbsent(a.itemId(), i -> new LinkedHashMap<>()).put(a.node(), a));
    sight
        .supplies()
        .forEach((item, byNode) ->
            byNode
                .keySet()
                .forEach(node ->
                    free.computeIfAbsent(item, i -> new LinkedHashMap<>())
                        .putIfAbsent(node, new Available(item, node, 0, List.of()))));
    List<Available> then = new ArrayList<>();
    free.forEach((item, byNode) ->
        byNode.forEach((node, now) -> {
          List<Atp.Supply> supplies =
              sight.supplies().getOrDefault(item, Map.of()).getOrDefault(node, List.of());
          Atp atp =
              Atp.of(
                  now.units(),
                  supplies,
                  List.of(new Atp.Commitment(0, sight.waiting().getOrDefault(item, 0L))),
                  DAYS);
          then.add(later(now, atp.at(day)));
        }));
    return then;
  }

  /** What is still to come is fresh when it comes. */
  private static Available later(Available now, long units) {
    List<Situation.Perishable> lasting = new ArrayList<>(now.perishable());
    if (!lasting.isEmpty() && units > now.units()) {
      lasting.add(new Situation.Perishable(null, units - now.units()));
    }
    return now.with(units, lasting);
  }

  private Optional<Promised> route(Sight sight, ServiceLevel level, int day, Instant now) {
    Seen seen = sight.seen();
    OrderDemand demand =
        new OrderDemand(
            "basket",
            sight.to(),
            level,
            null,
            null,
            new OrderDemand.From(
                sight.channel().terms().nodes(), null, Set.of(), sight.wanted().homes(), Set.of()),
            sight.wanted().lines());
    Situation situation =
        new Situation(
            now,
            seen.network(),
            seen.capacities().computeIfAbsent(day, d -> nodes.capacityLeft(seen.network(), now)),
            sight.wanted().offers(on(sight, day), seen.network()));
    return Router.route(
            demand,
            seen.edition().body().ladder(null),
            seen.edition().body().policy(),
            situation,
            seen.places())
        .choice()
        .map(choice -> promised(level, choice, day == 0));
  }

  private static Promised promised(ServiceLevel level, Choice choice, boolean inStock) {
    PlannedConsignment last =
        choice.plan().consignments().stream()
            .max(Comparator.comparing(PlannedConsignment::arrival))
            .orElseThrow();
    long cost =
        choice.plan().consignments().stream()
            .mapToLong(c -> c.cost().carriage() + c.cost().handling())
            .sum();
    return new Promised(
        level, last.carrier(), last.service(), last.handOver(), last.arrival(), cost, inStock);
  }

  /** Shop pages may see all but stock as it was a moment ago; orders are routed by what it is. */
  private Seen seen() {
    Instant now = clock.instant();
    Seen last = seen;
    if (last == null || last.at().plus(STALE).isBefore(now)) {
      last =
          new Seen(
              nodes.network(),
              editions.live(),
              kits.shelf(),
              new ConcurrentHashMap<>(),
              new ConcurrentHashMap<>(),
              SingletonSupplier.of(() -> nodes.placesLeft(now)),
              now);
      seen = last;
    }
    return last;
  }

  /** Items as they were seen; those not asked for before are read. */
  private Goods goods(Seen now, Collection<String> skus) {
    List<String> unseen = skus.stream().filter(sku -> !now.items().containsKey(sku)).toList();
    if (!unseen.isEmpty()) {
      items.bySku(unseen).byId().values().forEach(i -> now.items().put(i.item().sku(), i));
    }
    return new Goods(
        skus.stream()
            .map(now.items()::get)
            .filter(Objects::nonNull)
            .distinct()
            .collect(Collectors.toMap(StockedItem::id, Function.identity())));
  }
}
