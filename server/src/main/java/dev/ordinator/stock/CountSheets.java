package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_COUNT;
import static dev.ordinator.schema.Tables.STOCK_COUNT_LINE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.when;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.Counts.State;
import dev.ordinator.stock.Counts.Why;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectHavingStep;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Count lists, as those who count and those who look after it see them. */
@Component
class CountSheets {
  private static final int MOST = 200;

  private final DSLContext db;
  private final OrdinatorSettings settings;

  CountSheets(DSLContext db, OrdinatorSettings settings) {
    this.db = db;
    this.settings = settings;
  }

  /**
   * @param currency of all values
   * @param counted lines of which somebody said how many there are
   * @param waiting lines whose difference a manager must let in
   */
  record Head(
      long id,
      String name,
      long nodeId,
      String node,
      boolean blind,
      @Nullable Long approveAbove,
      String currency,
      String madeBy,
      Instant madeAt,
      @Nullable String closedBy,
      @Nullable Instant closedAt,
      int lines,
      int counted,
      int waiting) {}

  /**
   * @param book units on record when it was counted, or now; null: not told to who counts blind
   * @param value of the difference, in minor units of the base currency; null: there is none yet
   */
  record Line(
      long id,
      String sku,
      @Nullable String gtin,
      String name,
      String bin,
      String lot,
      State state,
      @Nullable Long book,
      @Nullable Long counted,
      @Nullable Long value,
      @Nullable Why why,
      String note,
      String countedBy,
      @Nullable Instant countedAt,
      String settledBy) {}

  record Sheet(Head count, List<Line> lines) {}

  /** Open ones first, then the newest. */
  List<Head> all(OptionalLong onlyNode) {
    return heads(
            onlyNode.isPresent() ? STOCK_COUNT.NODE_ID.eq(onlyNode.getAsLong()) : noCondition())
        .orderBy(STOCK_COUNT.CLOSED_AT.isNotNull(), STOCK_COUNT.ID.desc())
        .limit(MOST)
        .fetch(this::head);
  }

  /** By bin, as one walks. */
  Sheet sheet(long id, OptionalLong onlyNode) {
    Head head =
        heads(STOCK_COUNT.ID.eq(id))
            .fetchOptional(this::head)
            .filter(h -> onlyNode.isEmpty() || onlyNode.getAsLong() == h.nodeId())
            .orElseThrow(() -> Problem.notFound("count " + id));
    return new Sheet(head, lines(head));
  }

  private List<Line> lines(Head head) {
    return db.select(STOCK_COUNT_LINE.fields())
        .select(ITEM.SKU, ITEM.GTIN, ITEM.NAME, ITEM.COST, ITEM.LIST_PRICE, STOCK_PLACE.ON_HAND)
        .from(STOCK_COUNT_LINE)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_COUNT_LINE.ITEM_ID))
        .leftJoin(LOT)
        .on(LOT.ITEM_ID.eq(ITEM.ID))
        .and(LOT.CODE.eq(STOCK_COUNT_LINE.LOT))
        .leftJoin(STOCK_PLACE)
        .on(STOCK_PLACE.ITEM_ID.eq(ITEM.ID))
        .and(STOCK_PLACE.NODE_ID.eq(head.nodeId()))
        .and(STOCK_PLACE.BIN.eq(STOCK_COUNT_LINE.BIN))
        .and(STOCK_PLACE.LOT_KEY.eq(coalesce(LOT.ID, 0L)))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .where(STOCK_COUNT_LINE.COUNT_ID.eq(head.id()))
        .orderBy(STOCK_COUNT_LINE.BIN, ITEM.SKU, STOCK_COUNT_LINE.LOT)
        .fetch(r -> line(r, head.blind()));
  }

  private static Line line(Record r, boolean blind) {
    State state = State.valueOf(r.get(STOCK_COUNT_LINE.STATE));
    boolean told = !blind || state.compareTo(State.WAITING) >= 0;
    Long book = told ? book(r, state) : null;
    Long counted = r.get(STOCK_COUNT_LINE.COUNTED);
    long each = Counts.worth(r.get(ITEM.COST), r.get(ITEM.LIST_PRICE));
    String why = r.get(STOCK_COUNT_LINE.REASON);
    return new Line(
        r.get(STOCK_COUNT_LINE.ID),
        r.get(ITEM.SKU),
        r.get(ITEM.GTIN),
        r.get(ITEM.NAME),
        r.get(STOCK_COUNT_LINE.BIN),
        r.get(STOCK_COUNT_LINE.LOT),
        state,
        book,
        counted,
        book == null || counted == null ? null : (counted - book) * each,
        why.isEmpty() ? null : Why.valueOf(why),
        r.get(STOCK_COUNT_LINE.NOTE),
        r.get(STOCK_COUNT_LINE.COUNTED_BY),
        r.get(STOCK_COUNT_LINE.COUNTED_AT),
        r.get(STOCK_COUNT_LINE.SETTLED_BY));
  }

  private static @Nullable Long book(Record r, State state) {
    return state == State.OPEN
        ? Objects.requireNonNullElse(r.get(STOCK_PLACE.ON_HAND), 0L)
        : r.get(STOCK_COUNT_LINE.BOOK);
  }

  private SelectHavingStep<? extends Record> heads(org.jooq.Condition which) {
    return db.select(STOCK_COUNT.fields())
        .select(
            NODE.NAME,
            count(STOCK_COUNT_LINE.ID).as("all_lines"),
            count(when(STOCK_COUNT_LINE.STATE.ne(State.OPEN.name()), 1)).as("counted_lines"),
            count(when(STOCK_COUNT_LINE.STATE.eq(State.WAITING.name()), 1)).as("waiting_lines"))
        .from(STOCK_COUNT)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_COUNT.NODE_ID))
        .leftJoin(STOCK_COUNT_LINE)
        .on(STOCK_COUNT_LINE.COUNT_ID.eq(STOCK_COUNT.ID))
        .where(which)
        .groupBy(STOCK_COUNT.ID, NODE.NAME);
  }

  private Head head(Record r) {
    return new Head(
        r.get(STOCK_COUNT.ID),
        r.get(STOCK_COUNT.NAME),
        r.get(STOCK_COUNT.NODE_ID),
        r.get(NODE.NAME),
        r.get(STOCK_COUNT.BLIND),
        r.get(STOCK_COUNT.APPROVE_ABOVE),
        settings.baseCurrency(),
        r.get(STOCK_COUNT.MADE_BY),
        r.get(STOCK_COUNT.MADE_AT),
        r.get(STOCK_COUNT.CLOSED_BY),
        r.get(STOCK_COUNT.CLOSED_AT),
        r.get("all_lines", Integer.class),
        r.get("counted_lines", Integer.class),
        r.get("waiting_lines", Integer.class));
  }
}
