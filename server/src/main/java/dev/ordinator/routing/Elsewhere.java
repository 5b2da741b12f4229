package dev.ordinator.routing;

import dev.ordinator.channels.Channels;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.Plan;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.GroundsJson.StoredCandidate;
import dev.ordinator.routing.GroundsJson.StoredPart;
import dev.ordinator.routing.Routing.Outlook;
import dev.ordinator.stock.StockLedger;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;

/**
 * Sends by hand from other nodes what of an order nobody has begun to pack. What each would cost is
 * found by doing it, in a transaction that is rolled back: it is what will be.
 */
@Service
class Elsewhere {
  private static final int MOST_NODES = 3;
  private static final int LONGEST_REASON = 200;

  private final Transactions transactions;
  private final Orders orders;
  private final Channels channels;
  private final Consignments consignments;
  private final Routing routing;
  private final Nodes nodes;
  private final OrdinatorSettings settings;
  private final ApplicationEventPublisher publisher;

  Elsewhere(
      Transactions transactions,
      Orders orders,
      Channels channels,
      Consignments consignments,
      Routing routing,
      Nodes nodes,
      OrdinatorSettings settings,
      ApplicationEventPublisher publisher) {
    this.transactions = transactions;
    this.orders = orders;
    this.channels = channels;
    this.consignments = consignments;
    this.routing = routing;
    this.nodes = nodes;
    this.settings = settings;
    this.publisher = publisher;
  }

  /**
   * @param nodes codes
   * @param cost in minor units of the base currency
   * @param late whether it would arrive after the date asked for
   */
  record Alternative(
      List<String> nodes, List<StoredPart> parts, long cost, LocalDate arrival, boolean late) {}

  /**
   * @param now as it stands, at today's stock and capacity; null: it could not be sent so again
   * @param others the cheapest first
   * @param ruledOut nodes that could not send all of it alone
   */
  record Alternatives(
      String currency,
      List<String> nowNodes,
      @Nullable Alternative now,
      List<Alternative> others,
      List<StoredCandidate> ruledOut,
      Map<String, String> nodeNames) {}

  /**
   * @param nodes codes of the nodes to send it from; each sends something
   */
  record Wish(Set<String> nodes, String reason) {}

  /**
   * @throws Problem if nothing of the order can be moved
   */
  Alternatives of(long orderId) {
    return transactions.preview(() -> {
      OrderHead order = orders.lock(orderId);
      Set<String> from = withdraw(order, "preview", "");
      Outlook outlook = outlook(order);
      Map<Set<String>, Alternative> found = new LinkedHashMap<>();
      List<StoredCandidate> ruledOut = new ArrayList<>();
      for (Candidate candidate : outlook.by(byHand(null, 1)).grounds().considered()) {
        if (candidate.finding() instanceof Finding.Priced) {
          add(found, outlook, order, byHand(Set.of(candidate.node()), 1));
        } else {
          ruledOut.add(GroundsJson.stored(candidate));
        }
      }
      Set<String> others =
          nodes.network().nodes().stream()
              .map(n -> n.code())
              .filter(code -> !from.contains(code))
              .collect(Collectors.toSet());
      add(found, outlook, order, byHand(others, MOST_NODES));
      add(found, outlook, order, byHand(null, MOST_NODES));
      Alternative now =
          alternative(outlook, order, byHand(from, from.size()))
              .filter(a -> Set.copyOf(a.nodes()).equals(from))
              .orElse(null);
      found.remove(from);
      return new Alternatives(
          settings.baseCurrency(),
          List.copyOf(from),
          now,
          found.values().stream().sorted(Comparator.comparingLong(Alternative::cost)).toList(),
          ruledOut,
          nodes.names());
    });
  }

  /**
   * @throws Problem if nothing can be moved, or those nodes can't send it
   */
  void send(long orderId, Wish wish, String actor) {
    if (wish.reason().isBlank() || wish.reason().length() > LONGEST_REASON) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    if (wish.nodes().isEmpty()) {
      throw Problem.invalid("nodes", "say from where");
    }
    try {
      transactions.run(() -> {
        OrderHead order = orders.lock(orderId);
        withdraw(order, actor, wish.reason());
        Ladder ladder = byHand(wish.nodes(), wish.nodes().size());
        Outlook outlook = outlook(order);
        outlook = outlook.asking(outlook.demand(), ladder);
        RoutingDecision decision = outlook.by(ladder);
        if (!routing.carryOut(order, outlook, decision, new Routing.By(actor, wish.reason(), 0))) {
          throw Problem.conflict("it can’t be sent from there any more; look again");
        }
        orders.setNext(orderId, Step.RELEASE);
        publisher.publishEvent(new AllUnderWay(orderId));
      });
    } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile meanwhile) {
      throw Problem.conflict("another order was faster; look again");
    }
  }

  /** Codes of the nodes that it was taken back from. */
  private Set<String> withdraw(OrderHead order, String actor, String why) {
    List<Head> taken = consignments.withdrawUnpacked(order.id(), actor, why);
    if (taken.isEmpty()) {
      throw Problem.conflict(
          "nothing of it waits at a node: it is not routed yet, or somebody packs it already");
    }
    Set<String> from = new LinkedHashSet<>();
    taken.forEach(c -> from.add(nodes.byId(c.nodeId()).code()));
    return from;
  }

  private Outlook outlook(OrderHead order) {
    List<OrderLine> lines = routing.open(order.id());
    return routing.outlook(order, lines, channels.byId(order.channelId()).terms().nodes());
  }

  /**
   * @param codes null: any node
   */
  private static Ladder byHand(@Nullable Set<String> codes, int most) {
    NodeFilter filter = new NodeFilter(null, codes, false);
    return new Ladder(
        "By hand", List.of(new Rung("By hand", filter, most, Cover.WHOLE, Late.ALLOW)));
  }

  private static void add(
      Map<Set<String>, Alternative> found, Outlook outlook, OrderHead order, Ladder ladder) {
    alternative(outlook, order, ladder)
        .ifPresent(a -> found.putIfAbsent(new LinkedHashSet<>(a.nodes()), a));
  }

  private static Optional<Alternative> alternative(
      Outlook outlook, OrderHead order, Ladder ladder) {
    return outlook
        .by(ladder)
        .choice()
        .map(Choice::plan)
        .map(plan -> alternative(plan, plan.cost(), order));
  }

  static Alternative alternative(Plan plan, long cost, OrderHead order) {
    LocalDate arrival =
        plan.consignments().stream()
            .map(PlannedConsignment::arrival)
            .max(Comparator.naturalOrder())
            .orElseThrow();
    LocalDate asked = order.arriveBy();
    return new Alternative(
        plan.consignments().stream().map(PlannedConsignment::node).toList(),
        GroundsJson.parts(plan),
        cost,
        arrival,
        asked != null && arrival.isAfter(asked));
  }
}
