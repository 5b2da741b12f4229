package dev.ordinator.planning;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.Zone;
import dev.ordinator.core.routing.BatchRouter;
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
 * Writes what orders are routed by as a planning case. Nodes that may send none of them are left
 * out. What the format can't say is not in it: how long lots last, which lines stay together, which
 * nodes rules prefer.
 */
public final class CaseWriter {
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  private final List<BatchRouter.Order> orders;
  private final Situation situation;

  private CaseWriter(List<BatchRouter.Order> orders, Situation situation) {
    this.orders = orders;
    this.situation = situation;
  }

  /**
   * @param orders at least one; all by one ladder, and admitting the same nodes
   * @param currency of all amounts
   * @return a JSON document that {@code ./ordinator plan} takes
   */
  public static String write(
      List<BatchRouter.Order> orders, Policy policy, Situation situation, String currency) {
    return JSON.writeValueAsString(new CaseWriter(orders, situation).written(policy, currency));
  }

  private PlanningCase written(Policy policy, String currency) {
    BatchRouter.Order any = orders.getFirst();
    List<Node> nodes =
        situation.network().nodes().stream()
            .filter(n -> any.demand().from().admits(n.code()))
            .toList();
    List<Item> items =
        orders.stream()
            .flatMap(o -> o.demand().lines().stream())
            .map(OrderDemand.Line::item)
            .distinct()
            .toList();
    Set<Zone> reached =
        orders.stream()
            .flatMap(o -> situation.network().zoneOf(o.demand().to()).stream())
            .collect(Collectors.toSet());
    List<Zone> zones = situation.network().zones().stream().filter(reached::contains).toList();
    return new PlanningCase(
        currency,
        situation.now(),
        new CasePolicy(
            policy.splitPenalty(),
            policy.latePenaltyPerDay(),
            policy.unfilledPenaltyPerUnit(),
            policy.rungStep(),
            policy.volumeDivisor()),
        zones.stream().map(CaseWriter::zone).toList(),
        items.stream()
            .map(
                i -> new CaseItem(i.sku(), i.weight(), i.volume(), i.hazard(), i.bannedCountries()))
            .toList(),
        nodes.stream().map(this::node).toList(),
        nodes.stream()
            .flatMap(
                n -> zones.stream().flatMap(z -> situation.network().lanes(n, z.code()).stream()))
            .map(CaseWriter::lane)
            .toList(),
        nodes.stream().flatMap(n -> stock(n, items)).toList(),
        any.ladder().rungs().stream()
            .map(r ->
                new CaseRung(
                    r.name(), filter(r.nodes(), nodes), r.maxConsignments(), r.cover(), r.late()))
            .toList(),
        orders.stream().map(CaseWriter::order).toList());
  }

  private static CaseOrder order(BatchRouter.Order order) {
    OrderDemand demand = order.demand();
    return new CaseOrder(
        demand.id(),
        new CaseTo(demand.to().country(), demand.to().postcode()),
        order.priority(),
        demand.level(),
        demand.arriveBy(),
        demand.maxConsignments(),
        demand.lines().stream()
            .map(l -> new CaseLine(l.id(), l.item().sku(), l.quantity(), l.divisible()))
            .toList());
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
