package dev.ordinator.core.network;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
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

  private enum What {
    ARRIVAL,
    SHIP_BY,
    START
  }

  private record Ask(
      What what,
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
        zone -> new Ask(What.START, zone, level, nodes, arriveBy, leadDays),
        (node, lane) ->
            node.calendar()
                .minusWorkdays(
                    lane.shipBy(arriveBy, node.calendar()), node.processingDays() + leadDays),
        Comparator.reverseOrder());
  }

  /**
   * The last day on which it can be handed over to arrive in time, at the node at which that is
   * last.
   *
   * @param nodes codes of those that may serve it; empty: all
   * @return empty if nothing goes there
   */
  public Optional<LocalDate> shipBy(
      Destination to, ServiceLevel level, Set<String> nodes, LocalDate arriveBy) {
    return answer(
        to,
        zone -> new Ask(What.SHIP_BY, zone, level, nodes, arriveBy, 0),
        (node, lane) -> lane.shipBy(arriveBy, node.calendar()),
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
        zone -> new Ask(What.ARRIVAL, zone, level, nodes, null, 0),
        (node, lane) -> lane.arrival(node.handOverDay(now)),
        Comparator.naturalOrder());
  }

  private Optional<LocalDate> answer(
      Destination to,
      Function<String, Ask> ask,
      BiFunction<Node, Lane, LocalDate> day,
      Comparator<LocalDate> best) {
    return network
        .zoneOf(to)
        .flatMap(zone ->
            known.computeIfAbsent(ask.apply(zone.code()), asked -> days(asked, day).min(best)));
  }

  private Stream<LocalDate> days(Ask asked, BiFunction<Node, Lane, LocalDate> day) {
    return network.nodes().stream()
        .filter(node -> asked.nodes().isEmpty() || asked.nodes().contains(node.code()))
        .flatMap(node ->
            network.lanes(node, asked.zone()).stream()
                .filter(lane -> lane.level().covers(asked.level()))
                .map(lane -> day.apply(node, lane)));
  }
}
