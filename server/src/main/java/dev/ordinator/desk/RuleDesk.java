package dev.ordinator.desk;

import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.kits.OrderKits;
import dev.ordinator.kits.OrderKits.Part;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Applies the live edition's desk rules to an order, and leaves the trace in its timeline. */
@Component
class RuleDesk {
  private final Editions editions;
  private final Orders orders;
  private final OrderKits kits;
  private final Items items;
  private final Events events;

  RuleDesk(Editions editions, Orders orders, OrderKits kits, Items items, Events events) {
    this.editions = editions;
    this.orders = orders;
    this.kits = kits;
    this.items = items;
    this.events = events;
  }

  void apply(OrderHead order, RuleEvent event) {
    Edition edition = editions.live();
    RuleOutcome outcome = DeskRules.evaluate(edition.body().groups(), event, facts(order));
    orders.setTags(order.id(), outcome.tags());
    outcome.priority().ifPresent(p -> orders.setPriority(order.id(), p));
    outcome.level().ifPresent(l -> orders.setLevel(order.id(), l));
    orders.exclude(order.id(), outcome.excludedNodes());
    events.recordAll(Map.of(order.id(), told(edition, outcome)));
    outcome.notes().forEach(note -> orders.note(order.id(), note, "desk"));
    outcome.holds().forEach(reason -> orders.hold(order.id(), reason, "desk"));
  }

  /** What an order's timeline says of the rules that held. */
  static List<Fact> told(Edition edition, RuleOutcome outcome) {
    return outcome.trace().stream()
        .filter(RuleOutcome.Tried::held)
        .map(tried ->
            new Fact(
                EventKind.RULES,
                "rule “" + tried.name() + "”",
                tried.did().stream().map(RuleDesk::words).collect(Collectors.joining("; ")),
                "edition " + edition.number() + ", " + outcome.trace().size() + " rules tried"))
        .toList();
  }

  private OrderFacts facts(OrderHead order) {
    Map<Long, List<Part>> apart = kits.components(order.id());
    List<Units> units = new ArrayList<>();
    for (OrderLine line : orders.lines(order.id())) {
      if (line.isOpen() && apart.containsKey(line.id())) {
        apart.get(line.id()).forEach(c -> units.add(new Units(c.itemId(), c.quantity())));
      } else if (line.isOpen()) {
        units.add(new Units(Objects.requireNonNull(line.itemId()), line.quantity()));
      }
    }
    return facts(
        order.channelCode(),
        order.payment(),
        order.serviceWording(),
        order.shipTo(),
        order.baseTotal(),
        order.units(),
        units,
        items.byId(units.stream().map(Units::itemId).distinct().toList()),
        orders.tags(order.id()));
  }

  /** Open units of an item. */
  record Units(long itemId, long quantity) {}

  static OrderFacts facts(
      String channel,
      PaymentState payment,
      String serviceWording,
      Address shipTo,
      long baseTotal,
      long totalUnits,
      List<Units> units,
      Goods goods,
      Set<String> tags) {
    List<StockedItem> its =
        units.stream().map(Units::itemId).distinct().map(id -> goods.of(id)).toList();
    return new OrderFacts(
        channel,
        payment,
        serviceWording,
        shipTo.country(),
        shipTo.postcode(),
        baseTotal,
        units.stream().mapToLong(u -> goods.of(u.itemId()).item().weight() * u.quantity()).sum(),
        totalUnits,
        its.stream().map(g -> g.item().sku()).collect(Collectors.toSet()),
        its.stream().map(StockedItem::category).collect(Collectors.toSet()),
        tags);
  }

  private static String words(Action action) {
    return switch (action) {
      case Action.AddTag(String tag) -> "tagged “" + tag + "”";
      case Action.RemoveTag(String tag) -> "tag “" + tag + "” removed";
      case Action.SetPriority(int priorityClass) -> "priority class " + priorityClass;
      case Action.SetLevel(var level) -> "level " + level;
      case Action.Hold(String reason) -> "held: " + reason;
      case Action.ExcludeNode(String node) -> "not from " + node;
      case Action.AddNote(String text) -> "note: " + text;
    };
  }
}
