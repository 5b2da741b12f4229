package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LANE;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toList;
import static java.util.stream.Collectors.toMap;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;
import static org.jooq.impl.DSL.when;

import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.platform.OrdinatorSettings;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jooq.SelectSelectStep;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * How long what lies there may still be sent. A lot may be sent on a day if it does not expire
 * before the earliest arrival plus the days that the item must last after it. The earliest arrival
 * is that very day from a store, where buyers may collect; elsewhere the shortest transit of the
 * node's lanes later. What may no longer be sent today is short-dated, and not available.
 */
@Component
public class ShelfLife {
  /** Of a lot at a node: the last day on which it may be sent. */
  private static final Field<LocalDate> LAST_DAY =
      field(
          "date_sub({0}, interval {1} day)",
          LocalDate.class,
          LOT.EXPIRES,
          ITEM.MIN_LIFE.plus(
              when(NODE.KIND.eq(NodeKind.STORE.name()), 0)
                  .otherwise(
                      coalesce(
                          field(
                              select(min(LANE.TRANSIT_DAYS))
                                  .from(LANE)
                                  .where(LANE.NODE_ID.eq(NODE.ID))),
                          0))));

  private static final Field<Long> FREE = STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED);

  private final DSLContext db;
  private final ApplicationEventPublisher publisher;
  private final OrdinatorSettings settings;
  private final Clock clock;

  ShelfLife(
      DSLContext db, ApplicationEventPublisher publisher, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.publisher = publisher;
    this.settings = settings;
    this.clock = clock;
  }

  /** Units of a level that are short-dated now. */
  private Field<Long> units() {
    return field(
            perishing(select(coalesce(sum(FREE), val(BigDecimal.ZERO))))
                .and(STOCK_PLACE.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID))
                .and(STOCK_PLACE.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
                .and(LAST_DAY.lt(today())))
        .cast(Long.class);
  }

  /**
   * What is free of items and may be sent for some time, but not for good; days are counted from
   * the merchant's today.
   *
   * @param serving codes of the nodes that count; empty: all but channels' depots
   * @return by item and then by node's code
   */
  Map<Long, Map<String, List<Atp.RunningOut>>> runningOut(
      Collection<Long> itemIds, Set<String> serving) {
    return runningOut(STOCK_PLACE.ITEM_ID.in(itemIds), serving);
  }

  /**
   * The same of all items, over all nodes that serve.
   *
   * @return by item
   */
  public Map<Long, List<Atp.RunningOut>> runningOut(Set<String> serving) {
    return runningOut(noCondition(), serving).entrySet().stream()
        .collect(toMap(Map.Entry::getKey, e -> overAllNodes(e.getValue())));
  }

  static List<Atp.RunningOut> overAllNodes(Map<String, List<Atp.RunningOut>> byNode) {
    return byNode.values().stream().flatMap(List::stream).toList();
  }

  private Map<Long, Map<String, List<Atp.RunningOut>>> runningOut(
      org.jooq.Condition items, Set<String> serving) {
    LocalDate today = today();
    return perishing(db.select(STOCK_PLACE.ITEM_ID, NODE.CODE, LAST_DAY, FREE))
        .and(items)
        .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
        .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
        .and(FREE.gt(0L))
        .and(LAST_DAY.ge(today))
        .collect(
            groupingBy(
                r -> r.value1(),
                groupingBy(
                    r -> r.value2(),
                    mapping(
                        r ->
                            new Atp.RunningOut(
                                (int) ChronoUnit.DAYS.between(today, r.value3()), r.value4()),
                        toList()))));
  }

  private static <R extends Record> SelectConditionStep<R> perishing(SelectSelectStep<R> what) {
    return what.from(STOCK_PLACE)
        .join(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_PLACE.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
        .where(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(Lots.BY_LOT)
        .and(LOT.EXPIRES.isNotNull());
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), settings.timeZone());
  }

  /** The level is locked; one of its places was changed. */
  @Transactional(propagation = Propagation.MANDATORY)
  void refresh(long itemId, long nodeId) {
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.SHORT_DATED, units())
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
  }

  /** Time has passed, or what an item must last is another: all its levels are looked at. */
  @Transactional(propagation = Propagation.MANDATORY)
  void refreshAll(long itemId, String actor) {
    int changed =
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.SHORT_DATED, units())
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.SHORT_DATED.ne(units()))
            .execute();
    if (changed > 0) {
      publisher.publishEvent(new SupplyMoved(itemId));
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
  }

  /** Items some level of which time, or a lane, has made wrong. */
  List<Long> differing() {
    return db.selectDistinct(STOCK_LEVEL.ITEM_ID)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .where(Lots.BY_LOT.or(STOCK_LEVEL.SHORT_DATED.ne(0L)))
        .and(STOCK_LEVEL.SHORT_DATED.ne(units()))
        .orderBy(STOCK_LEVEL.ITEM_ID)
        .fetch(STOCK_LEVEL.ITEM_ID);
  }
}
