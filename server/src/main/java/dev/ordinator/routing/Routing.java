package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;

import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Pick;
import dev.ordinator.kits.OrderKits;
import dev.ordinator.kits.OrderKits.Part;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Texts;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.Kits;
import dev.ordinator.stock.Kits.Shelf;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Routes orders: asks core for a decision, keeps its grounds, plans its consignments. */
@Service
public class Routing {
  private final DSLContext db;
  private final Orders orders;
  private final Items items;
  private final Kits kits;
  private final OrderKits orderKits;
  private final Nodes nodes;
  private final Editions editions;
  private final Consignments consignments;
  private final Events events;
  private final GroundsJson groundsJson;
  private final Clock clock;

  Routing(
      DSLContext db,
      Orders orders,
      Items items,
      Kits kits,
      OrderKits orderKits,
      Nodes nodes,
      Editions editions,
      Consignments consignments,
      Events events,
      GroundsJson groundsJson,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.items = items;
    this.kits = kits;
    this.orderKits = orderKits;
    this.nodes = nodes;
    this.editions = editions;
    this.consignments = consignments;
    this.events = events;
    this.groundsJson = groundsJson;
    this.clock = clock;
  }

  /** How routing an order ended. */
  public sealed interface Result {
    record Routed() implements Result {}

    /** No node has all of it; these items are what is short everywhere. */
    record Short(Set<Long> itemIds) implements Result {}

    /** Every node that could has no place left on its day. */
    record Full() implements Result {}

    /** There is stock, but nothing that may bring it there. */
    record NoWay() implements Result {}
  }

  /** The node's day filled up since the situation was looked at. */
  public static final class FullMeanwhile extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private FullMeanwhile(String node) {
      super(node + " filled up meanwhile");
    }
  }

  /**
   * Decides and plans, all in the caller's transaction.
   *
   * @param servingNodes the nodes that serve its channel; empty: all do
   * @throws dev.ordinator.stock.StockLedger.TakenMeanwhile if stock went since it was looked at:
   *     roll back and route again
   * @throws FullMeanwhile likewise for the node's capacity
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Result route(OrderHead order, Set<String> servingNodes, String actor) {
    Edition edition = editions.live();
    List<OrderLine> lines = orders.lines(order.id()).stream().filter(OrderLine::isOpen).toList();
    Goods ordered =
        items.byId(lines.stream().map(l -> Objects.requireNonNull(l.itemId())).distinct().toList());
    boolean anyKit = ordered.byId().values().stream().anyMatch(StockedItem::isKit);
    Wanted wanted = anyKit ? withKits(order, lines, ordered) : plain(ordered, lines);
    Instant now = clock.instant();
    Network network = nodes.network();
    Set<String> ours = network.nodes().stream().map(Node::code).collect(Collectors.toSet());
    List<Items.Available> available =
        items.available(wanted.itemIds()).stream().filter(a -> ours.contains(a.node())).toList();
    Situation situation =
        new Situation(now, network, nodes.capacityLeft(network, now), wanted.offers(available));
    RoutingDecision decision =
        Router.route(
            demand(order, servingNodes, wanted.lines()),
            edition.body().ladder(),
            edition.body().policy(),
            situation);
    keep(order, edition, decision, actor);
    if (decision.choice().isEmpty()) {
      return decision.grounds().fullOnly()
          ? new Result.Full()
          : unfilled(wanted.shortOf(available));
    }
    Choice choice = decision.choice().get();
    for (PlannedConsignment planned : choice.consignments()) {
      plan(order, edition, choice.rung(), planned, wanted.picks(available, planned.node()), actor);
    }
    consignments.refresh(order.id());
    return new Result.Routed();
  }

  private static Wanted plain(Goods ordered, List<OrderLine> lines) {
    return new Wanted(Wanted.noKits(), ordered, lines, Map.of(), Map.of());
  }

  /** Kits that are not apart yet are taken apart now. */
  private Wanted withKits(OrderHead order, List<OrderLine> lines, Goods ordered) {
    Shelf shelf = kits.shelf();
    orderKits.explodeRouted(order.id(), shelf);
    List<String> skus = ordered.byId().values().stream().map(g -> g.item().sku()).toList();
    Set<Long> reach = new HashSet<>(ordered.byId().keySet());
    skus.stream()
        .filter(s -> shelf.book().kit(s) != null)
        .forEach(s -> reach.addAll(shelf.reach(s)));
    Map<Long, List<Part>> components = orderKits.components(order.id());
    components.values().forEach(parts -> parts.forEach(p -> reach.add(p.itemId())));
    Goods goods = items.byId(reach);
    Map<Long, Map<String, Long>> apart = new HashMap<>();
    components.forEach((line, parts) -> {
      Map<String, Long> units = new LinkedHashMap<>();
      parts.forEach(p -> units.put(goods.of(p.itemId()).item().sku(), p.quantity()));
      apart.put(line, units);
    });
    return new Wanted(shelf, goods, lines, orderKits.chosen(order.id()), apart);
  }

  private OrderDemand demand(
      OrderHead order, Set<String> servingNodes, List<OrderDemand.Line> lines) {
    return new OrderDemand(
        order.number(),
        new Destination(order.shipTo().country(), order.shipTo().postcode()),
        Objects.requireNonNull(order.level(), "an order is checked before it is routed"),
        order.arriveBy(),
        servingNodes,
        order.pickUpNode(),
        orders.excludedNodes(order.id()),
        lines);
  }

  private void plan(
      OrderHead order,
      Edition edition,
      int rung,
      PlannedConsignment planned,
      List<Pick> picks,
      String actor) {
    NodeCard node = nodes.byCode(planned.node());
    if (!nodes.takePlace(node, planned.handOver())) {
      throw new FullMeanwhile(node.name());
    }
    events.record(
        EventKind.ROUTED,
        order.id(),
        null,
        actor,
        "Routed to " + node.name(),
        "rung %d of %d, “%s”; leaves %s, arrives %s; edition %d"
            .formatted(
                rung + 1,
                edition.body().ladder().rungs().size(),
                edition.body().ladder().rungs().get(rung).name(),
                Texts.day(planned.handOver()),
                Texts.day(planned.arrival()),
                edition.number()));
    consignments.plan(order, node, planned, picks);
  }

  private void keep(OrderHead order, Edition edition, RoutingDecision decision, String actor) {
    int rungs = edition.body().ladder().rungs().size();
    db.insertInto(DECISION)
        .set(DECISION.ORDER_ID, order.id())
        .set(DECISION.EDITION_ID, edition.id())
        .set(DECISION.RUNG, decision.choice().map(Choice::rung).orElse(null))
        .set(
            DECISION.RUNG_NAME,
            decision
                .choice()
                .map(c -> edition.body().ladder().rungs().get(c.rung()).name())
                .orElse(""))
        .set(DECISION.RUNGS, rungs)
        .set(DECISION.COST, decision.choice().map(Choice::cost).orElse(0L))
        .set(DECISION.GROUNDS, groundsJson.write(decision))
        .set(DECISION.ACTOR, actor)
        .set(DECISION.AT, clock.instant())
        .execute();
  }

  private static Result unfilled(Set<Long> shortOf) {
    return shortOf.isEmpty() ? new Result.NoWay() : new Result.Short(shortOf);
  }
}
