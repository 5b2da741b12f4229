package dev.ordinator.planning;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.Zone;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.planning.PlanningCase.CaseFilter;
import dev.ordinator.planning.PlanningCase.CaseHandling;
import dev.ordinator.planning.PlanningCase.CaseItem;
import dev.ordinator.planning.PlanningCase.CaseLane;
import dev.ordinator.planning.PlanningCase.CaseLine;
import dev.ordinator.planning.PlanningCase.CaseMatch;
import dev.ordinator.planning.PlanningCase.CaseNode;
import dev.ordinator.planning.PlanningCase.CaseOrder;
import dev.ordinator.planning.PlanningCase.CasePolicy;
import dev.ordinator.planning.PlanningCase.CaseRung;
import dev.ordinator.planning.PlanningCase.CaseStep;
import dev.ordinator.planning.PlanningCase.CaseStock;
import dev.ordinator.planning.PlanningCase.CaseTo;
import dev.ordinator.planning.PlanningCase.CaseZone;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes what one order is routed by as a planning case. Nodes that may not send it are left out.
 * What the format can't say is not in it: how long lots last, which lines stay together, which
 * nodes rules prefer.
 */
public final class CaseWriter {
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  private final OrderDemand order;
  private final Situation situation;

  private CaseWriter(OrderDemand order, Situation situation) {
    this.order = order;
    this.situation = situation;
  }

  /**
   * @param currency of all amounts
   * @return a JSON document that {@code ./ordinator plan} takes
   */
  public static String write(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation, String currency) {
    return JSON.writeValueAsString(
        new CaseWriter(order, situation).written(ladder, policy, currency));
  }

  private PlanningCase written(Ladder ladder, Policy policy, String currency) {
    List<Node> nodes =
        situation.network().nodes().stream().filter(n -> order.from().admits(n.code())).toList();
    List<Item> items = order.lines().stream().map(OrderDemand.Line::item).distinct().toList();
    return new PlanningCase(
        currency,
        situation.now(),
        new CasePolicy(
            policy.splitPenalty(),
            policy.latePenaltyPerDay(),
            policy.unfilledPenaltyPerUnit(),
            policy.rungStep(),
            policy.volumeDivisor()),
        situation.network().zoneOf(order.to()).stream().map(CaseWriter::zone).toList(),
        items.stream()
            .map(
                i -> new CaseItem(i.sku(), i.weight(), i.volume(), i.hazard(), i.bannedCountries()))
            .toList(),
        nodes.stream().map(this::node).toList(),
        nodes.stream()
            .flatMap(n -> situation.network().lanes(n, order.to()).stream())
            .map(CaseWriter::lane)
            .toList(),
        nodes.stream().flatMap(n -> stock(n, items)).toList(),
        ladder.rungs().stream()
            .map(r ->
                new CaseRung(
                    r.name(), filter(r.nodes(), nodes), r.maxConsignments(), r.cover(), r.late()))
            .toList(),
        List.of(
            new CaseOrder(
                order.id(),
                new CaseTo(order.to().country(), order.to().postcode()),
                1,
                order.level(),
                order.arriveBy(),
                order.maxConsignments(),
                order.lines().stream()
                    .map(l -> new CaseLine(l.id(), l.item().sku(), l.quantity(), l.divisible()))
                    .toList())));
  }

  private static CaseZone zone(Zone zone) {
    return new CaseZone(
        zone.code(),
        zone.matches().stream().map(m -> new CaseMatch(m.country(), m.postcodes())).toList());
  }

  private CaseNode node(Node n) {
    OptionalInt left = situation.capacityLeft(n.code());
    return new CaseNode(
        n.code(),
        n.kind(),
        n.country(),
        n.timeZone().getId(),
        n.calendar().days(),
        n.calendar().holidays(),
        n.cutOff().toString(),
        n.processingDays(),
        left.isPresent() ? left.getAsInt() : null,
        new CaseHandling(
            n.handling().perConsignment(), n.handling().perLine(), n.handling().perUnit()),
        n.hazards());
  }

  private static CaseLane lane(Lane l) {
    return new CaseLane(
        l.node(),
        l.zone(),
        l.carrier(),
        l.service(),
        l.level(),
        l.workdays().days(),
        l.transitDays(),
        l.rates().steps().stream().map(s -> new CaseStep(s.upTo(), s.price())).toList(),
        l.hazards());
  }

  private Stream<CaseStock> stock(Node node, List<Item> items) {
    return items.stream()
        .map(item -> situation.offer(node.code(), item.sku()))
        .filter(offer -> offer.available() > 0)
        .map(CaseWriter::stock);
  }

  private static CaseStock stock(Offer offer) {
    return new CaseStock(
        offer.node(),
        offer.sku(),
        offer.available(),
        offer.purchasePrice(),
        offer.clearanceCredit());
  }

  /** Nodes that are not in the case can't be named in it. */
  private static CaseFilter filter(NodeFilter filter, List<Node> nodes) {
    @Nullable Set<String> codes = filter.codes();
    return new CaseFilter(
        filter.kinds(),
        codes == null
            ? null
            : nodes.stream().map(Node::code).filter(codes::contains).collect(Collectors.toSet()),
        filter.sameCountry());
  }
}
