package dev.ordinator.desk;

import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Applies the live edition's desk rules to an order, and leaves the trace in its timeline. */
@Component
class RuleDesk {
  private final Editions editions;
  private final Orders orders;
  private final Items items;
  private final Events events;

  RuleDesk(Editions editions, Orders orders, Items items, Events events) {
    this.editions = editions;
    this.orders = orders;
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
    for (RuleOutcome.Tried tried : outcome.trace()) {
      if (tried.held()) {
        events.record(
            EventKind.RULES,
            order.id(),
            null,
            "rule “" + tried.name() + "”",
            tried.did().stream().map(RuleDesk::words).collect(Collectors.joining("; ")),
            "edition " + edition.number() + ", " + outcome.trace().size() + " rules tried");
      }
    }
    outcome.notes().forEach(note -> orders.note(order.id(), note, "desk"));
    outcome.holds().forEach(reason -> orders.hold(order.id(), reason, "desk"));
  }

  private OrderFacts facts(OrderHead order) {
    List<OrderLine> lines = orders.lines(order.id()).stream().filter(OrderLine::isOpen).toList();
    Goods goods =
        items.byId(lines.stream().map(l -> Objects.requireNonNull(l.itemId())).distinct().toList());
    return new OrderFacts(
        order.channelCode(),
        order.payment(),
        order.serviceWording(),
        order.shipTo().country(),
        order.shipTo().postcode(),
        order.baseTotal(),
        lines.stream().mapToLong(l -> goods.of(l.itemId()).item().weight() * l.quantity()).sum(),
        order.units(),
        goods.byId().values().stream().map(g -> g.item().sku()).collect(Collectors.toSet()),
        goods.byId().values().stream().map(StockedItem::category).collect(Collectors.toSet()),
        orders.tags(order.id()));
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
