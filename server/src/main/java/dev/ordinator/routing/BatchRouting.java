package dev.ordinator.routing;

import dev.ordinator.channels.Channels;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.Grounds;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Plan;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.dispatch.Refusals;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.RoutingWishes;
import dev.ordinator.orders.RoutingWishes.Wishes;
import dev.ordinator.planning.CaseWriter;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Routing.By;
import dev.ordinator.routing.Routing.Outlook;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Earmarks;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Available;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Routes orders that want the same stock together. Orders with kits, and those for which something
 * is set aside, are not shared out: what there is for them is not what there is for others.
 */
@Service
public class BatchRouting {
  private final Orders orders;
  private final Routing routing;
  private final WantedReader wanted;
  private final Items items;
  private final Earmarks earmarks;
  private final Nodes nodes;
  private final Channels channels;
  private final Editions editions;
  private final RoutingWishes wishes;
  private final Refusals refusals;
  private final OrdinatorSettings settings;
  private final Clock clock;

  BatchRouting(
      Orders orders,
      Routing routing,
      WantedReader wanted,
      Items items,
      Earmarks earmarks,
      Nodes nodes,
      Channels channels,
      Editions editions,
      RoutingWishes wishes,
      Refusals refusals,
      OrdinatorSettings settings,
      Clock clock) {
    this.orders = orders;
    this.routing = routing;
    this.wanted = wanted;
    this.items = items;
    this.earmarks = earmarks;
    this.nodes = nodes;
    this.channels = channels;
    this.editions = editions;
    this.wishes = wishes;
    this.refusals = refusals;
    this.settings = settings;
    this.clock = clock;
  }

  /** What was decided of one order; empty if nothing could be given to it. */
  public record Decided(OrderHead order, Outlook outlook, Optional<Choice> choice) {
    /** What is paid for it, in minor units of the base currency. */
    public long cost() {
      return choice.map(c -> c.plan().paid(outlook.policy())).orElse(0L);
    }
  }

  /**
   * What is decided, of which nothing is done yet.
   *
   * @param alone ids of those that can only be routed each by itself
   * @param total what all decided come to, as {@link BatchRouter} counts it, and {@code bound} what
   *     they come to at least
   */
  public record Batch(List<Decided> decided, List<Long> alone, long total, long bound) {}

  /** An order with what of it is still to be sent. */
  private record Asked(OrderHead order, List<OrderLine> lines, Wanted wanted) {}

  /** Orders that share what there is, and ids of those that don't. */
  private record Sorted(List<Asked> shared, List<Long> alone) {}

  /** Decides at this moment's stock and capacity. Orders with no open line are left out. */
  public Batch decide(List<Long> orderIds) {
    Sorted sorted = sorted(orderIds);
    return sorted.shared().isEmpty()
        ? new Batch(List.of(), sorted.alone(), 0, 0)
        : decided(sorted, outlooks(sorted.shared()));
  }

  /**
   * What orders that share what there is would be routed by at this moment, as a planning case.
   *
   * @throws Problem if there are none such, or they can't be told of in one case
   */
  public String asCase(List<Long> orderIds) {
    Sorted sorted = sorted(orderIds);
    if (sorted.shared().isEmpty()) {
      throw Problem.conflict("none of these orders can be routed together with others");
    }
    List<Outlook> outlooks = outlooks(sorted.shared());
    Outlook any = outlooks.getFirst();
    List<String> codes = any.situation().network().nodes().stream().map(Node::code).toList();
    if (outlooks.stream().anyMatch(o -> !o.ladder().equals(any.ladder()))) {
      throw Problem.conflict(
          "these orders go by different ladders, and a case has one: choose those of one ladder");
    }
    if (outlooks.stream()
            .map(o -> codes.stream().filter(o.demand().from()::admits).toList())
            .distinct()
            .count()
        > 1) {
      throw Problem.conflict(
          "different nodes may send these orders, and a case can’t say so: choose those that the"
              + " same nodes may send");
    }
    return CaseWriter.write(
        asked(sorted.shared(), outlooks),
        any.edition().body().policy(),
        any.situation(),
        settings.baseCurrency());
  }

  private Sorted sorted(List<Long> orderIds) {
    Map<Long, List<OrderLine>> lines = new LinkedHashMap<>();
    for (long id : orderIds) {
      List<OrderLine> open = routing.open(id);
      if (!open.isEmpty()) {
        lines.put(id, open);
      }
    }
    Map<Long, OrderHead> heads = orders.heads(lines.keySet());
    List<Long> alone = new ArrayList<>();
    List<Asked> shared = new ArrayList<>();
    wanted
        .of(lines)
        .forEach((id, its) -> {
          if (isPlain(id, its.goods())) {
            shared.add(
                new Asked(
                    Objects.requireNonNull(heads.get(id)), lines.getOrDefault(id, List.of()), its));
          } else {
            alone.add(id);
          }
        });
    return new Sorted(shared, alone);
  }

  private boolean isPlain(long id, Goods goods) {
    return goods.byId().values().stream().noneMatch(StockedItem::isKit)
        && earmarks.forOrder(id, goods.byId().keySet()).isEmpty();
  }

  /** All at one moment, on one and the same stock. */
  private List<Outlook> outlooks(List<Asked> asked) {
    Network network = nodes.network();
    Instant now = clock.instant();
    Edition edition = editions.live();
    Goods goods =
        items.byId(
            asked.stream()
                .flatMap(a -> a.wanted().goods().byId().keySet().stream())
                .collect(Collectors.toSet()));
    List<Available> available =
        Routing.atOurs(network, items.available(goods.outOn(routing.today(now)), List.of()));
    List<OrderLine> lines = asked.stream().flatMap(a -> a.lines().stream()).toList();
    Wanted together = new Wanted(Wanted.noKits(), goods, lines, Map.of(), Map.of());
    Situation situation =
        new Situation(
            now, network, nodes.capacityLeft(network, now), together.offers(available, network));
    Map<Long, Set<String>> serving = new HashMap<>();
    List<Outlook> outlooks = new ArrayList<>();
    for (Asked one : asked) {
      OrderHead order = one.order();
      Wishes wish = wishes.of(order.id());
      OrderDemand demand =
          Demands.of(
              order,
              Routing.level(order),
              serving.computeIfAbsent(order.channelId(), c -> channels.byId(c).terms().nodes()),
              wish,
              refusals.by(order.id()).all(),
              one.wanted());
      Set<Long> its = one.wanted().goods().byId().keySet();
      List<Available> theirs = available.stream().filter(a -> its.contains(a.itemId())).toList();
      outlooks.add(
          new Outlook(
              edition,
              one.wanted(),
              theirs,
              theirs,
              situation,
              () -> nodes.placesLeft(now),
              demand,
              Demands.ladder(edition.body(), wish)));
    }
    return outlooks;
  }

  private static List<BatchRouter.Order> asked(List<Asked> orders, List<Outlook> outlooks) {
    List<BatchRouter.Order> asked = new ArrayList<>();
    for (int o = 0; o < orders.size(); o++) {
      Outlook outlook = outlooks.get(o);
      asked.add(
          new BatchRouter.Order(
              outlook.demand(), outlook.ladder(), orders.get(o).order().priority()));
    }
    return asked;
  }

  private static Batch decided(Sorted sorted, List<Outlook> outlooks) {
    Outlook any = outlooks.getFirst();
    BatchRouter.Result result =
        BatchRouter.route(
            asked(sorted.shared(), outlooks), any.edition().body().policy(), any.situation());
    List<Decided> decided = new ArrayList<>();
    for (int o = 0; o < outlooks.size(); o++) {
      decided.add(
          new Decided(sorted.shared().get(o).order(), outlooks.get(o), result.choices().get(o)));
    }
    return new Batch(decided, sorted.alone(), result.total(), result.bound());
  }

  /**
   * Plans what was decided of an order, in the caller's transaction.
   *
   * @param others how many were decided together with it
   * @return what came of it; empty if nothing was decided for it
   * @throws dev.ordinator.stock.StockLedger.TakenMeanwhile if stock went since: roll back
   * @throws Routing.FullMeanwhile likewise for a node's capacity
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<Routing.Result> carryOut(
      Decided decided, OrderHead order, int others, String actor) {
    if (decided.choice().isEmpty()) {
      return Optional.empty();
    }
    RoutingDecision decision = decision(decided);
    routing.carryOut(order, decided.outlook(), decision, new By(actor, null, others));
    return Optional.of(Routing.outcome(decided.outlook(), decision));
  }

  /** With what each node could have done, and the plan that would have been the order's alone. */
  private static RoutingDecision decision(Decided decided) {
    Ladder ladder = decided.outlook().ladder();
    RoutingDecision alone = decided.outlook().by(ladder);
    Optional<Plan> plan = alone.choice().map(Choice::plan);
    boolean same = plan.equals(decided.choice().map(Choice::plan));
    return new RoutingDecision(
        decided.choice(),
        false,
        new Grounds(alone.grounds().considered(), same ? alone.grounds().runnerUp() : plan));
  }
}
