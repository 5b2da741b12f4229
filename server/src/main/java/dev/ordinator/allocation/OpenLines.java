package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static java.util.stream.Collectors.toSet;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.falseCondition;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.allocation.RunSettings.Parts;
import dev.ordinator.allocation.RunSettings.Scope;
import dev.ordinator.allocation.RunStock.Own;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.core.allocation.AllocationRun.Kit;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.network.Deadlines;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.desk.OrderFactsReader;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Demands;
import dev.ordinator.routing.Wanted;
import dev.ordinator.routing.WantedReader;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.schema.tables.Item;
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
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * The lines that wait to be allocated, and what there is for them. What nobody counts needs no
 * allocation.
 */
@Component
class OpenLines {
  /** It waits for stock or for its routing, and nothing else stops it. */
  static final Condition MAY_GO =
      SALES_ORDER
          .STAGE
          .eq("APPROVED")
          .and(SALES_ORDER.HELD.isFalse())
          .and(SALES_ORDER.LEVEL.isNotNull())
          .and(
              SALES_ORDER
                  .WAITING
                  .isTrue()
                  .or(SALES_ORDER.NEXT_STEP.in(Step.ROUTE.name(), Step.BATCH.name())));

  private static final Field<Boolean> IN_PART =
      coalesce(SALES_ORDER.IN_PART, CHANNEL.IN_PART).as("goes_in_part");
  private static final Field<Integer> LEAD_DAYS = field(name("its_lead_days"), Integer.class);
  private static final Field<Long> WANTED_UNITS = field(name("wanted_units"), Long.class);

  private final DSLContext db;
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

  /**
   * A line as it was found.
   *
   * @param open units that no node has yet
   */
  private record Found(Record row, long open) {}

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
    List<Found> found = found(settings.scope());
    Set<Long> asked = asked(settings.scope().expression(), found);
    List<Found> rows =
        found.stream().filter(f -> asked.contains(f.row().get(SALES_ORDER.ID))).toList();
    Map<Long, Kit> kits = kits(rows);
    Set<Long> itemIds = rows.stream().map(f -> f.row().get(ORDER_LINE.ITEM_ID)).collect(toSet());
    kits.values().forEach(kit -> itemIds.addAll(kit.items()));
    Map<Long, NodeCard> ours = ours(settings.scope().nodes());
    List<Own> own = stock.own(itemIds, ours.keySet(), settings.earmarks());
    return new ToGive(
        lines(settings, rows, kits, own, ours),
        stock.read(itemIds, ours.keySet(), own, settings.byLot(), settings.lotsExcluded()));
  }

  /** By line; those of which there is always enough are left out. */
  private Map<Long, Kit> kits(List<Found> rows) {
    Map<Long, List<OrderLine>> lines = new LinkedHashMap<>();
    for (Found found : rows) {
      Record r = found.row();
      if (r.get(KIT.ITEM_ID) != null) {
        lines
            .computeIfAbsent(r.get(SALES_ORDER.ID), o -> new ArrayList<>())
            .add(
                new OrderLine(
                    r.get(ORDER_LINE.ID),
                    0,
                    "",
                    0,
                    r.get(ORDER_LINE.ITEM_ID),
                    "",
                    found.open(),
                    r.get(ORDER_LINE.UNITS_EACH)));
      }
    }
    Map<Long, Kit> kits = new HashMap<>();
    wanted
        .of(lines)
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

  private Set<Long> asked(String expression, List<Found> rows) {
    Set<Long> orders = rows.stream().map(f -> f.row().get(SALES_ORDER.ID)).collect(toSet());
    if (expression.isBlank()) {
      return orders;
    }
    List<Expression.Fault> faults = Expression.faults(expression);
    if (!faults.isEmpty()) {
      throw Problem.invalid("scope.expression", faults.getFirst().what());
    }
    Expression condition = new Expression(expression);
    return facts.now(orders, condition.looksAtStock()).entrySet().stream()
        .filter(e -> condition.holds(e.getValue()))
        .map(Map.Entry::getKey)
        .collect(toSet());
  }

  private Map<Long, NodeCard> ours(Set<String> codes) {
    return nodes.all().stream()
        .filter(n -> n.kind() != NodeKind.CHANNEL_DEPOT)
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .collect(Collectors.toMap(NodeCard::id, n -> n));
  }

  private List<Found> found(Scope scope) {
    Map<Long, Long> underWay = underWay();
    var itsItem = ITEM.as("its_item");
    return db
        .select(
            SALES_ORDER.ID,
            SALES_ORDER.CHANNEL_ID,
            SALES_ORDER.EMAIL,
            SALES_ORDER.PRIORITY,
            SALES_ORDER.WAITING,
            SALES_ORDER.PLACED_AT,
            SALES_ORDER.BASE_TOTAL,
            SALES_ORDER.ARRIVE_BY,
            SALES_ORDER.PROMISED_ON,
            SALES_ORDER.LADDER,
            SALES_ORDER.MAY_SPLIT,
            IN_PART,
            ORDER_LINE.ID,
            ORDER_LINE.ITEM_ID,
            SALES_ORDER.SHIP_COUNTRY,
            SALES_ORDER.SHIP_POSTCODE,
            SALES_ORDER.LEVEL,
            ORDER_LINE.UNITS_EACH,
            itsItem.LEAD_DAYS.as(LEAD_DAYS),
            KIT.ITEM_ID,
            ORDER_LINE
                .QUANTITY
                .minus(ORDER_LINE.CANCELLED)
                .mul(ORDER_LINE.UNITS_EACH)
                .as(WANTED_UNITS))
        .from(SALES_ORDER)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .join(ORDER_LINE)
        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
        .join(itsItem)
        .on(itsItem.ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(KIT)
        .on(KIT.ITEM_ID.eq(ORDER_LINE.ITEM_ID))
        .where(MAY_GO)
        .and(SALES_ORDER.FULFILLED_BY.eq("US"))
        .and(itsItem.COUNTED.isTrue().or(KIT.ITEM_ID.isNotNull()))
        .and(itsItem.OUT_ON.isNull().or(itsItem.OUT_ON.le(expected.today())))
        .and(in(scope, itsItem))
        .fetch()
        .stream()
        .map(r ->
            new Found(r, r.get(WANTED_UNITS) - underWay.getOrDefault(r.get(ORDER_LINE.ID), 0L)))
        .filter(found -> found.open() > 0)
        .toList();
  }

  /** Units of lines that nodes have already, of orders that are not all with nodes. */
  private Map<Long, Long> underWay() {
    return db.select(
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            sum(CONSIGNMENT_LINE.ORDERED.mul(ORDER_LINE.UNITS_EACH)))
        .from(CONSIGNMENT_LINE)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
        .and(SALES_ORDER.STAGE.eq("APPROVED"))
        .groupBy(CONSIGNMENT_LINE.ORDER_LINE_ID)
        .fetchMap(CONSIGNMENT_LINE.ORDER_LINE_ID, r -> r.value2().longValueExact());
  }

  private Condition in(Scope scope, Item item) {
    Condition which = noCondition();
    if (!scope.channels().isEmpty()) {
      which = which.and(CHANNEL.CODE.in(scope.channels()));
    }
    if (!scope.customers().isEmpty()) {
      Condition any = falseCondition();
      for (String customer : scope.customers()) {
        any =
            any.or(lower(SALES_ORDER.EMAIL).startsWith(customer.strip().toLowerCase(Locale.ROOT)));
      }
      which = which.and(any);
    }
    if (!scope.skuFrom().isBlank()) {
      which = which.and(item.SKU.ge(scope.skuFrom().strip()));
    }
    if (!scope.skuTo().isBlank()) {
      which = which.and(item.SKU.le(scope.skuTo().strip()));
    }
    if (!scope.categories().isEmpty()) {
      which = which.and(item.CATEGORY.in(scope.categories()));
    }
    if (!scope.tags().isEmpty()) {
      which =
          which.andExists(
              selectOne()
                  .from(ORDER_TAG)
                  .where(ORDER_TAG.ORDER_ID.eq(SALES_ORDER.ID))
                  .and(ORDER_TAG.TAG.in(scope.tags())));
    }
    Integer priority = scope.priorityTo();
    return priority == null ? which : which.and(SALES_ORDER.PRIORITY.le(priority));
  }

  private List<Line> lines(
      RunSettings settings,
      List<Found> rows,
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
    Map<Long, Set<String>> tags = tags(rows, own);
    List<Line> lines = new ArrayList<>();
    for (Found found : rows) {
      Record r = found.row();
      long id = r.get(ORDER_LINE.ID);
      long item = r.get(ORDER_LINE.ITEM_ID);
      Channel channel = byId.get(r.get(SALES_ORDER.CHANNEL_ID));
      Kit kit = kits.get(id);
      // a kit is given all of what it is made of at once
      long units =
          kit == null
              ? found.open() - given.getOrDefault(new LineItem(id, item), 0L)
              : givenLines.contains(id) ? 0 : found.open();
      if (channel == null || units <= 0 || (kit != null && kit.items().isEmpty())) {
        continue;
      }
      Set<String> serving = channel.terms().nodes();
      Destination to =
          new Destination(r.get(SALES_ORDER.SHIP_COUNTRY), r.get(SALES_ORDER.SHIP_POSTCODE));
      ServiceLevel level = ServiceLevel.valueOf(r.get(SALES_ORDER.LEVEL));
      LocalDate due = due(r);
      if (!mustLeave(settings.scope(), deadlines, to, level, serving, due)) {
        continue;
      }
      int making = settings.leadTime() ? r.get(LEAD_DAYS) : 0;
      LocalDate start =
          due == null ? null : deadlines.latestStart(to, level, serving, due, making).orElse(due);
      lines.add(
          new Line(
              r.get(SALES_ORDER.ID),
              id,
              item,
              kit,
              units,
              isWhole(settings.parts(), book, r),
              r.get(SALES_ORDER.PRIORITY),
              lacking.contains(id),
              start == null ? Long.MAX_VALUE : start.toEpochDay(),
              r.get(SALES_ORDER.PLACED_AT).toEpochMilli(),
              r.get(SALES_ORDER.BASE_TOTAL),
              settings.byLot() ? deadlines.arrival(to, level, serving).orElse(today) : today,
              nodesOf.computeIfAbsent(channel.id(), c -> serving(channel, ours)),
              owners(r, channel, itemsOf(item, kit), byItem, tags)));
    }
    return lines;
  }

  /** Whether it must be handed over within the days that a run looks at. */
  private boolean mustLeave(
      Scope scope,
      Deadlines deadlines,
      Destination to,
      ServiceLevel level,
      Set<String> serving,
      @Nullable LocalDate due) {
    Integer within = scope.leaveWithin();
    if (within == null) {
      return true;
    }
    return due != null
        && !deadlines
            .shipBy(to, level, serving, due)
            .orElse(due)
            .isAfter(expected.today().plusDays(within));
  }

  private static Set<Long> itemsOf(long item, @Nullable Kit kit) {
    return kit == null ? Set.of(item) : kit.items();
  }

  private static boolean isWhole(Parts parts, Rulebook book, Record r) {
    return switch (parts) {
      case WHOLE -> true;
      case PART -> false;
      case AS_SAID ->
          !Demands.goesInPart(
              book, r.get(SALES_ORDER.LADDER), r.get(SALES_ORDER.MAY_SPLIT), r.get(IN_PART));
    };
  }

  /** The day by which it is to arrive: as it was asked, or else as it was promised. */
  private static @Nullable LocalDate due(Record r) {
    LocalDate asked = r.get(SALES_ORDER.ARRIVE_BY);
    return asked == null ? r.get(SALES_ORDER.PROMISED_ON) : asked;
  }

  private static Set<Long> serving(Channel channel, Map<Long, NodeCard> ours) {
    Set<String> codes = channel.terms().nodes();
    return ours.values().stream()
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .map(NodeCard::id)
        .collect(toSet());
  }

  private static Set<Long> owners(
      Record r,
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
            case RunStock.WAITING -> r.get(SALES_ORDER.WAITING);
            case "CHANNEL" -> one.who().equals(channel.code());
            case "CUSTOMER" -> one.who().equals(r.get(SALES_ORDER.EMAIL).toLowerCase(Locale.ROOT));
            case "CAMPAIGN" ->
                tags.getOrDefault(r.get(SALES_ORDER.ID), Set.of()).contains(one.who());
            default -> false;
          };
      if (its) {
        owners.add(one.id());
      }
    }
    return owners;
  }

  private Map<Long, Set<String>> tags(List<Found> rows, List<Own> own) {
    if (own.stream().noneMatch(o -> o.kind().equals("CAMPAIGN"))) {
      return Map.of();
    }
    Map<Long, Set<String>> tags = new HashMap<>();
    db.select(ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
        .from(ORDER_TAG)
        .where(
            ORDER_TAG.ORDER_ID.in(
                rows.stream().map(f -> f.row().get(SALES_ORDER.ID)).distinct().toList()))
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
