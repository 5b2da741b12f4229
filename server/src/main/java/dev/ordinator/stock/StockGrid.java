package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Items × nodes, and one item in depth. */
@Component
class StockGrid {
  private static final int PAGE = 200;

  private static final Field<BigDecimal> WAITING_UNITS =
      field(
              select(coalesce(sum(BACKORDER.UNITS), val(BigDecimal.ZERO)))
                  .from(BACKORDER)
                  .where(isShortOf(ITEM.ID)))
          .as("waiting_units");

  private final DSLContext db;
  private final Kits kits;
  private final ItemSettings settings;

  StockGrid(DSLContext db, Kits kits, ItemSettings settings) {
    this.db = db;
    this.kits = kits;
    this.settings = settings;
  }

  /**
   * @param leaves when goods leave its stock
   */
  record NodeHead(long id, String code, String name, LeaveMoment leaves) {}

  /**
   * @param shortDated units of lots whose shelf life is too short to send them
   * @param most more than this on hand is a surplus; null: no limit
   * @param available what anybody may be given; of a kit, as many as there can be
   */
  record Cell(
      long nodeId,
      long onHand,
      long allocated,
      long safety,
      long earmarked,
      long shortDated,
      @Nullable Long most,
      long available) {}

  /**
   * @param family what its variants share; empty: it has none
   * @param isKit what is on hand of it was put together in advance
   * @param counted false: there is always enough of it
   * @param waiting units that orders wait for
   */
  record Row(
      long id,
      String sku,
      String name,
      String category,
      String family,
      @Nullable String gtin,
      boolean isKit,
      boolean counted,
      long waiting,
      long available,
      List<Cell> cells) {}

  record Page(List<NodeHead> nodes, List<String> categories, Slice<Row> items) {}

  /** Units that an order holds somewhere. */
  record Held(long orderId, String orderNumber, String node, long quantity, LocalDate shipBy) {}

  /**
   * An order that waits for an item; in the order in which they are served.
   *
   * @param arriveBy the day asked for; null: none
   * @param readyOn when it will be there, as things stand; null: no day in sight
   */
  record Waiting(
      long orderId,
      String orderNumber,
      String buyer,
      @Nullable LocalDate arriveBy,
      long quantity,
      @Nullable LocalDate readyOn) {}

  /**
   * @param ended it is no longer sold
   * @param home code of the node that is tried first for orders with it; null: none is
   * @param settingsTag sent back as {@code If-Match} by who changes what is said of it
   */
  record ItemSheet(
      Row item,
      List<NodeHead> nodes,
      long weight,
      long volume,
      boolean ended,
      @Nullable String home,
      SellingAhead.Ahead ahead,
      String settingsTag,
      List<Held> held,
      List<Waiting> waiting) {}

  Page page(String search, String category, boolean shortOnly, String after) {
    Condition which = noCondition();
    if (!search.isBlank()) {
      String part = search.strip();
      which =
          which.and(
              ITEM.SKU
                  .startsWithIgnoreCase(part)
                  .or(ITEM.NAME.containsIgnoreCase(part))
                  .or(ITEM.GTIN.endsWith(part))
                  .or(ITEM.SUPPLIER_CODE.eq(part))
                  .or(
                      exists(
                          selectOne()
                              .from(LOT)
                              .where(LOT.ITEM_ID.eq(ITEM.ID))
                              .and(LOT.CODE.eq(part)))));
    }
    if (!category.isBlank()) {
      which = which.and(ITEM.CATEGORY.eq(category));
    }
    if (shortOnly) {
      which = which.andExists(openShortage());
    }
    if (!after.isEmpty()) {
      which = which.and(ITEM.SKU.gt(after));
    }
    List<Row> rows = rows(which, PAGE + 1);
    return new Page(
        nodes(),
        db.selectDistinct(ITEM.CATEGORY).from(ITEM).orderBy(ITEM.CATEGORY).fetch(ITEM.CATEGORY),
        Slice.of(rows, PAGE, Row::sku));
  }

  ItemSheet sheet(long id) {
    List<Row> found = rows(ITEM.ID.eq(id), 1);
    if (found.isEmpty()) {
      throw Problem.notFound("item " + id);
    }
    var measures =
        db.select(
                ITEM.WEIGHT,
                ITEM.VOLUME,
                ITEM.ENDED,
                NODE.CODE,
                ITEM.MAY_WAIT,
                ITEM.OUT_ON,
                ITEM.AHEAD_MOST,
                ITEM.LEAD_DAYS)
            .from(ITEM)
            .leftJoin(NODE)
            .on(NODE.ID.eq(ITEM.HOME_NODE_ID))
            .where(ITEM.ID.eq(id))
            .fetchSingle();
    return new ItemSheet(
        found.getFirst(),
        nodes(),
        measures.value1(),
        measures.value2(),
        measures.value3(),
        measures.value4(),
        new SellingAhead.Ahead(
            measures.value5(), measures.value6(), measures.value7(), measures.value8()),
        settings.tag(id),
        held(id),
        waiting(id));
  }

  List<NodeHead> nodes() {
    return db.select(NODE.ID, NODE.CODE, NODE.NAME, NODE.STOCK_LEAVES)
        .from(NODE)
        .orderBy(NODE.POSITION)
        .fetch(
            r -> new NodeHead(r.value1(), r.value2(), r.value3(), LeaveMoment.valueOf(r.value4())));
  }

  private List<Row> rows(Condition which, int limit) {
    var items =
        db.select(
                ITEM.ID,
                ITEM.SKU,
                ITEM.NAME,
                ITEM.CATEGORY,
                ITEM.FAMILY,
                ITEM.GTIN,
                ITEM.COUNTED,
                WAITING_UNITS)
            .from(ITEM)
            .where(which)
            .orderBy(ITEM.SKU)
            .limit(limit)
            .fetch();
    List<Long> ids = items.getValues(ITEM.ID);
    Map<Long, List<Cell>> cells = cells(ids);
    Map<Long, List<Kits.AtNode>> kitsAt = kits.atNodes(ids, Set.of(), Kits.Look.AVAILABLE);
    kitsAt.forEach((id, nodes) -> cells.put(id, ofKit(cells.getOrDefault(id, List.of()), nodes)));
    return items.map(r ->
        row(r, kitsAt.containsKey(r.get(ITEM.ID)), cells.getOrDefault(r.get(ITEM.ID), List.of())));
  }

  private Map<Long, List<Cell>> cells(List<Long> itemIds) {
    Map<Long, List<Cell>> cells = new HashMap<>();
    db.select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID, STOCK_LEVEL.MOST)
        .select(Levels.FIELDS)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
        .forEach(r -> {
          StockLevel now = Levels.of(r);
          cells
              .computeIfAbsent(r.get(STOCK_LEVEL.ITEM_ID), i -> new ArrayList<>())
              .add(
                  new Cell(
                      r.get(STOCK_LEVEL.NODE_ID),
                      now.onHand(),
                      now.allocated(),
                      now.safety(),
                      now.earmarked(),
                      now.shortDated(),
                      r.get(STOCK_LEVEL.MOST),
                      now.available()));
        });
    return cells;
  }

  /** The ready-made ones as they lie there, and how many there can be with them. */
  private static List<Cell> ofKit(List<Cell> ready, List<Kits.AtNode> nodes) {
    return nodes.stream()
        .map(n -> {
          Cell there =
              ready.stream()
                  .filter(c -> c.nodeId() == n.nodeId())
                  .findFirst()
                  .orElse(new Cell(n.nodeId(), 0, 0, 0, 0, 0, null, 0));
          return new Cell(
              n.nodeId(),
              there.onHand(),
              there.allocated(),
              there.safety(),
              there.earmarked(),
              there.shortDated(),
              there.most(),
              n.available());
        })
        .toList();
  }

  private static Row row(Record r, boolean isKit, List<Cell> cells) {
    return new Row(
        r.get(ITEM.ID),
        r.get(ITEM.SKU),
        r.get(ITEM.NAME),
        r.get(ITEM.CATEGORY),
        r.get(ITEM.FAMILY),
        r.get(ITEM.GTIN),
        isKit,
        r.get(ITEM.COUNTED),
        r.get(WAITING_UNITS).longValueExact(),
        cells.stream().mapToLong(Cell::available).sum(),
        cells);
  }

  private static Select<?> openShortage() {
    return selectOne().from(BACKORDER).where(isShortOf(ITEM.ID));
  }

  private static Condition isShortOf(Field<Long> item) {
    return BACKORDER.ITEM_ID.eq(item).and(BACKORDER.CLOSED_AT.isNull()).and(BACKORDER.LACKING);
  }

  private List<Held> held(long itemId) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            NODE.NAME,
            sum(ALLOCATION.QUANTITY),
            CONSIGNMENT.SHIP_BY)
        .from(ALLOCATION)
        .join(CONSIGNMENT_LINE)
        .on(CONSIGNMENT_LINE.ID.eq(ALLOCATION.CONSIGNMENT_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .join(NODE)
        .on(NODE.ID.eq(ALLOCATION.NODE_ID))
        .where(ALLOCATION.ITEM_ID.eq(itemId))
        .and(ALLOCATION.ENDED_AT.isNull())
        .groupBy(SALES_ORDER.ID, SALES_ORDER.NUMBER, NODE.NAME, CONSIGNMENT.SHIP_BY)
        .orderBy(CONSIGNMENT.SHIP_BY, SALES_ORDER.ID)
        .limit(PAGE)
        .fetch(r ->
            new Held(r.value1(), r.value2(), r.value3(), r.value4().longValueExact(), r.value5()));
  }

  private List<Waiting> waiting(long itemId) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.ARRIVE_BY,
            BACKORDER.UNITS,
            BACKORDER.READY_ON)
        .from(BACKORDER)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
        .where(BACKORDER.ITEM_ID.eq(itemId))
        .and(BACKORDER.CLOSED_AT.isNull())
        .orderBy(BACKORDER.PLACE, BACKORDER.ID)
        .limit(PAGE)
        .fetch(r ->
            new Waiting(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }
}
