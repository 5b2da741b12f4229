package dev.ordinator.core.routing;

import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.Rung;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Tries every way in which an order’s units can be given to nodes or be left out, and keeps the
 * best by the words of the planning case. Shares nothing with the router but the records.
 */
final class PlainSolver {
  private final OrderDemand order;
  private final Rung rung;
  private final Policy policy;
  private final Situation situation;
  private final List<Node> nodes;
  private final long[][] given;
  private @Nullable Answer best;
  private @Nullable Each each;

  /**
   * What there is to compare.
   *
   * @param places of the nodes in the listed order
   */
  record Answer(
      long missing, long cost, int consignments, LocalDate arrival, List<Integer> places) {
    static Answer of(Plan plan, Network network) {
      List<String> codes = network.nodes().stream().map(Node::code).toList();
      return new Answer(
          plan.unfilled().stream().mapToLong(PlannedConsignment.Line::quantity).sum(),
          plan.cost(),
          plan.consignments().size(),
          plan.consignments().stream()
              .map(PlannedConsignment::arrival)
              .max(Comparator.naturalOrder())
              .orElseThrow(),
          plan.consignments().stream().map(c -> codes.indexOf(c.node())).toList());
    }
  }

  private PlainSolver(OrderDemand order, Rung rung, Policy policy, Situation situation) {
    this.order = order;
    this.rung = rung;
    this.policy = policy;
    this.situation = situation;
    this.nodes =
        situation.network().nodes().stream().filter(n -> situation.hasCapacity(n.code())).toList();
    this.given = new long[nodes.size()][order.lines().size()];
  }

  static Optional<Answer> best(OrderDemand order, Rung rung, Policy policy, Situation situation) {
    PlainSolver solver = new PlainSolver(order, rung, policy, situation);
    solver.line(0);
    return Optional.ofNullable(solver.best);
  }

  /** Takes what a way takes, by node and SKU, and by node for its place. */
  interface Each {
    void way(long cost, Map<String, Long> takes);
  }

  /** Every way on a rung that fills something, whatever it leaves out if the rung may. */
  static void everyWay(
      OrderDemand order, Rung rung, Policy policy, Situation situation, Each each) {
    PlainSolver solver = new PlainSolver(order, rung, policy, situation);
    solver.each = each;
    solver.line(0);
  }

  private Map<String, Long> takes(List<Integer> sending) {
    Map<String, Long> takes = new HashMap<>();
    for (int n : sending) {
      takes.put(nodes.get(n).code(), 1L);
      for (int l = 0; l < order.lines().size(); l++) {
        if (given[n][l] > 0) {
          String what = nodes.get(n).code() + " " + order.lines().get(l).item().sku();
          takes.merge(what, given[n][l], Long::sum);
        }
      }
    }
    return takes;
  }

  private void line(int l) {
    if (l == order.lines().size()) {
      compare();
    } else {
      give(l, 0, order.lines().get(l).quantity());
    }
  }

  private void give(int l, int n, long left) {
    if (n == nodes.size()) {
      if (left == 0 || rung.cover() == Cover.MOST) {
        line(l + 1);
      }
      return;
    }
    for (long some = 0; some <= left; some++) {
      given[n][l] = some;
      give(l, n + 1, left - some);
    }
    given[n][l] = 0;
  }

  private void compare() {
    long cost = 0;
    LocalDate arrival = LocalDate.MIN;
    for (int n = 0; n < nodes.size(); n++) {
      if (Arrays.stream(given[n]).sum() > 0) {
        Sent sent = consignment(n);
        if (sent == null) {
          return;
        }
        cost += sent.cost();
        arrival = arrival.isAfter(sent.arrival()) ? arrival : sent.arrival();
      }
    }
    List<Integer> sending =
        IntStream.range(0, nodes.size())
            .filter(n -> Arrays.stream(given[n]).sum() > 0)
            .boxed()
            .toList();
    long missing = 0;
    for (int l = 0; l < order.lines().size(); l++) {
      missing += order.lines().get(l).quantity() - filled(l);
    }
    Integer own = order.maxConsignments();
    int most = own == null ? rung.maxConsignments() : Math.min(own, rung.maxConsignments());
    if (sending.isEmpty() || sending.size() > most || !isWhole()) {
      return;
    }
    cost +=
        policy.splitPenalty() * (sending.size() - 1) + policy.unfilledPenaltyPerUnit() * missing;
    if (each != null) {
      each.way(cost, takes(sending));
      return;
    }
    List<Node> listed = situation.network().nodes();
    Answer answer =
        new Answer(
            missing,
            cost,
            sending.size(),
            arrival,
            sending.stream().map(n -> listed.indexOf(nodes.get(n))).toList());
    if (best == null || ORDER.compare(answer, best) < 0) {
      best = answer;
    }
  }

  private static final Comparator<Answer> ORDER =
      Comparator.comparingLong(Answer::missing)
          .thenComparingLong(Answer::cost)
          .thenComparingInt(Answer::consignments)
          .thenComparing(Answer::arrival)
          // nodes have one digit here
          .thenComparing(a -> a.places().toString());

  private long filled(int l) {
    return Arrays.stream(given).mapToLong(from -> from[l]).sum();
  }

  /** What is not to be divided comes from one node or not at all. */
  private boolean isWhole() {
    for (int l = 0; l < order.lines().size(); l++) {
      OrderDemand.Line line = order.lines().get(l);
      for (int n = 0; n < nodes.size(); n++) {
        boolean undivided = !line.divisible() || line.together() != null;
        if (undivided && given[n][l] != 0 && given[n][l] != line.quantity()) {
          return false;
        }
        for (int other = 0; other < order.lines().size(); other++) {
          String bundle = order.lines().get(other).together();
          boolean together = line.together() != null && line.together().equals(bundle);
          if (together && (given[n][l] == 0) != (given[n][other] == 0)) {
            return false;
          }
        }
      }
    }
    return true;
  }

  private record Sent(long cost, LocalDate arrival) {}

  private @Nullable Sent consignment(int n) {
    Node node = nodes.get(n);
    long weight = 0;
    long volume = 0;
    long cost = node.handling().perConsignment();
    for (int l = 0; l < given[n].length; l++) {
      OrderDemand.Line line = order.lines().get(l);
      long units = given[n][l];
      if (units == 0) {
        continue;
      }
      String hazard = line.item().hazard();
      if ((hazard != null && !node.hazards().contains(hazard))
          || line.item().bannedCountries().contains(order.to().country())) {
        return null;
      }
      Situation.Offer offer = situation.offer(node.code(), line.item().sku());
      weight += units * line.item().weight();
      volume += units * line.item().volume();
      cost +=
          node.handling().perLine()
              + units
                  * (node.handling().perUnit() + offer.purchasePrice() - offer.clearanceCredit());
    }
    long billable = Math.max(weight, Math.ceilDiv(1000 * volume, policy.volumeDivisor()));
    Sent cheapest = null;
    for (Lane lane : situation.network().lanes(node, order.to())) {
      LocalDate arrival = lane.arrival(node.handOverDay(situation.now()));
      LocalDate asked = order.arriveBy();
      long late = asked == null ? 0 : Math.max(0, ChronoUnit.DAYS.between(asked, arrival));
      if ((late > 0 && rung.late() == Late.FORBID) || !carries(n, lane, arrival)) {
        continue;
      }
      long there = cost + lane.rates().carriage(billable) + policy.latePenaltyPerDay() * late;
      if (cheapest == null || there < cheapest.cost()) {
        cheapest = new Sent(there, arrival);
      }
    }
    return cheapest;
  }

  private boolean carries(int n, Lane lane, LocalDate arrival) {
    for (int l = 0; l < given[n].length; l++) {
      String sku = order.lines().get(l).item().sku();
      String hazard = order.lines().get(l).item().hazard();
      long units = 0;
      for (int other = 0; other < given[n].length; other++) {
        units += order.lines().get(other).item().sku().equals(sku) ? given[n][other] : 0;
      }
      boolean sent = given[n][l] > 0;
      if (sent && hazard != null && !lane.hazards().contains(hazard)) {
        return false;
      }
      if (sent && units > situation.offer(nodes.get(n).code(), sku).arrivingOn(arrival)) {
        return false;
      }
    }
    return true;
  }
}
