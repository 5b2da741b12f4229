package dev.ordinator.desk;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.routing.BatchRouting;
import dev.ordinator.routing.BatchRouting.Batch;
import dev.ordinator.routing.BatchRouting.Decided;
import dev.ordinator.routing.Routing;
import dev.ordinator.stock.StockLedger;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Routes orders together that a person chose, whether their channel waits for its batch or is
 * paused. What would come of it is seen first.
 */
@Service
class Together {
  private static final int MOST = 1_000;

  private final Orders orders;
  private final BatchRouting routing;
  private final RouteStep step;
  private final Nodes nodes;
  private final Transactions transactions;
  private final OrdinatorSettings settings;

  Together(
      Orders orders,
      BatchRouting routing,
      RouteStep step,
      Nodes nodes,
      Transactions transactions,
      OrdinatorSettings settings) {
    this.orders = orders;
    this.routing = routing;
    this.step = step;
    this.nodes = nodes;
    this.transactions = transactions;
    this.settings = settings;
  }

  /**
   * @param nodes codes; empty: nothing could be given to it
   * @param cost minor units of the base currency
   * @param late whether it would arrive after the day asked for
   */
  record Planned(
      long orderId,
      String number,
      List<String> nodes,
      long cost,
      @Nullable LocalDate arrival,
      boolean late) {}

  /** An order that can't be routed with the others, and why. */
  record Left(long orderId, String number, String why) {}

  /**
   * @param planned in the order in which they were decided
   * @param total what they come to, with what steps down the ladder and unfilled units count;
   *     {@code bound}: nothing could come to less
   * @param consignments by nodes' codes
   */
  record Preview(
      String currency,
      List<Planned> planned,
      List<Left> left,
      long total,
      long bound,
      Map<String, Integer> consignments,
      Map<String, String> nodeNames) {}

  /**
   * @param routed how many were
   * @param left those that could not be, with the reason
   */
  record Done(int routed, List<Left> left) {}

  Preview preview(Collection<Long> ids) {
    List<Left> left = new ArrayList<>();
    Batch batch = routing.decide(open(ids, left));
    batch.alone().forEach(id -> left.add(alone(orders.head(id))));
    Map<String, Integer> consignments = new LinkedHashMap<>();
    batch.decided().stream()
        .flatMap(d -> d.choice().stream())
        .flatMap(c -> c.plan().consignments().stream())
        .forEach(c -> consignments.merge(c.node(), 1, Integer::sum));
    return new Preview(
        settings.baseCurrency(),
        batch.decided().stream().map(Together::planned).toList(),
        left,
        batch.total(),
        batch.bound(),
        consignments,
        nodes.names());
  }

  /**
   * Decides anew and does it. Orders with kits and those that something is set aside for are routed
   * each by itself, after the others.
   */
  Done route(Collection<Long> ids, String actor) {
    List<Left> left = new ArrayList<>();
    Batch batch = routing.decide(open(ids, left));
    int others = batch.decided().size() - 1;
    int routed = 0;
    for (Decided decided : batch.decided()) {
      routed += done(decided.order(), left, order -> carryOut(decided, order, others, actor));
    }
    for (long id : batch.alone()) {
      routed += done(orders.head(id), left, step::alone);
    }
    return new Done(routed, left);
  }

  /** The orders as a planning case that comes to the same. */
  String asCase(Collection<Long> ids) {
    return routing.asCase(open(ids, new ArrayList<>()));
  }

  private int done(OrderHead chosen, List<Left> left, Consumer<OrderHead> what) {
    try {
      String why =
          transactions.get(() -> {
            OrderHead order = orders.lock(chosen.id());
            String hindered = whyNot(order);
            if (!hindered.isEmpty()) {
              return hindered;
            }
            what.accept(order);
            return outcome(orders.head(order.id()));
          });
      if (!why.isEmpty()) {
        left.add(new Left(chosen.id(), chosen.number(), why));
      }
      return why.isEmpty() ? 1 : 0;
    } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile faster) {
      left.add(new Left(chosen.id(), chosen.number(), "another order was faster; try again"));
      return 0;
    }
  }

  private void carryOut(Decided decided, OrderHead order, int others, String actor) {
    routing
        .carryOut(decided, order, others, actor)
        .ifPresentOrElse(result -> step.done(order, result), () -> step.alone(order));
  }

  private List<Long> open(Collection<Long> ids, List<Left> left) {
    if (ids.isEmpty() || ids.size() > MOST) {
      throw Problem.invalid("orders", "1 to 1,000 orders");
    }
    List<Long> open = new ArrayList<>();
    orders
        .heads(ids)
        .values()
        .forEach(order -> {
          String why = whyNot(order);
          if (why.isEmpty()) {
            open.add(order.id());
          } else {
            left.add(new Left(order.id(), order.number(), why));
          }
        });
    open.sort(Comparator.naturalOrder());
    return open;
  }

  private static String whyNot(OrderHead order) {
    if (order.level() == null) {
      return "it is stuck; clear its snag first";
    }
    return switch (order.stage()) {
      case RECEIVED -> "it is not approved yet";
      case APPROVED -> order.held() ? "it is held" : "";
      case CANCELLED -> "it is cancelled";
      default -> "it is routed already";
    };
  }

  private static String outcome(OrderHead after) {
    return after.stage() == Stage.APPROVED ? "there is not enough for all of it" : "";
  }

  private static Left alone(OrderHead order) {
    return new Left(
        order.id(),
        order.number(),
        "has a kit, or something is set aside for it: it is routed by itself, after the others");
  }

  private static Planned planned(Decided decided) {
    OrderHead order = decided.order();
    Optional<Choice> choice = decided.choice();
    List<PlannedConsignment> sent = choice.map(c -> c.plan().consignments()).orElse(List.of());
    LocalDate arrival =
        sent.stream().map(PlannedConsignment::arrival).max(Comparator.naturalOrder()).orElse(null);
    LocalDate by = order.arriveBy();
    return new Planned(
        order.id(),
        order.number(),
        sent.stream().map(PlannedConsignment::node).toList(),
        decided.cost(),
        arrival,
        arrival != null && by != null && arrival.isAfter(by));
  }
}
