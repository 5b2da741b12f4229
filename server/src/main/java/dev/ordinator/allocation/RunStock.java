package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.allocation.AllocationRun.At;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.allocation.AllocationRun.Shelf;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.stock.LotPick;
import dev.ordinator.stock.Levels;
import dev.ordinator.stock.Lots.Tracked;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What there is for a run to give. */
@Component
class RunStock {
  /** Who waits for an item may have what is kept for those who wait. */
  static final String WAITING = "WAITING";

  private static final LotPick.Rule ANY_NUMBER = new LotPick.Rule(LotPick.Order.FIFO, false, 0);

  private final DSLContext db;

  RunStock(DSLContext db) {
    this.db = db;
  }

  /** An earmark that a line may take from. */
  record Own(long id, long item, long node, long units, String kind, String who) {}

  /**
   * What is set aside and may be taken: by those who wait what is kept for them, and by those for
   * whom it is the rest.
   */
  List<Own> own(Collection<Long> itemIds, Collection<Long> nodeIds, boolean all) {
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

  /**
   * @param byLot whether lots and numbers are named where they are tracked
   * @param excluded codes of lots that are not given
   */
  Stock read(
      Collection<Long> itemIds,
      Collection<Long> nodeIds,
      List<Own> own,
      boolean byLot,
      Set<String> excluded) {
    Map<Pool, Long> units = new HashMap<>();
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, Levels.FREE)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
        .and(STOCK_LEVEL.NODE_ID.in(nodeIds))
        .and(Levels.FREE.gt(0L))
        .forEach(r -> units.put(new Pool(r.value1(), r.value2(), 0), r.value3()));
    own.forEach(o -> units.put(new Pool(o.item(), o.node(), o.id()), o.units()));
    return new Stock(units, byLot ? shelves(itemIds, nodeIds, excluded) : Map.of());
  }

  /** Of what has numbers, only units whose number is known. */
  private Map<At, Shelf> shelves(
      Collection<Long> itemIds, Collection<Long> nodeIds, Set<String> excluded) {
    Map<Long, LotPick.Rule> rules = rules(itemIds);
    var free = STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED);
    Map<At, List<LotPick.Held>> lots = new HashMap<>();
    rules.keySet().forEach(item -> nodeIds.forEach(n -> lots.put(new At(item, n), List.of())));
    db.select(
            STOCK_PLACE.ITEM_ID,
            STOCK_PLACE.NODE_ID,
            STOCK_PLACE.ID,
            STOCK_PLACE.LOT_KEY,
            LOT.EXPIRES,
            LOT.CAME_AT,
            free)
        .from(STOCK_PLACE)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_PLACE.ITEM_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ITEM_ID.in(rules.keySet()))
        .and(STOCK_PLACE.NODE_ID.in(nodeIds))
        .and(STOCK_PLACE.STATE.eq("SELLABLE"))
        .and(free.gt(0L))
        .and(LOT.ID.isNotNull().or(ITEM.TRACKED.ne(Tracked.SERIAL.name())))
        .and(excluded.isEmpty() ? noCondition() : LOT.CODE.isNull().or(LOT.CODE.notIn(excluded)))
        .orderBy(STOCK_PLACE.ID)
        .forEach(r -> lots.merge(new At(r.value1(), r.value2()), List.of(held(r)), RunStock::both));
    Map<At, Shelf> shelves = new HashMap<>();
    rules.forEach((item, rule) ->
        nodeIds.forEach(node -> {
          At at = new At(item, node);
          shelves.put(at, new Shelf(rule, lots.getOrDefault(at, List.of())));
        }));
    return shelves;
  }

  private static List<LotPick.Held> both(List<LotPick.Held> some, List<LotPick.Held> more) {
    List<LotPick.Held> both = new ArrayList<>(some);
    both.addAll(more);
    return both;
  }

  private Map<Long, LotPick.Rule> rules(Collection<Long> itemIds) {
    return db.select(ITEM.ID, ITEM.TRACKED, ITEM.PICK, ITEM.ONE_LOT, ITEM.MIN_LIFE)
        .from(ITEM)
        .where(ITEM.ID.in(itemIds))
        .and(ITEM.TRACKED.ne(Tracked.NOTHING.name()))
        .fetchMap(
            ITEM.ID,
            r ->
                Tracked.valueOf(r.value2()) == Tracked.SERIAL
                    ? ANY_NUMBER
                    : new LotPick.Rule(LotPick.Order.valueOf(r.value3()), r.value4(), r.value5()));
  }

  private static LotPick.Held held(Record r) {
    return new LotPick.Held(
        r.get(STOCK_PLACE.ID),
        r.get(STOCK_PLACE.LOT_KEY),
        r.get(LOT.EXPIRES),
        cameOn(r.get(LOT.CAME_AT)),
        r.get(6, Long.class));
  }

  /** What is of no known lot came before all others. */
  private static LocalDate cameOn(@Nullable Instant at) {
    return at == null ? LocalDate.EPOCH : LocalDate.ofInstant(at, ZoneOffset.UTC);
  }
}
