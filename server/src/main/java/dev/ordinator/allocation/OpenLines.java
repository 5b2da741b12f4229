package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.falseCondition;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.allocation.RunSettings.Parts;
import dev.ordinator.allocation.RunSettings.Scope;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.desk.OrderFactsReader;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Demands;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.schema.tables.Item;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Levels;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
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
 * The lines that wait to be allocated, and what there is for them. Orders with kits go by
 * themselves, and what nobody counts needs no allocation.
 */
@Component
class OpenLines {
  /** Who waits for an item may have what is kept for those who wait. */
  private static final String WAITING = "WAITING";

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

  private final DSLContext db;
  private final Channels channels;
  private final Nodes nodes;
  private final Editions editions;
  private final OrderFactsReader facts;
  private final Expected expected;

  OpenLines(
      DSLContext db,
      Channels channels,
      Nodes nodes,
      Editions editions,
      OrderFactsReader facts,
      Expected expected) {
    this.db = db;
    this.channels = channels;
    this.nodes = nodes;
    this.editions = editions;
    this.facts = facts;
    this.expected = expected;
  }

  /** What a run is worked out from. */
  record Wanted(List<Line> lines, Map<Pool, Long> stock) {}

  /** An earmark that a line may take from. */
  private record Own(long id, long item, long node, long units, String kind, String who) {}

  Wanted read(RunSettings settings) {
    List<? extends Record> found = found(settings.scope());
    Set<Long> asked = asked(settings.scope().expression(), found);
    List<? extends Record> rows =
        found.stream().filter(r -> asked.contains(r.get(SALES_ORDER.ID))).toList();
    Set<Long> itemIds =
        rows.stream().map(r -> r.get(ORDER_LINE.ITEM_ID)).collect(Collectors.toSet());
    Map<Long, NodeCard> ours = ours(settings.scope().nodes());
    List<Own> own = own(itemIds, ours.keySet(), settings.earmarks());
    return new Wanted(lines(settings, rows, own, ours), stock(itemIds, ours.keySet(), own));
  }

  private Set<Long> asked(String expression, List<? extends Record> rows) {
    Set<Long> orders = rows.stream().map(r -> r.get(SALES_ORDER.ID)).collect(Collectors.toSet());
    if (expression.isBlank()) {
      return orders;
    }
    List<Expression.Fault> faults = Expression.faults(expression);
    if (!faults.isEmpty()) {
      throw Problem.invalid("scope.expression", faults.getFirst().what());
    }
    Expression condition = new Expression(expression);
    return facts.now(orders).entrySet().stream()
        .filter(e -> condition.holds(e.getValue()))
        .map(Map.Entry::getKey)
        .collect(Collectors.toSet());
  }

  private Map<Long, NodeCard> ours(Set<String> codes) {
    return nodes.all().stream()
        .filter(n -> n.kind() != NodeKind.CHANNEL_DEPOT)
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .collect(Collectors.toMap(NodeCard::id, n -> n));
  }

  private List<? extends Record> found(Scope scope) {
    var underWay =
        db.select(
                CONSIGNMENT_LINE.ORDER_LINE_ID.as("line_id"),
                sum(CONSIGNMENT_LINE.QUANTITY).as("units"))
            .from(CONSIGNMENT_LINE)
            .join(CONSIGNMENT)
            .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
            .join(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
            .where(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
            .and(SALES_ORDER.STAGE.eq("APPROVED"))
            .groupBy(CONSIGNMENT_LINE.ORDER_LINE_ID)
            .asTable("under_way");
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
            ORDER_LINE
                .QUANTITY
                .minus(ORDER_LINE.CANCELLED)
                .mul(ORDER_LINE.UNITS_EACH)
                .minus(
                    coalesce(underWay.field("units", BigDecimal.class), val(BigDecimal.ZERO))
                        .cast(Long.class))
                .as("open_units"))
        .from(SALES_ORDER)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .join(ORDER_LINE)
        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
        .join(itsItem)
        .on(itsItem.ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(underWay)
        .on(ORDER_LINE.ID.eq(underWay.field("line_id", Long.class)))
        .where(MAY_GO)
        .and(SALES_ORDER.FULFILLED_BY.eq("US"))
        .and(itsItem.COUNTED)
        .and(itsItem.OUT_ON.isNull().or(itsItem.OUT_ON.le(expected.today())))
        .andNotExists(
            selectOne()
                .from(ORDER_LINE.as("kits"))
                .join(KIT)
                .on(KIT.ITEM_ID.eq(ORDER_LINE.as("kits").ITEM_ID))
                .where(ORDER_LINE.as("kits").ORDER_ID.eq(SALES_ORDER.ID)))
        .and(in(scope, itsItem))
        .orderBy(SALES_ORDER.ID, ORDER_LINE.LINE_NO)
        .fetch()
        .stream()
        .filter(r -> r.get("open_units", Long.class) > 0)
        .toList();
  }

  private Condition in(Scope scope, Item item) {
    Condition which = noCondition();
    if (!scope.channels().isEmpty()) {
      which = which.and(CHANNEL.CODE.in(scope.channels()));
    }
    Integer within = scope.neededWithin();
    if (within != null) {
      which =
          which.and(
              coalesce(SALES_ORDER.ARRIVE_BY, SALES_ORDER.PROMISED_ON)
                  .le(expected.today().plusDays(within)));
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

  /**
   * What is set aside and may be taken: by those who wait what is kept for them, and by those for
   * whom it is the rest.
   */
  private List<Own> own(Collection<Long> itemIds, Collection<Long> nodeIds, boolean all) {
    return db.select(
            EARMARK.ID, EARMARK.ITEM_ID, EARMARK.NODE_ID, EARMARK.UNITS, EARMARK.KIND, EARMARK.WHO)
        .from(EARMARK)
        .where(EARMARK.ITEM_ID.in(itemIds))
        .and(EARMARK.NODE_ID.in(nodeIds))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.UNITS.gt(0L))
        .and(all ? EARMARK.KIND.ne("ORDER") : EARMARK.KIND.eq(WAITING))
        .fetch(
            r -> new Own(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }

  private Map<Pool, Long> stock(Collection<Long> itemIds, Collection<Long> nodeIds, List<Own> own) {
    Map<Pool, Long> stock = new HashMap<>();
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, Levels.FREE)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
        .and(STOCK_LEVEL.NODE_ID.in(nodeIds))
        .and(Levels.FREE.gt(0L))
        .forEach(r -> stock.put(new Pool(r.value1(), r.value2(), 0), r.value3()));
    own.forEach(o -> stock.put(new Pool(o.item(), o.node(), o.id()), o.units()));
    return stock;
  }

  private List<Line> lines(
      RunSettings settings, List<? extends Record> rows, List<Own> own, Map<Long, NodeCard> ours) {
    Rulebook book = editions.live().body();
    Map<Long, Channel> byId =
        channels.all().stream().collect(Collectors.toMap(Channel::id, c -> c));
    Set<Long> lacking = lacking();
    Map<Long, Long> given = given();
    Map<Long, List<Own>> byItem = own.stream().collect(Collectors.groupingBy(Own::item));
    Map<Long, Set<String>> tags = tags(rows, own);
    List<Line> lines = new ArrayList<>();
    for (Record r : rows) {
      long order = r.get(SALES_ORDER.ID);
      long item = r.get(ORDER_LINE.ITEM_ID);
      Channel channel = byId.get(r.get(SALES_ORDER.CHANNEL_ID));
      long units = r.get("open_units", Long.class) - given.getOrDefault(r.get(ORDER_LINE.ID), 0L);
      if (channel == null || units <= 0) {
        continue;
      }
      lines.add(
          new Line(
              order,
              r.get(ORDER_LINE.ID),
              item,
              units,
              isWhole(settings.parts(), book, r),
              r.get(SALES_ORDER.PRIORITY),
              lacking.contains(r.get(ORDER_LINE.ID)),
              latest(r.get(SALES_ORDER.ARRIVE_BY), r.get(SALES_ORDER.PROMISED_ON)),
              r.get(SALES_ORDER.PLACED_AT).toEpochMilli(),
              r.get(SALES_ORDER.BASE_TOTAL),
              serving(channel, ours),
              owners(r, channel, byItem.getOrDefault(item, List.of()), tags)));
    }
    return lines;
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

  /**
   * The day by which it is to arrive; all take the same time, so the order is that of the starts.
   */
  private static long latest(@Nullable LocalDate asked, @Nullable LocalDate promised) {
    LocalDate day = asked == null ? promised : asked;
    return day == null ? Long.MAX_VALUE : day.atStartOfDay(ZoneOffset.UTC).toEpochSecond();
  }

  private static Set<Long> serving(Channel channel, Map<Long, NodeCard> ours) {
    Set<String> codes = channel.terms().nodes();
    return ours.values().stream()
        .filter(n -> codes.isEmpty() || codes.contains(n.code()))
        .map(NodeCard::id)
        .collect(Collectors.toSet());
  }

  private static Set<Long> owners(
      Record r, Channel channel, List<Own> own, Map<Long, Set<String>> tags) {
    Set<Long> owners = new HashSet<>();
    for (Own one : own) {
      boolean its =
          switch (one.kind()) {
            case WAITING -> r.get(SALES_ORDER.WAITING);
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

  private Map<Long, Set<String>> tags(List<? extends Record> rows, List<Own> own) {
    if (own.stream().noneMatch(o -> o.kind().equals("CAMPAIGN"))) {
      return Map.of();
    }
    Map<Long, Set<String>> tags = new HashMap<>();
    db.select(ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
        .from(ORDER_TAG)
        .where(
            ORDER_TAG.ORDER_ID.in(
                rows.stream().map(r -> r.get(SALES_ORDER.ID)).distinct().toList()))
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

  /** Units that runs before gave to lines, and that are still theirs. */
  private Map<Long, Long> given() {
    return db.select(EARMARK.ORDER_LINE_ID, sum(EARMARK.UNITS))
        .from(EARMARK)
        .where(EARMARK.KIND.eq("ORDER"))
        .and(EARMARK.CLOSED_AT.isNull())
        .groupBy(EARMARK.ORDER_LINE_ID)
        .fetchMap(EARMARK.ORDER_LINE_ID, r -> r.value2().longValueExact());
  }
}
