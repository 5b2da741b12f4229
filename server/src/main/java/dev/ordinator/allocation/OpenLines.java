package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static java.util.stream.Collectors.toSet;

import dev.ordinator.allocation.RunSettings.Parts;
import dev.ordinator.allocation.RunSettings.Scope;
import dev.ordinator.allocation.RunStock.Own;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.core.allocation.AllocationRun.Kit;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.network.Deadlines;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.desk.OrderFactsReader;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Demands;
import dev.ordinator.routing.Wanted;
import dev.ordinator.routing.WantedReader;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.OrderEarmarks;
import dev.ordinator.stock.OrderEarmarks.LineItem;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * The lines that wait to be allocated, and what there is for them. What nobody counts needs no
 * allocation.
 */
@Component
class OpenLines {
  private final DSLContext db;
  private final FoundLines found;
  private final Channels channels;
  private final Nodes nodes;
  private final Editions editions;
  private final OrderFactsReader facts;
  private final WantedReader wanted;
  private final RunStock stock;
  private final OrderEarmarks earmarks;
  private final Expected expected;
  private final Clock clock;

  OpenLines(
      DSLContext db,
      FoundLines found,
      Channels channels,
      Nodes nodes,
      Editions editions,
      OrderFactsReader facts,
      WantedReader wanted,
      RunStock stock,
      OrderEarmarks earmarks,
      Expected expected,
      Clock clock) {
    this.db = db;
    this.found = found;
    this.channels = channels;
    this.nodes = nodes;
    this.editions = editions;
    this.facts = facts;
    this.wanted = wanted;
    this.stock = stock;
    this.earmarks = earmarks;
    this.expected = expected;
    this.clock = clock;
  }

  /** What a run is worked out from. */
  record ToGive(List<Line> lines, Stock stock) {}

  /**
   * A kit as an order wants it.
   *
   * @param items that may be taken for it, without those that nobody counts
   */
  private record LineKit(Wanted wanted, long lineId, Set<Long> items) implements Kit {
    @Override
    public Map<Long, Long> outOf(Map<Long, Long> there) {
      return wanted.take(lineId, there);
    }
  }

  ToGive read(RunSettings settings) {
    List<FoundLine> found =
        asked(settings.scope().expression(), this.found.in(settings.scope(), expected.today()));
    Map<Long, Kit> kits = kits(found);
    Set<Long> itemIds = found.stream().map(FoundLine::item).collect(toSet());
    kits.values().forEach(kit -> itemIds.addAll(kit.items()));
    Map<Long, NodeCard> ours = ours(settings.scope().nodes());
    List<Own> own = stock.own(itemIds, ours.keySet(), settings.earmarks());
    return new ToGive(
        lines(settings, found, kits, own, ours),
        stock.read(itemIds, ours.keySet(), own, settings.byLot(), settings.lotsExcluded()));
  }

  /** By line; those of which there is always enough are left out. */
  private Map<Long, Kit> kits(List<FoundLine> found) {
    Map<Long, List<OrderLine>> lines =
        found.stream()
            .filter(FoundLine::kit)
            .collect(
                Collectors.groupingBy(
                    FoundLine::order,
                    LinkedHashMap::new,
                    Collectors.mapping(OpenLines::orderLine, Collectors.toList())));
    Map<Long, Kit> kits = new HashMap<>();
    wanted
        .left(lines)
        .forEach((order, its) ->
            lines
                .getOrDefault(order, List.of())
                .forEach(line -> {
                  Set<Long> items =
                      its.itemsFor(line.id()).stream()
                          .filter(item -> its.goods().of(item).counted())
                          .collect(toSet());
                  kits.put(line.id(), new LineKit(its, line.id(), items));
                }));
    return kits;
  }

  private static OrderLine orderLine(FoundLine f) {
    return new OrderLine(f.line(), 0, "", 0, f.item(), "", f.open(), f.unitsEach());
  }

  private List<FoundLine> asked(String expression, List<FoundLine> found) {
    if (expression.isBlank()) {
      return found;
    }
    List<Expression.Fault> faults = Expression.faults(expression);
    if (!faults.isEmpty()) {
      throw Problem.invalid("scope.expression", faults.getFirst().what());
    }
    Expression condition = new Expression(expression);
    Set<Long> orders = found.stream().map(FoundLine::order).collect(toSet());
    try {
      Set<Long> asked =
          facts.now(orders, condition.looksAtStock()).entrySet().stream()
              .filter(e -> condition.holds(e.getValue()))
              .map(Map.Entry::getKey)
              .collect(toSet());
      return found.stream().filter(f -> asked.contains(f.order())).toList();
    } catch (Expression.TooCostly e) {
      throw Problem.invalid("scope.expression", "it takes more steps for an order than it may");
    }
  }

  private Map<Long, NodeCard> ours(Set<String> codes) {
    return nodes.all().stream()
        .filter(n -> n.kind() != NodeKind.CHANNEL_DEPOT)
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .collect(Collectors.toMap(NodeCard::id, n -> n));
  }

  private List<Line> lines(
      RunSettings settings,
      List<FoundLine> found,
      Map<Long, Kit> kits,
      List<Own> own,
      Map<Long, NodeCard> ours) {
    Rulebook book = editions.live().body();
    Map<Long, Channel> byId =
        channels.all().stream().collect(Collectors.toMap(Channel::id, c -> c));
    Deadlines deadlines = new Deadlines(nodes.network(), clock.instant());
    Map<Long, Set<Long>> nodesOf = new HashMap<>();
    LocalDate today = expected.today();
    Set<Long> lacking = lacking();
    Map<LineItem, Long> given = earmarks.ofAllLines();
    Set<Long> givenLines = given.keySet().stream().map(LineItem::lineId).collect(toSet());
    Map<Long, List<Own>> byItem = own.stream().collect(Collectors.groupingBy(Own::item));
    Map<Long, Set<String>> tags = tags(found, own);
    List<Line> lines = new ArrayList<>();
    for (FoundLine f : found) {
      Channel channel = byId.get(f.channel());
      Kit kit = kits.get(f.line());
      // a kit is given all of what it is made of at once
      long units =
          kit == null
              ? f.open() - given.getOrDefault(new LineItem(f.line(), f.item()), 0L)
              : givenLines.contains(f.line()) ? 0 : f.open();
      if (channel == null || units <= 0 || (kit != null && kit.items().isEmpty())) {
        continue;
      }
      Set<String> serving = channel.terms().nodes();
      if (!mustLeave(settings.scope(), deadlines, f, serving)) {
        continue;
      }
      lines.add(
          new Line(
              f.order(),
              f.line(),
              f.item(),
              kit,
              units,
              isWhole(settings.parts(), book, f),
              f.priority(),
              lacking.contains(f.line()),
              latestStart(settings, deadlines, f, serving),
              f.placedAt().toEpochMilli(),
              f.baseTotal(),
              settings.byLot()
                  ? deadlines.arrival(f.to(), f.level(), serving).orElse(today)
                  : today,
              nodesOf.computeIfAbsent(channel.id(), c -> serving(channel, ours)),
              owners(f, channel, itemsOf(f.item(), kit), byItem, tags)));
    }
    return lines;
  }

  /** As a day since 1970; it can wait for ever if it is due by no day. */
  private static long latestStart(
      RunSettings settings, Deadlines deadlines, FoundLine f, Set<String> serving) {
    LocalDate due = f.due();
    if (due == null) {
      return Long.MAX_VALUE;
    }
    int making = settings.leadTime() ? f.leadDays() : 0;
    return deadlines.latestStart(f.to(), f.level(), serving, due, making).orElse(due).toEpochDay();
  }

  /** Whether it must be handed over within the days that a run looks at. */
  private boolean mustLeave(Scope scope, Deadlines deadlines, FoundLine f, Set<String> serving) {
    Integer within = scope.leaveWithin();
    if (within == null) {
      return true;
    }
    LocalDate due = f.due();
    return due != null
        && !deadlines
            .shipBy(f.to(), f.level(), serving, due)
            .orElse(due)
            .isAfter(expected.today().plusDays(within));
  }

  private static Set<Long> itemsOf(long item, @Nullable Kit kit) {
    return kit == null ? Set.of(item) : kit.items();
  }

  private static boolean isWhole(Parts parts, Rulebook book, FoundLine f) {
    return switch (parts) {
      case WHOLE -> true;
      case PART -> false;
      case AS_SAID -> !Demands.goesInPart(book, f.ladder(), f.maySplit(), f.inPart());
    };
  }

  private static Set<Long> serving(Channel channel, Map<Long, NodeCard> ours) {
    Set<String> codes = channel.terms().nodes();
    return ours.values().stream()
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .map(NodeCard::id)
        .collect(toSet());
  }

  private static Set<Long> owners(
      FoundLine f,
      Channel channel,
      Set<Long> items,
      Map<Long, List<Own>> byItem,
      Map<Long, Set<String>> tags) {
    Set<Long> owners = new HashSet<>();
    List<Own> own =
        items.stream().flatMap(item -> byItem.getOrDefault(item, List.of()).stream()).toList();
    for (Own one : own) {
      boolean its =
          switch (one.kind()) {
            case RunStock.WAITING -> f.waiting();
            case "CHANNEL" -> one.who().equals(channel.code());
            case "CUSTOMER" -> one.who().equals(f.email());
            case "CAMPAIGN" -> tags.getOrDefault(f.order(), Set.of()).contains(one.who());
            default -> false;
          };
      if (its) {
        owners.add(one.id());
      }
    }
    return owners;
  }

  private Map<Long, Set<String>> tags(List<FoundLine> found, List<Own> own) {
    if (own.stream().noneMatch(o -> o.kind().equals("CAMPAIGN"))) {
      return Map.of();
    }
    Map<Long, Set<String>> tags = new HashMap<>();
    db.select(ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
        .from(ORDER_TAG)
        .where(ORDER_TAG.ORDER_ID.in(found.stream().map(FoundLine::order).distinct().toList()))
        .forEach(r -> tags.computeIfAbsent(r.value1(), o -> new HashSet<>()).add(r.value2()));
    return tags;
  }

  /** Lines that wait for something that is short. */
  private Set<Long> lacking() {
    return db.select(BACKORDER.ORDER_LINE_ID)
        .from(BACKORDER)
        .where(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.LACKING)
        .fetchSet(BACKORDER.ORDER_LINE_ID);
  }
}
