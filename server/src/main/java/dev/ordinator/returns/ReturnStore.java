package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.REFUND;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.RMA_ARRIVAL;
import static dev.ordinator.schema.Tables.RMA_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectCount;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.platform.CodeSearch;
import dev.ordinator.returns.ReturnCard.Reason;
import dev.ordinator.returns.ReturnCard.Stage;
import dev.ordinator.stock.CameBack.Disposition;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Returns, and what was sent that may come back. */
@Repository
class ReturnStore {
  private static final List<String> GONE =
      Arrays.stream(ConsignmentState.values())
          .filter(state -> state.reached(ConsignmentState.HANDED_OVER))
          .map(Enum::name)
          .toList();
  private static final Condition COUNTS = REFUND.STATE.ne(RefundCard.State.WITHDRAWN.name());
  private static final Condition PAID_FOR =
      exists(selectOne().from(REFUND).where(REFUND.RMA_ID.eq(RMA.ID)).and(COUNTS));

  /** What came back, and nobody has said yet what is owed for it. */
  static final Condition OWED = RMA.STATE.eq(Stage.ARRIVED.name()).andNot(PAID_FOR);

  private final DSLContext db;

  ReturnStore(DSLContext db) {
    this.db = db;
  }

  /** By when they were opened. */
  enum Sort {
    NEWEST,
    OLDEST
  }

  /** Heaps of returns, by what is to be done with them. */
  enum Pile {
    AWAITED,
    OWED,
    PAYING,
    ENDED,
    ALL
  }

  /**
   * Units of an item that left for a buyer.
   *
   * @param ordered units of the order's line that went with it, as the channel counts them; of a
   *     kit's components only the first bears them
   * @param back units of it that came back or are to come
   */
  record Sent(
      long id,
      long consignmentId,
      String consignment,
      long nodeId,
      long orderLineId,
      long itemId,
      String sku,
      String item,
      boolean tracked,
      long units,
      long ordered,
      long back) {
    long left() {
      return units - back;
    }
  }

  /** Units of a return, {@code came} of them. */
  record Line(long id, Sent sent, long units, long came) {}

  /** Units that came at once. */
  record Arrival(
      long lineId, long units, Disposition disposition, String lot, String actor, Instant at) {}

  /** What has left of an order, but for goods that the channel sent itself. */
  List<Sent> sent(long orderId) {
    return sent(CONSIGNMENT.ORDER_ID.eq(orderId).and(CONSIGNMENT.STATE.in(GONE)));
  }

  private List<Sent> sent(Condition which) {
    Field<BigDecimal> back =
        field(
            select(coalesce(sum(RMA_LINE.UNITS), BigDecimal.ZERO))
                .from(RMA_LINE)
                .join(RMA)
                .on(RMA.ID.eq(RMA_LINE.RMA_ID))
                .where(RMA_LINE.CONSIGNMENT_LINE_ID.eq(CONSIGNMENT_LINE.ID))
                .and(RMA.STATE.ne(Stage.CALLED_OFF.name())));
    return db.select(
            CONSIGNMENT_LINE.ID,
            CONSIGNMENT.ID,
            CONSIGNMENT.NUMBER,
            CONSIGNMENT.NODE_ID,
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            field(ITEM.TRACKED.ne("NOTHING")),
            CONSIGNMENT_LINE.QUANTITY,
            CONSIGNMENT_LINE.ORDERED,
            back)
        .from(CONSIGNMENT_LINE)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(CONSIGNMENT_LINE.ITEM_ID))
        .where(which)
        .orderBy(CONSIGNMENT.ID, CONSIGNMENT_LINE.ID)
        .fetch(r ->
            new Sent(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11(),
                r.value12().longValueExact()));
  }

  List<Line> lines(long id) {
    List<Sent> sent =
        sent(
            CONSIGNMENT_LINE.ID.in(
                select(RMA_LINE.CONSIGNMENT_LINE_ID).from(RMA_LINE).where(RMA_LINE.RMA_ID.eq(id))));
    Field<BigDecimal> came =
        field(
            select(coalesce(sum(RMA_ARRIVAL.UNITS), BigDecimal.ZERO))
                .from(RMA_ARRIVAL)
                .where(RMA_ARRIVAL.RMA_LINE_ID.eq(RMA_LINE.ID)));
    return db.select(RMA_LINE.ID, RMA_LINE.CONSIGNMENT_LINE_ID, RMA_LINE.UNITS, came)
        .from(RMA_LINE)
        .where(RMA_LINE.RMA_ID.eq(id))
        .orderBy(RMA_LINE.ID)
        .fetch(r ->
            new Line(r.value1(), of(sent, r.value2()), r.value3(), r.value4().longValueExact()));
  }

  private static Sent of(List<Sent> sent, long id) {
    return sent.stream().filter(s -> s.id() == id).findFirst().orElseThrow();
  }

  List<Arrival> arrivals(long id) {
    return db.select(
            RMA_ARRIVAL.RMA_LINE_ID,
            RMA_ARRIVAL.UNITS,
            RMA_ARRIVAL.DISPOSITION,
            coalesce(LOT.CODE, ""),
            RMA_ARRIVAL.ACTOR,
            RMA_ARRIVAL.AT)
        .from(RMA_ARRIVAL)
        .join(RMA_LINE)
        .on(RMA_LINE.ID.eq(RMA_ARRIVAL.RMA_LINE_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(RMA_ARRIVAL.LOT_ID))
        .where(RMA_LINE.RMA_ID.eq(id))
        .orderBy(RMA_ARRIVAL.ID)
        .fetch(r ->
            new Arrival(
                r.value1(),
                r.value2(),
                Disposition.valueOf(r.value3()),
                r.value4(),
                r.value5(),
                r.value6()));
  }

  /** Where what a node sent comes back to, unless somebody says otherwise. */
  long comesBackTo(long nodeId) {
    return db.select(coalesce(NODE.RETURNS_TO, NODE.ID))
        .from(NODE)
        .where(NODE.ID.eq(nodeId))
        .fetchSingle()
        .value1();
  }

  List<ReturnCard> byId(long id) {
    return cards(RMA.ID.eq(id), Sort.NEWEST, 1);
  }

  List<ReturnCard> ofOrder(long orderId) {
    return cards(RMA.ORDER_ID.eq(orderId), Sort.NEWEST, Integer.MAX_VALUE);
  }

  /**
   * @param search the beginning of a return's or an order's number, or of the buyer's name
   * @param after the id of the one that those wanted follow; null: from the first on
   */
  List<ReturnCard> list(Pile pile, String search, Sort sort, @Nullable Long after, int limit) {
    Condition found =
        search.isBlank()
            ? noCondition()
            : CodeSearch.startsWith(RMA.NUMBER, search.strip())
                .or(CodeSearch.startsWith(SALES_ORDER.NUMBER, search.strip()))
                .or(SALES_ORDER.BUYER_NAME.startsWith(search.strip()));
    Condition behind =
        after == null ? noCondition() : sort == Sort.NEWEST ? RMA.ID.lt(after) : RMA.ID.gt(after);
    return cards(in(pile).and(found).and(behind), sort, limit);
  }

  int count(Pile pile) {
    return db.fetchCount(RMA, in(pile));
  }

  private static Condition in(Pile pile) {
    return switch (pile) {
      case AWAITED -> RMA.STATE.eq(Stage.AWAITED.name());
      case OWED -> OWED;
      case PAYING -> RMA.STATE.eq(Stage.ARRIVED.name()).and(PAID_FOR);
      case ENDED -> RMA.STATE.in(Stage.CLOSED.name(), Stage.CALLED_OFF.name());
      case ALL -> noCondition();
    };
  }

  private List<ReturnCard> cards(Condition which, Sort sort, int limit) {
    var order = sort == Sort.NEWEST ? RMA.ID.desc() : RMA.ID.asc();
    // which they are is asked first, or the rest is worked out for all that there are
    var wanted =
        select(RMA.ID)
            .from(RMA)
            .join(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(RMA.ORDER_ID))
            .where(which)
            .orderBy(order)
            .limit(limit)
            .asTable("wanted");
    var units = field(select(sum(RMA_LINE.UNITS)).from(RMA_LINE).where(RMA_LINE.RMA_ID.eq(RMA.ID)));
    var came =
        field(
            select(coalesce(sum(RMA_ARRIVAL.UNITS), BigDecimal.ZERO))
                .from(RMA_ARRIVAL)
                .join(RMA_LINE)
                .on(RMA_LINE.ID.eq(RMA_ARRIVAL.RMA_LINE_ID))
                .where(RMA_LINE.RMA_ID.eq(RMA.ID)));
    var first = RMA_LINE.as("first");
    var item =
        field(
            select(ITEM.NAME)
                .from(first)
                .join(CONSIGNMENT_LINE)
                .on(CONSIGNMENT_LINE.ID.eq(first.CONSIGNMENT_LINE_ID))
                .join(ITEM)
                .on(ITEM.ID.eq(CONSIGNMENT_LINE.ITEM_ID))
                .where(first.RMA_ID.eq(RMA.ID))
                .orderBy(first.ID)
                .limit(1));
    var lines = field(selectCount().from(RMA_LINE).where(RMA_LINE.RMA_ID.eq(RMA.ID)));
    // one is asked for at a time: the newest that was not withdrawn
    var refund =
        field(select(max(REFUND.ID)).from(REFUND).where(REFUND.RMA_ID.eq(RMA.ID)).and(COUNTS));
    return db.select(
            RMA.ID,
            RMA.ORDER_ID,
            RMA.NUMBER,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            CHANNEL.NAME,
            RMA.NODE_ID,
            NODE.NAME,
            RMA.REASON,
            RMA.NOTE,
            RMA.STATE,
            item,
            lines,
            units,
            came,
            RMA.OPENED_BY,
            RMA.OPENED_AT,
            RMA.ENDED_AT,
            RMA.ENDED_WHY,
            REFUND.STATE,
            coalesce(REFUND.AMOUNT, 0L),
            SALES_ORDER.CURRENCY)
        .from(wanted)
        .join(RMA)
        .on(RMA.ID.eq(wanted.field(RMA.ID)))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(RMA.ORDER_ID))
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .join(NODE)
        .on(NODE.ID.eq(RMA.NODE_ID))
        .leftJoin(REFUND)
        .on(REFUND.ID.eq(refund))
        .orderBy(order)
        .fetch(r ->
            new ReturnCard(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                Reason.valueOf(r.value9()),
                r.value10(),
                Stage.valueOf(r.value11()),
                r.value12(),
                r.value13(),
                r.value14().longValueExact(),
                r.value15().longValueExact(),
                r.value16(),
                r.value17(),
                r.value18(),
                r.value19(),
                r.value20() == null ? null : RefundCard.State.valueOf(r.value20()),
                r.value21(),
                r.value22()));
  }
}
