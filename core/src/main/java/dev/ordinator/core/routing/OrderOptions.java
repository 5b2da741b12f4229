package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What is known that could be done for one order of a batch; at first only to fill nothing. */
final class OrderOptions {
  /**
   * @param choice empty: nothing of it is filled
   * @param value plan cost + rung step × rung
   */
  record Option(Optional<Choice> choice, long value, Takes takes) {}

  private final OrderDemand demand;
  private final List<Rung> rungs;
  private final Router router;
  private final Policy policy;
  private final Map<String, String> skuByLine = new HashMap<>();
  private final List<Option> options = new ArrayList<>();
  private final int consignments;
  private @Nullable Charges asked;
  private long knownUpTo;

  /**
   * @param situation with all that the orders share
   */
  OrderOptions(BatchRouter.Order order, Policy policy, Situation situation) {
    this.demand = order.demand();
    this.rungs = order.ladder().rungs();
    this.policy = policy;
    Integer most = demand.maxConsignments();
    int any = rungs.stream().mapToInt(Rung::maxConsignments).max().orElse(0);
    this.consignments = most == null ? any : Math.min(most, any);
    this.router = new Router(demand, policy, situation);
    demand.lines().forEach(line -> skuByLine.put(line.id(), line.item().sku()));
    options.add(
        new Option(
            Optional.empty(),
            units() * policy.unfilledPenaltyPerUnit() + policy.rungStep() * rungs.size(),
            Takes.NOTHING));
  }

  List<Rung> rungs() {
    return rungs;
  }

  OrderDemand demand() {
    return demand;
  }

  Router router() {
    return router;
  }

  Map<String, String> skuByLine() {
    return skuByLine;
  }

  List<Option> all() {
    return options;
  }

  Option unfilled() {
    return options.getFirst();
  }

  /**
   * Remembers what could be done. Of two ways that take the same, the dearer is forgotten.
   *
   * @return the number of the option
   */
  int add(Choice choice, Shelves shelves) {
    Option option =
        new Option(
            Optional.of(choice),
            choice.plan().cost() + policy.rungStep() * choice.rung(),
            shelves.takes(choice.plan(), skuByLine));
    for (int i = 1; i < options.size(); i++) {
      if (options.get(i).takes().same(option.takes())) {
        if (option.value() < options.get(i).value()) {
          options.set(i, option);
        }
        return i;
      }
    }
    options.add(option);
    return options.size() - 1;
  }

  /** The least that anything known comes to with charges. */
  long least(Charges charges) {
    long least = Long.MAX_VALUE;
    for (Option option : options) {
      least = Math.min(least, charges.charged(option));
    }
    return least;
  }

  /** All that comes to less than this with charges is known. */
  void knows(Charges charges, long upTo) {
    asked = charges;
    knownUpTo = upTo;
  }

  /** The charges with which it was last asked what is best. */
  Charges asked() {
    return Objects.requireNonNull(asked);
  }

  /**
   * What is not known comes to no less than this.
   *
   * @param fall since it was asked
   */
  long unknownFrom(Fall fall) {
    return knownUpTo - fall.of(demand, consignments);
  }

  private long units() {
    return demand.lines().stream().mapToLong(OrderDemand.Line::quantity).sum();
  }
}
