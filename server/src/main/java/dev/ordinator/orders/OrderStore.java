package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.ORDER_EXCLUDED_NODE;
import static dev.ordinator.schema.Tables.ORDER_HOLD;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_NUMBER;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.concat;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

@Repository
class OrderStore {
  private static final long FIRST_NUMBER = 10_001;

  private final DSLContext db;
  private final Clock clock;

  OrderStore(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /** Gives the next order number of a channel; others wait for the commit to get theirs. */
  String nextNumber(long channelId) {
    db.insertInto(ORDER_NUMBER)
        .set(ORDER_NUMBER.CHANNEL_ID, channelId)
        .set(ORDER_NUMBER.LAST_GIVEN, FIRST_NUMBER)
        .onDuplicateKeyUpdate()
        .set(ORDER_NUMBER.LAST_GIVEN, ORDER_NUMBER.LAST_GIVEN.plus(1))
        .execute();
    return db.select(concat(CHANNEL.PREFIX, ORDER_NUMBER.LAST_GIVEN.cast(String.class)))
        .from(ORDER_NUMBER)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(ORDER_NUMBER.CHANNEL_ID))
        .where(ORDER_NUMBER.CHANNEL_ID.eq(channelId))
        .fetchSingle()
        .value1();
  }

  long insert(long channelId, String number, NewOrder order) {
    long id =
        db.insertInto(SALES_ORDER)
            .set(SALES_ORDER.CHANNEL_ID, channelId)
            .set(SALES_ORDER.EXTERNAL_ID, order.externalId())
            .set(SALES_ORDER.EXTERNAL_REV, order.revision())
            .set(SALES_ORDER.DIGEST, order.digest())
            .set(SALES_ORDER.NUMBER, number)
            .set(SALES_ORDER.STAGE, Stage.RECEIVED.name())
            .set(SALES_ORDER.NEXT_STEP, Step.CHECK.name())
            .set(SALES_ORDER.NEXT_STEP_AT, clock.instant())
            .set(SALES_ORDER.PLACED_AT, order.placedAt())
            .set(SALES_ORDER.RECEIVED_AT, clock.instant())
            .set(SALES_ORDER.BUYER_NAME, order.buyer().name())
            .set(SALES_ORDER.EMAIL, order.buyer().email())
            .set(SALES_ORDER.PHONE, order.buyer().phone())
            .set(SALES_ORDER.SHIP_NAME, order.shipTo().name())
            .set(SALES_ORDER.SHIP_STREET, order.shipTo().street())
            .set(SALES_ORDER.SHIP_POSTCODE, order.shipTo().postcode())
            .set(SALES_ORDER.SHIP_CITY, order.shipTo().city())
            .set(SALES_ORDER.SHIP_COUNTRY, order.shipTo().country())
            .set(SALES_ORDER.SERVICE_WORDING, order.serviceWording())
            .set(SALES_ORDER.ARRIVE_BY, order.arriveBy())
            .set(SALES_ORDER.PAYMENT_STATE, order.payment().name())
            .set(SALES_ORDER.PAYMENT_METHOD, order.paymentMethod())
            .set(SALES_ORDER.CURRENCY, order.total().currency().getCurrencyCode())
            .set(SALES_ORDER.SHIPPING_CHARGE, order.shippingCharge().minor())
            .set(SALES_ORDER.DISCOUNT, order.discount().minor())
            .set(SALES_ORDER.TOTAL, order.total().minor())
            .set(SALES_ORDER.UNITS, order.lines().stream().mapToLong(NewOrder.Line::quantity).sum())
            .set(SALES_ORDER.INSTRUCTIONS, order.instructions())
            .set(SALES_ORDER.GIFT_MESSAGE, order.giftMessage())
            .returningResult(SALES_ORDER.ID)
            .fetchSingle()
            .value1();
    var insert =
        db.insertInto(
            ORDER_LINE,
            ORDER_LINE.ORDER_ID,
            ORDER_LINE.LINE_NO,
            ORDER_LINE.EXTERNAL_ID,
            ORDER_LINE.LISTING_ID,
            ORDER_LINE.TITLE,
            ORDER_LINE.QUANTITY,
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT);
    int lineNo = 0;
    for (NewOrder.Line line : order.lines()) {
      insert =
          insert.values(
              id,
              ++lineNo,
              line.externalId(),
              line.listingId(),
              line.title(),
              line.quantity(),
              line.unitPrice().minor(),
              line.discount().minor());
    }
    insert.execute();
    return id;
  }

  Optional<OrderHead> head(long id) {
    return heads(SALES_ORDER.ID.eq(id)).fetchOptional(OrderStore::head);
  }

  /** Locks the order for this transaction. */
  Optional<OrderHead> lock(long id) {
    return lock(SALES_ORDER.ID.eq(id));
  }

  Optional<OrderHead> lock(long channelId, String externalId) {
    return lock(SALES_ORDER.CHANNEL_ID.eq(channelId).and(SALES_ORDER.EXTERNAL_ID.eq(externalId)));
  }

  /** In two steps: a locking join would lock the channel's row as well. */
  private Optional<OrderHead> lock(Condition which) {
    return db.select(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(which)
        .forUpdate()
        .fetchOptional(SALES_ORDER.ID)
        .flatMap(this::head);
  }

  /**
   * Locks the most urgent order that the desk has something to do for, and that no one else has.
   */
  Optional<Orders.Claim> claim() {
    return db.select(SALES_ORDER.ID, SALES_ORDER.NEXT_STEP)
        .from(SALES_ORDER)
        .where(SALES_ORDER.NEXT_STEP.isNotNull())
        .and(SALES_ORDER.NEXT_STEP_AT.le(clock.instant()))
        .orderBy(SALES_ORDER.PRIORITY, SALES_ORDER.ID)
        .limit(1)
        .forUpdate()
        .skipLocked()
        .fetchOptional(r -> new Orders.Claim(r.value1(), Step.valueOf(r.value2())));
  }

  List<OrderLine> lines(long orderId) {
    return db.select(
            ORDER_LINE.ID,
            ORDER_LINE.LINE_NO,
            ORDER_LINE.EXTERNAL_ID,
            ORDER_LINE.LISTING_ID,
            ORDER_LINE.ITEM_ID,
            ORDER_LINE.TITLE,
            ORDER_LINE.QUANTITY)
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .orderBy(ORDER_LINE.LINE_NO)
        .fetch(r ->
            new OrderLine(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7()));
  }

  /** Gives lines the items that their listings are matched to. */
  void takeMatches(long orderId) {
    db.update(ORDER_LINE)
        .set(
            ORDER_LINE.ITEM_ID,
            field(
                select(LISTING.ITEM_ID).from(LISTING).where(LISTING.ID.eq(ORDER_LINE.LISTING_ID))))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .and(ORDER_LINE.ITEM_ID.isNull())
        .execute();
  }

  Set<String> tags(long orderId) {
    return db.select(ORDER_TAG.TAG)
        .from(ORDER_TAG)
        .where(ORDER_TAG.ORDER_ID.eq(orderId))
        .fetchSet(ORDER_TAG.TAG);
  }

  void setTags(long orderId, Collection<String> tags) {
    db.deleteFrom(ORDER_TAG)
        .where(ORDER_TAG.ORDER_ID.eq(orderId))
        .and(ORDER_TAG.TAG.notIn(tags))
        .execute();
    tags.forEach(tag ->
        db.insertInto(ORDER_TAG, ORDER_TAG.ORDER_ID, ORDER_TAG.TAG)
            .values(orderId, tag)
            .onDuplicateKeyIgnore()
            .execute());
  }

  Set<String> excludedNodes(long orderId) {
    return db.select(ORDER_EXCLUDED_NODE.NODE)
        .from(ORDER_EXCLUDED_NODE)
        .where(ORDER_EXCLUDED_NODE.ORDER_ID.eq(orderId))
        .fetchSet(ORDER_EXCLUDED_NODE.NODE);
  }

  void exclude(long orderId, Collection<String> nodes) {
    nodes.forEach(node ->
        db.insertInto(ORDER_EXCLUDED_NODE, ORDER_EXCLUDED_NODE.ORDER_ID, ORDER_EXCLUDED_NODE.NODE)
            .values(orderId, node)
            .onDuplicateKeyIgnore()
            .execute());
  }

  void addHold(long orderId, String reason, String actor) {
    db.insertInto(ORDER_HOLD)
        .set(ORDER_HOLD.ORDER_ID, orderId)
        .set(ORDER_HOLD.REASON, reason)
        .set(ORDER_HOLD.PLACED_BY, actor)
        .set(ORDER_HOLD.PLACED_AT, clock.instant())
        .execute();
  }

  int endHolds(long orderId, String actor) {
    return db.update(ORDER_HOLD)
        .set(ORDER_HOLD.RELEASED_BY, actor)
        .set(ORDER_HOLD.RELEASED_AT, clock.instant())
        .where(ORDER_HOLD.ORDER_ID.eq(orderId))
        .and(ORDER_HOLD.RELEASED_AT.isNull())
        .execute();
  }

  /** Brings the marks of orders in line with their holds and snags. */
  void refreshMarks(Collection<Long> orderIds) {
    if (orderIds.isEmpty()) {
      return;
    }
    db.update(SALES_ORDER)
        .set(
            SALES_ORDER.HELD,
            field(
                exists(
                    selectOne()
                        .from(ORDER_HOLD)
                        .where(ORDER_HOLD.ORDER_ID.eq(SALES_ORDER.ID))
                        .and(ORDER_HOLD.RELEASED_AT.isNull()))))
        .set(
            SALES_ORDER.SNAGGED,
            field(
                exists(
                    selectOne()
                        .from(SNAG_ORDER)
                        .join(SNAG)
                        .on(SNAG.ID.eq(SNAG_ORDER.SNAG_ID))
                        .where(SNAG_ORDER.ORDER_ID.eq(SALES_ORDER.ID))
                        .and(SNAG.CLOSED_AT.isNull()))))
        .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
        .where(SALES_ORDER.ID.in(orderIds))
        .execute();
  }

  void setNext(long orderId, @Nullable Step step) {
    setNext(orderId, step, step == null ? null : clock.instant());
  }

  void setNext(long orderId, @Nullable Step step, @Nullable Instant at) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.NEXT_STEP, step == null ? null : step.name())
        .set(SALES_ORDER.NEXT_STEP_AT, at)
        .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
  }

  private SelectConditionStep<? extends Record> heads(Condition which) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.CHANNEL_ID,
            CHANNEL.CODE,
            CHANNEL.LISTEN_ONLY,
            SALES_ORDER.EXTERNAL_ID,
            SALES_ORDER.EXTERNAL_REV,
            SALES_ORDER.DIGEST,
            SALES_ORDER.NUMBER,
            SALES_ORDER.STAGE,
            SALES_ORDER.PLACED_AT,
            SALES_ORDER.BUYER_NAME,
            SALES_ORDER.EMAIL,
            SALES_ORDER.SHIP_NAME,
            SALES_ORDER.SHIP_STREET,
            SALES_ORDER.SHIP_POSTCODE,
            SALES_ORDER.SHIP_CITY,
            SALES_ORDER.SHIP_COUNTRY,
            SALES_ORDER.SERVICE_WORDING,
            SALES_ORDER.LEVEL,
            SALES_ORDER.ARRIVE_BY,
            SALES_ORDER.PRIORITY,
            SALES_ORDER.PAYMENT_STATE,
            SALES_ORDER.CURRENCY,
            SALES_ORDER.TOTAL,
            SALES_ORDER.UNITS,
            SALES_ORDER.APPROVED_AT,
            SALES_ORDER.HELD,
            SALES_ORDER.SNAGGED,
            SALES_ORDER.VERSION)
        .from(SALES_ORDER)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .where(which);
  }

  private static OrderHead head(Record r) {
    String level = r.get(SALES_ORDER.LEVEL);
    return new OrderHead(
        r.get(SALES_ORDER.ID),
        r.get(SALES_ORDER.CHANNEL_ID),
        r.get(CHANNEL.CODE),
        r.get(CHANNEL.LISTEN_ONLY),
        r.get(SALES_ORDER.EXTERNAL_ID),
        r.get(SALES_ORDER.EXTERNAL_REV),
        r.get(SALES_ORDER.DIGEST),
        r.get(SALES_ORDER.NUMBER),
        Stage.valueOf(r.get(SALES_ORDER.STAGE)),
        r.get(SALES_ORDER.PLACED_AT),
        r.get(SALES_ORDER.BUYER_NAME),
        r.get(SALES_ORDER.EMAIL),
        new Address(
            r.get(SALES_ORDER.SHIP_NAME),
            r.get(SALES_ORDER.SHIP_STREET),
            r.get(SALES_ORDER.SHIP_POSTCODE),
            r.get(SALES_ORDER.SHIP_CITY),
            r.get(SALES_ORDER.SHIP_COUNTRY)),
        r.get(SALES_ORDER.SERVICE_WORDING),
        level == null ? null : ServiceLevel.valueOf(level),
        r.get(SALES_ORDER.ARRIVE_BY),
        r.get(SALES_ORDER.PRIORITY),
        PaymentState.valueOf(r.get(SALES_ORDER.PAYMENT_STATE)),
        r.get(SALES_ORDER.CURRENCY),
        r.get(SALES_ORDER.TOTAL),
        r.get(SALES_ORDER.UNITS),
        r.get(SALES_ORDER.APPROVED_AT),
        r.get(SALES_ORDER.HELD),
        r.get(SALES_ORDER.SNAGGED),
        r.get(SALES_ORDER.VERSION));
  }
}
