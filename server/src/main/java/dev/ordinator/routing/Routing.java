package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;

import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.PlacesLeft;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Pick;
import dev.ordinator.dispatch.Refusals;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.RoutingWishes;
import dev.ordinator.orders.RoutingWishes.Wishes;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Earmarks;
import dev.ordinator.stock.Items;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Routes orders: asks core for a decision, keeps its grounds, plans its consignments. */
@Service
public class Routing {
  private final DSLContext db;
  private final Orders orders;
  private final Items items;
  private final WantedReader wantedReader;
  private final Nodes nodes;
  private final Editions editions;
  private final RoutingWishes wishes;
  private final Consignments consignments;
  private final Refusals refusals;
  private final Earmarks earmarks;
  private final Events events;
  private final GroundsJson groundsJson;
  private final OrdinatorSettings settings;
  private final Clock clock;

  Routing(
      DSLContext db,
      Orders orders,
      Items items,
      WantedReader wantedReader,
      Nodes nodes,
      Editions editions,
      RoutingWishes wishes,
      Consignments consignments,
      Refusals refusals,
      Earmarks earmarks,
      Events events,
      GroundsJson groundsJson,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.items = items;
    this.wantedReader = wantedReader;
    this.nodes = nodes;
    this.editions = editions;
    this.wishes = wishes;
    this.consignments = consignments;
    this.refusals = refusals;
    this.earmarks = earmarks;
    this.events = events;
    this.groundsJson = groundsJson;
    this.settings = settings;
    this.clock = clock;
  }

  /** How routing an order ended. */
  public sealed interface Result {
    record Routed() implements Result {}

    /** Some of it; this is what is missing of the rest. */
    record Partly(List<Shortage> missing) implements Result {}

    /** No node has all of it; this is what is short everywhere. */
    record Short(List<Shortage> missing) implements Result {}

    /** Those who have all of it have refused it. */
    record Refused() implements Result {}

    /** Every node that could has no place left on its days to come. */
    record Full() implements Result {}

    /** There is stock, but nothing that may bring it there. */
    record NoWay() implements Result {}
  }

  /**
   * What a line waits for.
   *
   * @param itemId of a kit's line, that of a component
   * @param units of that item that the line still needs
   * @param lacking false: they could be had, but go with the rest of the order
   */
  public record Shortage(long lineId, long itemId, long units, boolean lacking) {}

  /** The node's day filled up since the situation was looked at. */
  public static final class FullMeanwhile extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private FullMeanwhile(String node) {
      super(node + " filled up meanwhile");
    }
  }

  /**
   * What of an order is still to be routed, and what that is decided from.
   *
   * @param all what nodes have of it, before kits are seen as their components
   * @param available the same without what nodes have refused
   * @param places asked if every node that could is full on its day
   * @param ladder the one that rules chose for it
   */
  record Outlook(
      Edition edition,
      Wanted wanted,
      List<Items.Available> all,
      List<Items.Available> available,
      Situation situation,
      Supplier<PlacesLeft> places,
      OrderDemand demand,
      Ladder ladder) {

    /** The same, if something else were asked. */
    Outlook asking(OrderDemand other, Ladder otherLadder) {
      return new Outlook(edition, wanted, all, available, situation, places, other, otherLadder);
    }

    /** The same at another moment. */
    Outlook at(Situation other) {
      return new Outlook(edition, wanted, all, available, other, places, demand, ladder);
    }

    /** Whether only those have all of it who have refused it. */
    boolean isRefused(List<Items.Available> possible) {
      OrderDemand.From from = demand.from();
      List<Items.Available> theirs =
          all.stream().filter(a -> from.withoutRefusals().admits(a.node())).toList();
      return !wanted.shortOf(possible).isEmpty() && wanted.shortOf(theirs).isEmpty();
    }

    Policy policy() {
      return edition.body().policy();
    }

    RoutingDecision by(Ladder ladder) {
      return Router.route(demand, ladder, policy(), situation, places);
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
    List<OrderLine> lines = open(order.id());
    if (lines.isEmpty()) {
      return new Result.Routed();
    }
    Outlook outlook = outlook(order, lines, servingNodes);
    RoutingDecision decision = outlook.by(outlook.ladder());
    if (carryOut(order, outlook, decision, new By(actor, null, 0))) {
      return outcome(outlook, decision);
    }
    List<Items.Available> possible =
        outlook.available().stream().filter(a -> outlook.demand().from().admits(a.node())).toList();
    if (outlook.isRefused(possible)) {
      return new Result.Refused();
    }
    return decision.full() ? new Result.Full() : unfilled(outlook.wanted(), possible, decision);
  }

  Outlook outlook(OrderHead order, List<OrderLine> lines, Set<String> servingNodes) {
    Wanted wanted = wantedReader.toRoute(order.id(), lines);
    Instant now = clock.instant();
    Network network = nodes.network();
    Refusals.Barred barred = refusals.by(order.id());
    List<Items.Available> all =
        atOurs(
            network,
            items.available(
                wanted.goods().outOn(today(now)), earmarks.forOrder(order.id(), wanted.itemIds())));
    List<Items.Available> available =
        all.stream().filter(a -> barred.admits(a.node(), a.itemId())).toList();
    Situation situation =
        new Situation(
            now, network, nodes.capacityLeft(network, now), wanted.offers(available, network));
    Edition edition = editions.live();
    Wishes its = wishes.of(order.id());
    return new Outlook(
        edition,
        wanted,
        all,
        available,
        situation,
        () -> nodes.placesLeft(now),
        Demands.of(order, level(order), servingNodes, its, barred.nodes(), wanted),
        Demands.ladder(edition.body(), its));
  }

  /**
   * Who decides.
   *
   * @param reason why a person sends it otherwise than the rulebook would; null: nobody does
   * @param others orders that were decided together with it
   */
  record By(String actor, @Nullable String reason, int others) {}

  /**
   * Keeps a decision with its grounds, and plans what it chose.
   *
   * @return whether it chose anything
   */
  boolean carryOut(OrderHead order, Outlook outlook, RoutingDecision decision, By by) {
    keep(order, outlook, decision, by);
    Optional<Choice> choice = decision.choice();
    choice.ifPresent(c -> {
      String grounds = grounds(outlook, c, by);
      c.plan()
          .consignments()
          .forEach(planned ->
              plan(
                  order,
                  planned,
                  outlook.wanted().picks(outlook.available(), planned),
                  by.actor(),
                  grounds));
      consignments.refresh(order.id());
    });
    return choice.isPresent();
  }

  private static String grounds(Outlook outlook, Choice choice, By by) {
    if (by.reason() != null) {
      return "by hand: " + by.reason();
    }
    List<Ladder.Rung> rungs = outlook.ladder().rungs();
    return "rung %d of %d, “%s”; edition %d%s"
        .formatted(
            choice.rung() + 1,
            rungs.size(),
            rungs.get(choice.rung()).name(),
            outlook.edition().number(),
            by.others() == 0 ? "" : "; decided together with %d others".formatted(by.others()));
  }

  /** The merchant's day. */
  LocalDate today(Instant now) {
    return now.atZone(settings.timeZone()).toLocalDate();
  }

  /** Only what nodes have that send for us. */
  static List<Items.Available> atOurs(Network network, List<Items.Available> available) {
    Set<String> ours = network.nodes().stream().map(Node::code).collect(Collectors.toSet());
    return available.stream().filter(a -> ours.contains(a.node())).toList();
  }

  static ServiceLevel level(OrderHead order) {
    return Objects.requireNonNull(order.level(), "an order is checked before it is routed");
  }

  /** Whether all of an order is with nodes. */
  public boolean isWhole(long orderId) {
    return open(orderId).isEmpty();
  }

  /** Lines with what of them no node is sending already. */
  List<OrderLine> open(long orderId) {
    Map<Long, Long> underWay = consignments.underWay(orderId);
    return orders.lines(orderId).stream()
        .map(line -> line.less(underWay.getOrDefault(line.id(), 0L)))
        .filter(OrderLine::isOpen)
        .toList();
  }

  private void plan(
      OrderHead order, PlannedConsignment planned, List<Pick> picks, String actor, String by) {
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
        "%s; leaves %s, arrives %s"
            .formatted(by, Texts.day(planned.handOver()), Texts.day(planned.arrival())));
    consignments.plan(order, node, planned, picks);
  }

  private void keep(OrderHead order, Outlook outlook, RoutingDecision decision, By by) {
    Optional<Choice> choice = decision.choice();
    List<Ladder.Rung> rungs = outlook.ladder().rungs();
    db.insertInto(DECISION)
        .set(DECISION.ORDER_ID, order.id())
        .set(DECISION.EDITION_ID, outlook.edition().id())
        .set(DECISION.RUNG, choice.map(Choice::rung).orElse(null))
        .set(DECISION.RUNG_NAME, choice.map(c -> rungs.get(c.rung()).name()).orElse(""))
        .set(DECISION.RUNGS, rungs.size())
        .set(DECISION.COST, choice.map(c -> c.plan().paid(outlook.policy())).orElse(0L))
        .set(
            DECISION.GROUNDS,
            groundsJson.write(decision, outlook.policy(), outlook.wanted().asked()))
        .set(DECISION.ACTOR, by.actor())
        .set(DECISION.OVERRIDE_REASON, by.reason())
        .set(DECISION.AT, clock.instant())
        .execute();
  }

  /** What a decision that chose something leaves. */
  static Result outcome(Outlook outlook, RoutingDecision decision) {
    List<Shortage> rest =
        decision
            .choice()
            .map(c -> outlook.wanted().shortages(c.plan().unfilled()))
            .orElse(List.of());
    return rest.isEmpty() ? new Result.Routed() : new Result.Partly(rest);
  }

  /** What no node has, or none has that would last, is short; else nothing may bring it there. */
  private static Result unfilled(
      Wanted wanted, List<Items.Available> possible, RoutingDecision decision) {
    Set<Long> shortOf = wanted.shortOf(possible);
    if (shortOf.isEmpty()) {
      shortOf = wanted.ids(decision.grounds().expiring());
    }
    return shortOf.isEmpty() ? new Result.NoWay() : new Result.Short(wanted.shortages(shortOf));
  }
}
