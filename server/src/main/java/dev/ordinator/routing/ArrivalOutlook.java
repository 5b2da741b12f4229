package dev.ordinator.routing;

import dev.ordinator.channels.Channels;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.Routing.Outlook;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Items.Available;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * When an order that waits would have arrived, all of it: routed as it will be when what it waits
 * for has come.
 */
@Component
public class ArrivalOutlook {
  private final Routing routing;
  private final Channels channels;
  private final Nodes nodes;
  private final Consignments consignments;
  private final Expected expected;
  private final OrdinatorSettings settings;
  private final Clock clock;

  ArrivalOutlook(
      Routing routing,
      Channels channels,
      Nodes nodes,
      Consignments consignments,
      Expected expected,
      OrdinatorSettings settings,
      Clock clock) {
    this.routing = routing;
    this.channels = channels;
    this.nodes = nodes;
    this.consignments = consignments;
    this.expected = expected;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * The day on which the last of it arrives.
   *
   * @param ready the day on which all that it lacks is there
   * @param missing units that it lacks, by item
   * @return empty if no rung finds a way even then
   */
  public Optional<LocalDate> arrival(OrderHead order, LocalDate ready, Map<Long, Long> missing) {
    List<OrderLine> open = routing.open(order.id());
    if (open.isEmpty()) {
      return Optional.empty();
    }
    Outlook outlook =
        routing.outlook(order, open, channels.byId(order.channelId()).terms().nodes());
    Network network = outlook.situation().network();
    Instant then = ready.atStartOfDay(settings.timeZone()).toInstant();
    Instant now = then.isAfter(clock.instant()) ? then : clock.instant();
    List<Available> there = with(outlook.available(), come(ready, missing, network), missing);
    return outlook
        .at(
            new Situation(
                now,
                network,
                nodes.capacityLeft(network, now),
                outlook.wanted().offers(there, network)))
        .by(outlook.ladder())
        .choice()
        .flatMap(ArrivalOutlook::last)
        .map(last -> notBeforeWhatIsUnderWay(order.id(), last));
  }

  private LocalDate notBeforeWhatIsUnderWay(long orderId, LocalDate day) {
    return consignments.ofOrder(orderId).stream()
        .filter(c -> !c.state().isOff())
        .map(Consignments.Head::arrivalOn)
        .filter(arrival -> arrival.isAfter(day))
        .max(LocalDate::compareTo)
        .orElse(day);
  }

  private static Optional<LocalDate> last(Choice choice) {
    return choice.plan().consignments().stream()
        .map(PlannedConsignment::arrival)
        .max(LocalDate::compareTo);
  }

  /** Where what is missing comes to by then; if nobody knows, it may be anywhere. */
  private Map<Long, Set<String>> come(LocalDate ready, Map<Long, Long> missing, Network network) {
    Map<Long, Map<String, List<Atp.Supply>>> supplies = expected.suppliesByNode(missing.keySet());
    LocalDate today = expected.today();
    Map<Long, Set<String>> come = new HashMap<>();
    missing
        .keySet()
        .forEach(item -> {
          Set<String> at = new HashSet<>();
          supplies
              .getOrDefault(item, Map.of())
              .forEach((node, its) -> {
                if (its.stream().anyMatch(s -> !today.plusDays(s.countedFrom()).isAfter(ready))) {
                  at.add(node);
                }
              });
          if (at.isEmpty()) {
            network.nodes().stream().map(Node::code).forEach(at::add);
          }
          come.put(item, at);
        });
    return come;
  }

  /** As much of it as the order lacks is at each node to which it comes. */
  private static List<Available> with(
      List<Available> available, Map<Long, Set<String>> come, Map<Long, Long> missing) {
    List<Available> there = new ArrayList<>();
    Map<Long, Set<String>> left = new HashMap<>();
    come.forEach((item, at) -> left.put(item, new HashSet<>(at)));
    for (Available now : available) {
      boolean comes = left.getOrDefault(now.itemId(), Set.of()).remove(now.node());
      long units = comes ? missing.getOrDefault(now.itemId(), 0L) : 0;
      there.add(units > now.units() ? now.with(units, List.of()) : now);
    }
    left.forEach((item, at) ->
        at.forEach(node ->
            there.add(new Available(item, node, missing.getOrDefault(item, 0L), List.of()))));
    return there;
  }
}
