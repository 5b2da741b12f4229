package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Routes orders that share stock and places: strictly by priority class, in a class one by one in
 * listed order, each at its least cost on what is left. Says how far that is from a bound that
 * nothing can beat: what the orders would cost if each had all stock and places to itself.
 */
public final class BatchRouter {
  private BatchRouter() {}

  /**
   * @param priority class 1 is decided first
   */
  public record Order(OrderDemand demand, int priority) {}

  /**
   * @param choices of the orders as they are listed; empty: nothing of it is filled
   * @param total Σ plan cost + rung step × rung; an order of which nothing is filled counts its
   *     units’ penalties, and the number of rungs
   * @param bound no plans of the orders come to less
   */
  public record Result(List<Optional<Choice>> choices, long total, long bound) {
    public Result {
      choices = List.copyOf(choices);
    }

    /** (total − bound) ÷ bound; 0 if they are the same. */
    public double gap() {
      return total == bound ? 0 : (double) (total - bound) / Math.abs(bound);
    }
  }

  public static Result route(
      List<Order> orders, Ladder ladder, Policy policy, Situation situation) {
    Situation left = situation.copy();
    List<Optional<Choice>> choices = new ArrayList<>();
    orders.forEach(order -> choices.add(Optional.empty()));
    List<Integer> inTurn =
        IntStream.range(0, orders.size())
            .boxed()
            .sorted(Comparator.comparingInt(o -> orders.get(o).priority()))
            .toList();
    for (int o : inTurn) {
      OrderDemand demand = orders.get(o).demand();
      Optional<Choice> choice = Router.cheapestOnAnyRung(demand, ladder, policy, left);
      choices.set(o, choice);
      Map<String, String> skus = new HashMap<>();
      demand.lines().forEach(line -> skus.put(line.id(), line.item().sku()));
      choice.ifPresent(c -> c.plan().consignments().forEach(sent -> left.take(sent, skus)));
    }
    long total = 0;
    long bound = 0;
    for (int o = 0; o < orders.size(); o++) {
      OrderDemand demand = orders.get(o).demand();
      total += value(choices.get(o), demand, ladder, policy);
      bound += atLeast(demand, ladder, policy, situation);
    }
    return new Result(choices, total, Math.min(bound, total));
  }

  private static long value(
      Optional<Choice> choice, OrderDemand demand, Ladder ladder, Policy policy) {
    return choice
        .map(c -> c.plan().cost() + policy.rungStep() * c.rung())
        .orElseGet(() -> unfilled(demand, ladder, policy));
  }

  private static long unfilled(OrderDemand demand, Ladder ladder, Policy policy) {
    return units(demand) * policy.unfilledPenaltyPerUnit()
        + policy.rungStep() * ladder.rungs().size();
  }

  private static long units(OrderDemand demand) {
    return demand.lines().stream().mapToLong(OrderDemand.Line::quantity).sum();
  }

  /** What an order costs at least, whatever is done for the others. */
  private static long atLeast(
      OrderDemand demand, Ladder ladder, Policy policy, Situation situation) {
    Optional<Choice> alone = Router.cheapestOnAnyRung(demand, ladder, policy, situation);
    boolean proven = alone.map(Choice::proven).orElse(true);
    long least =
        proven
            ? Math.min(value(alone, demand, ladder, policy), unfilled(demand, ladder, policy))
            : Long.MAX_VALUE;
    for (int r = 0; r < ladder.rungs().size(); r++) {
      Rung rung = ladder.rungs().get(r);
      if (!proven || rung.cover() == Cover.MOST) {
        // any part of it may be filled there: each unit costs its least, or its penalty
        least = Math.min(least, policy.rungStep() * r + unitByUnit(demand, policy, situation));
      }
    }
    return least;
  }

  private static long unitByUnit(OrderDemand demand, Policy policy, Situation situation) {
    long least = 0;
    for (OrderDemand.Line line : demand.lines()) {
      long each = policy.unfilledPenaltyPerUnit();
      for (var node : situation.network().nodes()) {
        Situation.Offer offer = situation.offer(node.code(), line.item().sku());
        if (offer.available() > 0) {
          each =
              Math.min(
                  each,
                  node.handling().perUnit() + offer.purchasePrice() - offer.clearanceCredit());
        }
      }
      least += each * line.quantity();
    }
    return least;
  }
}
