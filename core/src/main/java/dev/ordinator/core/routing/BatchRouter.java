package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.BooleanSupplier;

/**
 * Routes orders that share stock and places: strictly by priority class, in a class at the least
 * cost of all orders together. Says how far that is from a bound that nothing can beat. The same
 * input always gives the same answer, which is never worse than serving one order after the other.
 */
public final class BatchRouter {
  private BatchRouter() {}

  /**
   * @param ladder by which it is routed
   * @param priority class 1 is decided first
   */
  public record Order(OrderDemand demand, Ladder ladder, int priority) {}

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

  public static Result route(List<Order> orders, Policy policy, Situation situation) {
    return route(orders, policy, situation, () -> false);
  }

  /**
   * @param enough asked now and then; once it says so, the best that was found so far is given:
   *     every order has a plan, and the bound holds
   */
  public static Result route(
      List<Order> orders, Policy policy, Situation situation, BooleanSupplier enough) {
    Situation left = situation.copy();
    List<Optional<Choice>> choices = new ArrayList<>();
    orders.forEach(order -> choices.add(Optional.empty()));
    SortedMap<Integer, List<Integer>> classes = new TreeMap<>();
    for (int o = 0; o < orders.size(); o++) {
      classes.computeIfAbsent(orders.get(o).priority(), p -> new ArrayList<>()).add(o);
    }
    long total = 0;
    long bound = 0;
    for (List<Integer> some : classes.values()) {
      List<Order> its = some.stream().map(orders::get).toList();
      ShareOut.Shared shared = new ShareOut(its, policy, left.copy(), enough).decide();
      for (int i = 0; i < some.size(); i++) {
        Option option = shared.options().get(i);
        Optional<Choice> choice = option.choice();
        choices.set(some.get(i), choice);
        total += option.value();
        take(choice, its.get(i).demand(), left);
      }
      bound += shared.bound();
    }
    if (classes.size() > 1) {
      // a class that was decided otherwise, at no more cost, could leave the next ones more
      bound = new ShareOut(orders, policy, situation, enough).boundOfAll();
    }
    return new Result(choices, total, Math.min(bound, total));
  }

  private static void take(Optional<Choice> choice, OrderDemand demand, Situation left) {
    Map<String, String> skus = new HashMap<>();
    demand.lines().forEach(line -> skus.put(line.id(), line.item().sku()));
    choice.ifPresent(c -> c.plan().consignments().forEach(sent -> left.take(sent, skus)));
  }
}
