package dev.ordinator.rehearsal;

import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.PlacesLeft;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Router;
import dev.ordinator.core.routing.RoutingDecision;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.network.NetworkHistory;
import dev.ordinator.orders.RoutingWishes.Wishes;
import dev.ordinator.routing.Demands;
import dev.ordinator.routing.GroundsJson;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Available;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Past orders under one edition, one after the other, each at the stock and capacity that the ones
 * before it have left of its day. Holds are not waited for.
 */
final class Rerun {
  private final Rulebook book;
  private final PastNetworks networks;
  private final PastStock.Taken taken;
  private final Items items;
  private final Map<String, Map<LocalDate, Integer>> load = new HashMap<>();

  Rerun(Rulebook book, PastNetworks networks, PastStock.Taken taken, Items items) {
    this.book = book;
    this.networks = networks;
    this.taken = taken;
    this.items = items;
  }

  record Decided(Ladder ladder, RoutingDecision decision, Policy policy) {
    /** What is paid for it, in minor units of the base currency; 0 if nothing can be sent. */
    long cost() {
      return decision.choice().map(c -> c.plan().paid(policy)).orElse(0L);
    }

    Outcome outcome() {
      return decision
          .choice()
          .map(c -> new Outcome(GroundsJson.parts(c.plan()), cost()))
          .orElse(new Outcome(List.of(), 0));
    }
  }

  Decided decide(PastOrder order) {
    NetworkHistory.State then = networks.at(order.at());
    Network network = then.network();
    List<Available> available = new ArrayList<>(taken.left(order.wanted().goods()));
    available.addAll(items.plenty(order.wanted().goods()));
    available.removeIf(a -> network.place(a.node()) < 0);
    OrderFacts facts =
        book.looksAtStock()
            ? order.facts().stocked(order.wanted().stock(available))
            : order.facts();
    Said said = rules(facts, order.level());
    PlacesLeft places = placesLeft(then);
    Situation situation =
        new Situation(
            order.at(),
            network,
            today(places, order, network),
            order.wanted().offers(available, network));
    Ladder ladder = Demands.ladder(book, said.wishes());
    RoutingDecision decision =
        Router.route(
            Demands.of(
                order.head(),
                said.level(),
                order.serving(),
                said.wishes(),
                Set.of(),
                order.wanted()),
            ladder,
            book.policy(),
            situation,
            () -> places);
    decision
        .choice()
        .ifPresent(c -> c.plan().consignments().forEach(p -> take(order, available, p)));
    return new Decided(ladder, decision, book.policy());
  }

  private void take(PastOrder order, List<Available> available, PlannedConsignment planned) {
    order
        .wanted()
        .picks(available, planned)
        .forEach(pick -> taken.take(pick.itemId(), planned.node(), pick.quantity()));
    load.computeIfAbsent(planned.node(), n -> new HashMap<>())
        .merge(planned.handOver(), 1, Integer::sum);
  }

  /** What nodes can still take on their days, after the orders before this one. */
  private PlacesLeft placesLeft(NetworkHistory.State then) {
    return (node, day) -> {
      Integer most = then.most(node, day);
      return most == null
          ? Integer.MAX_VALUE
          : most - load.getOrDefault(node, Map.of()).getOrDefault(day, 0);
    };
  }

  private static Map<String, Integer> today(PlacesLeft places, PastOrder order, Network network) {
    Map<String, Integer> left = new HashMap<>();
    for (Node node : network.nodes()) {
      left.put(node.code(), places.on(node.code(), node.handOverDay(order.at())));
    }
    return left;
  }

  /** What rules make of an order before it is routed. */
  private record Said(ServiceLevel level, Wishes wishes) {}

  /** The rules for everything that happens to an order before it is routed, one after the other. */
  private Said rules(OrderFacts facts, ServiceLevel asked) {
    List<RuleEvent> events = new ArrayList<>(List.of(RuleEvent.RECEIVED));
    if (facts.payment().hasBeenPaid()) {
      events.add(RuleEvent.PAID);
    }
    events.add(RuleEvent.APPROVED);
    OrderFacts seen = facts;
    ServiceLevel level = asked;
    @Nullable String ladder = null;
    @Nullable Boolean maySplit = null;
    @Nullable Boolean inPart = null;
    Set<String> excluded = new HashSet<>();
    Set<String> preferred = new HashSet<>();
    for (RuleEvent event : events) {
      RuleOutcome outcome = DeskRules.evaluate(book.groups(), event, seen);
      seen = seen.withTags(outcome.tags());
      level = outcome.level().orElse(level);
      ladder = outcome.ladder().orElse(ladder);
      maySplit = outcome.maySplit().orElse(maySplit);
      inPart = outcome.inPart().orElse(inPart);
      excluded.addAll(outcome.excludedNodes());
      preferred.addAll(outcome.preferredNodes());
    }
    return new Said(level, new Wishes(ladder, maySplit, inPart, excluded, preferred));
  }
}
