package dev.ordinator.core.network;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How much time there is for orders, by the quickest of the ways that may serve them. Each answer
 * is worked out once, so that many orders can be asked about.
 */
public final class Deadlines {
  private final Network network;
  private final Instant now;
  private final Map<Ask, Optional<LocalDate>> known = new HashMap<>();

  /**
   * @param arriveBy null: it is asked when it arrives
   */
  private record Ask(
      String zone,
      ServiceLevel level,
      Set<String> nodes,
      @Nullable LocalDate arriveBy,
      int leadDays) {}

  public Deadlines(Network network, Instant now) {
    this.network = network;
    this.now = now;
  }

  /**
   * The latest day on which work on it can begin: {@code ship-by − processing − production lead
   * time}, in the node's workdays, at the node at which that is last.
   *
   * @param nodes codes of those that may serve it; empty: all
   * @param leadDays workdays that making it takes
   * @return empty if nothing goes there
   */
  public Optional<LocalDate> latestStart(
      Destination to, ServiceLevel level, Set<String> nodes, LocalDate arriveBy, int leadDays) {
    return answer(
        to,
        level,
        nodes,
        arriveBy,
        leadDays,
        (node, lane) ->
            node.calendar()
                .minusWorkdays(
                    lane.shipBy(arriveBy, node.calendar()), node.processingDays() + leadDays),
        Comparator.reverseOrder());
  }

  /**
   * The first day on which it can arrive if it is released now.
   *
   * @param nodes codes of those that may serve it; empty: all
   * @return empty if nothing goes there
   */
  public Optional<LocalDate> arrival(Destination to, ServiceLevel level, Set<String> nodes) {
    return answer(
        to,
        level,
        nodes,
        null,
        0,
        (node, lane) -> lane.arrival(node.handOverDay(now)),
        Comparator.naturalOrder());
  }

  private Optional<LocalDate> answer(
      Destination to,
      ServiceLevel level,
      Set<String> nodes,
      @Nullable LocalDate arriveBy,
      int leadDays,
      BiFunction<Node, Lane, LocalDate> day,
      Comparator<LocalDate> best) {
    return network
        .zoneOf(to)
        .flatMap(zone ->
            known.computeIfAbsent(
                new Ask(zone.code(), level, nodes, arriveBy, leadDays),
                ask -> days(zone.code(), level, nodes, day).min(best)));
  }

  private Stream<LocalDate> days(
      String zone, ServiceLevel level, Set<String> nodes, BiFunction<Node, Lane, LocalDate> day) {
    return network.nodes().stream()
        .filter(node -> nodes.isEmpty() || nodes.contains(node.code()))
        .flatMap(node ->
            network.lanes(node, zone).stream()
                .filter(lane -> lane.level().covers(level))
                .map(lane -> day.apply(node, lane)));
  }
}
