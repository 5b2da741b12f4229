package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.min;

import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.rules.GoodsFacts;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.customers.Customers;
import dev.ordinator.desk.ItemMarks.Marks;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What rules see of orders, of many at once. */
@Component
public class OrderFactsReader {
  private final DSLContext db;
  private final Items items;
  private final ItemMarks marks;
  private final StockSight stocks;
  private final Customers customers;
  private final OrderedTwice twice;
  private final OrdinatorSettings settings;
  private final Clock clock;

  OrderFactsReader(
      DSLContext db,
      Items items,
      ItemMarks marks,
      StockSight stocks,
      Customers customers,
      OrderedTwice twice,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.items = items;
    this.marks = marks;
    this.stocks = stocks;
    this.customers = customers;
    this.twice = twice;
    this.settings = settings;
    this.clock = clock;
  }

  /** Units of an item. */
  record Units(long itemId, long quantity) {}

  /** What the goods of an order come to; of their stock, nothing. */
  static GoodsFacts goods(List<Units> units, long lines, Goods goods, Marks marks) {
    List<Long> ids = units.stream().map(Units::itemId).distinct().toList();
    List<StockedItem> its = ids.stream().map(id -> goods.of(id)).toList();
    return new GoodsFacts(
        units.stream().mapToLong(u -> goods.of(u.itemId()).item().weight() * u.quantity()).sum(),
        units.stream().mapToLong(Units::quantity).sum(),
        lines,
        its.stream().map(i -> i.item().sku()).collect(Collectors.toSet()),
        its.stream().map(StockedItem::gtin).filter(g -> !g.isEmpty()).collect(Collectors.toSet()),
        its.stream().map(StockedItem::category).collect(Collectors.toSet()),
        marks.tagsOf(ids),
        its.stream().map(StockedItem::home).filter(Objects::nonNull).collect(Collectors.toSet()),
        marks.suppliersOf(ids),
        null,
        Set.of());
  }

  /** The moment of a look, in the merchant's time zone. */
  ZonedDateTime moment(Instant at) {
    return at.atZone(settings.timeZone());
  }

  /**
   * As rules see orders now.
   *
   * @param stock whether what there is of their goods is looked at
   */
  public Map<Long, OrderFacts> now(Collection<Long> orderIds, boolean stock) {
    Map<Long, OrderFacts> facts = read(orderIds, clock.instant());
    if (stock) {
      Map<Long, GoodsFacts.Stock> there = stocks.of(orderIds);
      facts.replaceAll(
          (order, its) -> there.containsKey(order) ? its.stocked(there.get(order)) : its);
    }
    return facts;
  }

  OrderFacts now(long orderId, boolean stock) {
    OrderFacts facts = now(List.of(orderId), stock).get(orderId);
    if (facts == null) {
      throw new IllegalArgumentException("there is no order " + orderId);
    }
    return facts;
  }

  /**
   * As rules would have seen them when they came in; what became of them since is in it. What there
   * was of their goods is not known.
   */
  public Map<Long, OrderFacts> asReceived(Collection<Long> orderIds) {
    return read(orderIds, null);
  }

  /** Buyers who ordered before, by their mail addresses in lower case, with their first orders. */
  Map<String, Long> firstOrders(Collection<String> emails) {
    List<String> known =
        emails.stream()
            .filter(e -> !e.isBlank())
            .map(e -> e.toLowerCase(Locale.ROOT))
            .distinct()
            .toList();
    if (known.isEmpty()) {
      return Map.of();
    }
    return db.select(lower(SALES_ORDER.EMAIL), min(SALES_ORDER.ID))
        .from(SALES_ORDER)
        .where(SALES_ORDER.EMAIL.in(known))
        .groupBy(lower(SALES_ORDER.EMAIL))
        .fetchMap(r -> r.value1(), r -> r.value2());
  }

  /**
   * @param at the moment of the look; null: when each was received
   */
  private Map<Long, OrderFacts> read(Collection<Long> ids, @Nullable Instant at) {
    List<Record> heads =
        List.copyOf(
            db.select(
                    SALES_ORDER.ID,
                    CHANNEL.CODE,
                    SALES_ORDER.SITE,
                    SALES_ORDER.PAYMENT_STATE,
                    SALES_ORDER.PAYMENT_METHOD,
                    SALES_ORDER.SERVICE_WORDING,
                    SALES_ORDER.SHIP_COUNTRY,
                    SALES_ORDER.SHIP_CITY,
                    SALES_ORDER.SHIP_POSTCODE,
                    SALES_ORDER.EMAIL,
                    SALES_ORDER.ARRIVE_BY,
                    SALES_ORDER.RECEIVED_AT,
                    SALES_ORDER.BASE_TOTAL)
                .from(SALES_ORDER)
                .join(CHANNEL)
                .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
                .where(SALES_ORDER.ID.in(ids))
                .fetch());
    Map<Long, GoodsFacts> contents = contents(ids);
    Map<String, String> groups =
        customers.groupsOf(heads.stream().map(h -> h.get(SALES_ORDER.EMAIL)).toList());
    Map<Long, Set<String>> tags =
        db
            .select(ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
            .from(ORDER_TAG)
            .where(ORDER_TAG.ORDER_ID.in(ids))
            .fetchGroups(ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
            .entrySet()
            .stream()
            .collect(Collectors.toMap(Map.Entry::getKey, e -> Set.copyOf(e.getValue())));
    Map<String, Long> first =
        firstOrders(heads.stream().map(h -> h.get(SALES_ORDER.EMAIL)).toList());
    Map<Long, Long> before = twice.earlier(ids);
    Map<Long, OrderFacts> facts = new LinkedHashMap<>();
    for (Record head : heads) {
      long id = head.get(SALES_ORDER.ID);
      ZonedDateTime moment = moment(at == null ? head.get(SALES_ORDER.RECEIVED_AT) : at);
      String buyer = head.get(SALES_ORDER.EMAIL).toLowerCase(Locale.ROOT);
      Long firstId = first.get(buyer);
      facts.put(
          id,
          new OrderFacts(
              head.get(CHANNEL.CODE),
              head.get(SALES_ORDER.SITE),
              PaymentState.valueOf(head.get(SALES_ORDER.PAYMENT_STATE)),
              head.get(SALES_ORDER.PAYMENT_METHOD),
              head.get(SALES_ORDER.SERVICE_WORDING),
              head.get(SALES_ORDER.SHIP_COUNTRY),
              head.get(SALES_ORDER.SHIP_CITY),
              head.get(SALES_ORDER.SHIP_POSTCODE),
              head.get(SALES_ORDER.EMAIL),
              groups.getOrDefault(buyer, ""),
              firstId == null || firstId == id,
              before.containsKey(id),
              moment.getDayOfWeek(),
              moment.getHour(),
              days(moment.toLocalDate(), head.get(SALES_ORDER.ARRIVE_BY)),
              head.get(SALES_ORDER.BASE_TOTAL),
              contents.getOrDefault(id, GoodsFacts.NOTHING),
              tags.getOrDefault(id, Set.of())));
    }
    return facts;
  }

  static @Nullable Long days(LocalDate from, @Nullable LocalDate to) {
    return to == null ? null : ChronoUnit.DAYS.between(from, to);
  }

  /** Of each order, what was not cancelled; kits that are apart as their components. */
  private Map<Long, GoodsFacts> contents(Collection<Long> ids) {
    Map<Long, Map<Long, Units>> lines = new HashMap<>();
    Map<Long, Long> orders = new HashMap<>();
    db.select(
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.ID,
            ORDER_LINE.ITEM_ID,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH))
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.in(ids))
        .and(ORDER_LINE.ITEM_ID.isNotNull())
        .and(ORDER_LINE.QUANTITY.gt(ORDER_LINE.CANCELLED))
        .forEach(r -> {
          lines
              .computeIfAbsent(r.value1(), k -> new LinkedHashMap<>())
              .put(r.value2(), new Units(r.value3(), r.value4()));
          orders.put(r.value2(), r.value1());
        });
    Map<Long, List<Units>> parts = new HashMap<>();
    if (!orders.isEmpty()) {
      db.select(ORDER_PART.ORDER_LINE_ID, ORDER_PART.ITEM_ID, ORDER_PART.QUANTITY)
          .from(ORDER_PART)
          .where(ORDER_PART.ORDER_LINE_ID.in(orders.keySet()))
          .forEach(r ->
              parts
                  .computeIfAbsent(r.value1(), k -> new ArrayList<>())
                  .add(new Units(r.value2(), r.value3())));
    }
    Map<Long, List<Units>> units = new HashMap<>();
    Set<Long> all = new HashSet<>();
    lines.forEach((order, its) ->
        its.forEach((line, unit) ->
            parts
                .getOrDefault(line, List.of(unit))
                .forEach(u -> {
                  units.computeIfAbsent(order, k -> new ArrayList<>()).add(u);
                  all.add(u.itemId());
                })));
    Goods goods = items.byId(all);
    Marks known = marks.of(all);
    Map<Long, GoodsFacts> contents = new HashMap<>();
    units.forEach((order, its) ->
        contents.put(order, goods(its, lines.getOrDefault(order, Map.of()).size(), goods, known)));
    return contents;
  }
}
