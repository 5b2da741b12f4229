package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Grounds.Finding;
import dev.ordinator.core.routing.Grounds.RuledOut;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderDemand.Line;
import dev.ordinator.core.routing.PlannedConsignment.Cost;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * What a node could do for an order on a rung: rule it out and say why, or price its consignment.
 */
final class NodeOffer {
  private final OrderDemand order;
  private final Rung rung;
  private final Policy policy;
  private final Situation situation;
  private final Map<String, Long> unitsBySku;
  private final long units;
  private final long billable;

  NodeOffer(OrderDemand order, Rung rung, Policy policy, Situation situation) {
    this.order = order;
    this.rung = rung;
    this.policy = policy;
    this.situation = situation;
    // two lines may ask for the same item: together they must fit into its stock
    this.unitsBySku =
        order.lines().stream()
            .collect(
                Collectors.groupingBy(l -> l.item().sku(), Collectors.summingLong(Line::quantity)));
    this.units = order.lines().stream().mapToLong(Line::quantity).sum();
    long weight = order.lines().stream().mapToLong(l -> l.item().weight() * l.quantity()).sum();
    long volume = order.lines().stream().mapToLong(l -> l.item().volume() * l.quantity()).sum();
    this.billable = policy.billableWeight(weight, volume);
  }

  Finding from(Node node) {
    if (!order.servingNodes().isEmpty() && !order.servingNodes().contains(node.code())) {
      return out(RuledOut.NOT_SERVING, List.of());
    }
    if (order.pickUpNode() != null && !order.pickUpNode().equals(node.code())) {
      return out(RuledOut.COLLECTED_ELSEWHERE, List.of());
    }
    if (!rung.nodes().admits(node, order.to().country())) {
      return out(RuledOut.NOT_ON_RUNG, List.of());
    }
    if (order.excludedNodes().contains(node.code())) {
      return out(RuledOut.EXCLUDED_BY_RULE, List.of());
    }
    List<String> missing =
        skus(i -> situation.offer(node.code(), i.sku()).available() < unitsOf(i.sku()));
    if (!missing.isEmpty()) {
      return out(RuledOut.NO_STOCK, missing);
    }
    List<String> barred = skus(i -> !mayTravelFrom(node, i));
    if (!barred.isEmpty()) {
      return out(RuledOut.MAY_NOT_TRAVEL, barred);
    }
    return byLane(node);
  }

  private Finding byLane(Node node) {
    List<Lane> lanes =
        situation.network().lanes(node, order.to()).stream()
            .filter(l -> l.level().covers(order.level()))
            .filter(
                l -> skus(i -> i.hazard() != null && !l.hazards().contains(i.hazard())).isEmpty())
            .toList();
    if (lanes.isEmpty()) {
      return out(RuledOut.NO_LANE, List.of());
    }
    LocalDate handOver = node.handOverDay(situation.now());
    Optional<PlannedConsignment> cheapest =
        lanes.stream()
            .filter(l -> rung.late() == Late.ALLOW || daysLate(l.arrival(handOver)) == 0)
            .map(l -> price(node, l, handOver))
            // min keeps the first of equals: ties go by list order
            .min(Comparator.comparingLong(c -> c.cost().carriage() + c.cost().lateness()));
    if (cheapest.isEmpty()) {
      return out(RuledOut.TOO_LATE, List.of());
    }
    if (!situation.hasCapacity(node.code())) {
      return out(RuledOut.AT_CAPACITY, List.of());
    }
    return new Finding.Priced(cheapest.get());
  }

  private PlannedConsignment price(Node node, Lane lane, LocalDate handOver) {
    LocalDate arrival = lane.arrival(handOver);
    long purchase = 0;
    long clearance = 0;
    List<PlannedConsignment.Line> lines = new ArrayList<>();
    for (Line line : order.lines()) {
      Situation.Offer offer = situation.offer(node.code(), line.item().sku());
      purchase += offer.purchasePrice() * line.quantity();
      clearance += offer.clearanceCredit() * line.quantity();
      lines.add(new PlannedConsignment.Line(line.id(), line.quantity()));
    }
    Cost cost =
        new Cost(
            lane.rates().carriage(billable),
            node.handling().of(order.lines().size(), units),
            purchase,
            clearance,
            policy.latePenaltyPerDay() * daysLate(arrival));
    LocalDate arriveBy = order.arriveBy();
    LocalDate shipBy = arriveBy == null ? handOver : lane.shipBy(arriveBy, node.calendar());
    return new PlannedConsignment(
        node.code(),
        lane.carrier(),
        lane.service(),
        handOver,
        shipBy,
        arrival,
        billable,
        cost,
        lines);
  }

  private boolean mayTravelFrom(Node node, Item item) {
    boolean handled = item.hazard() == null || node.hazards().contains(item.hazard());
    return handled && !item.bannedCountries().contains(order.to().country());
  }

  private long daysLate(LocalDate arrival) {
    LocalDate arriveBy = order.arriveBy();
    return arriveBy == null ? 0 : Math.max(0, ChronoUnit.DAYS.between(arriveBy, arrival));
  }

  private long unitsOf(String sku) {
    return unitsBySku.getOrDefault(sku, 0L);
  }

  private List<String> skus(Predicate<Item> which) {
    return order.lines().stream().map(Line::item).filter(which).map(Item::sku).distinct().toList();
  }

  private static Finding out(RuledOut why, List<String> skus) {
    return new Finding.Out(why, skus);
  }
}
