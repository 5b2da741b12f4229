package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ORDER_EXCLUDED_NODE;
import static dev.ordinator.schema.Tables.ORDER_HOLD;
import static dev.ordinator.schema.Tables.ORDER_NUMBER;
import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static dev.ordinator.schema.Tables.ORDER_PREFERRED_NODE;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.OrderContent.Part;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.rules.Action.SetPriority;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

@Repository
class OrderStore {
  private static final long FIRST_NUMBER = 10_001;
  private static final List<Integer> CLASSES =
      IntStream.rangeClosed(SetPriority.FIRST, SetPriority.LAST).boxed().toList();

  /** The columns that hold a part, for those that are held as the channel says them. */
  private static final Map<Part, List<Field<?>>> DETAILS =
      Map.of(
          Part.RECEIVER, List.of(SALES_ORDER.SHIP_NAME),
          Part.ADDRESS,
              List.of(
                  SALES_ORDER.SHIP_STREET,
                  SALES_ORDER.SHIP_POSTCODE,
                  SALES_ORDER.SHIP_CITY,
                  SALES_ORDER.SHIP_COUNTRY),
          Part.BILLING_ADDRESS, List.of(SALES_ORDER.BILL_TO),
          Part.SERVICE, List.of(SALES_ORDER.SERVICE_WORDING),
          Part.ARRIVE_BY, List.of(SALES_ORDER.ARRIVE_BY),
          Part.PICK_UP, List.of(SALES_ORDER.PICK_UP_NODE),
          Part.SHIPPING_CHARGE, List.of(SALES_ORDER.SHIPPING_CHARGE),
          Part.DISCOUNT, List.of(SALES_ORDER.DISCOUNT),
          Part.INSTRUCTIONS, List.of(SALES_ORDER.INSTRUCTIONS),
          Part.GIFT_MESSAGE, List.of(SALES_ORDER.GIFT_MESSAGE));

  /** What the rules say of an order, before they have looked at it. */
  private static final Map<Field<?>, @Nullable Object> UNRULED = unruled();

  private final DSLContext db;
  private final JsonMapper json;
  private final Clock clock;

  OrderStore(DSLContext db, JsonMapper json, Clock clock) {
    this.db = db;
    this.json = json;
    this.clock = clock;
  }

  /** Gives the next order number of a channel; others wait for the commit to get theirs. */
  String nextNumber(long channelId) {
    return nextNumbers(channelId, 1).getFirst();
  }

  /** Gives the next so many order numbers, in their order. */
  List<String> nextNumbers(long channelId, int howMany) {
    db.insertInto(ORDER_NUMBER)
        .set(ORDER_NUMBER.CHANNEL_ID, channelId)
        .set(ORDER_NUMBER.LAST_GIVEN, FIRST_NUMBER + howMany - 1)
        .onDuplicateKeyUpdate()
        .set(ORDER_NUMBER.LAST_GIVEN, ORDER_NUMBER.LAST_GIVEN.plus(howMany))
        .execute();
    var given =
        db.select(CHANNEL.PREFIX, ORDER_NUMBER.LAST_GIVEN)
            .from(ORDER_NUMBER)
            .join(CHANNEL)
            .on(CHANNEL.ID.eq(ORDER_NUMBER.CHANNEL_ID))
            .where(ORDER_NUMBER.CHANNEL_ID.eq(channelId))
            .fetchSingle();
    return LongStream.rangeClosed(given.value2() - howMany + 1, given.value2())
        .mapToObj(n -> given.value1() + n)
        .toList();
  }

  long insert(long channelId, String number, NewOrder order) {
    return db.insertInto(SALES_ORDER)
        .set(received(channelId, number, order))
        .returningResult(SALES_ORDER.ID)
        .fetchSingle()
        .value1();
  }

  /** An order as it is when it has just come in. */
  Map<Field<?>, @Nullable Object> received(long channelId, String number, NewOrder order) {
    NewOrder.Header header = order.header();
    var total = header.total();
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    row.put(SALES_ORDER.CHANNEL_ID, channelId);
    row.put(SALES_ORDER.EXTERNAL_ID, header.externalId());
    row.put(SALES_ORDER.EXTERNAL_REV, header.revision());
    row.put(SALES_ORDER.EXTERNAL_STATE, header.state());
    row.put(SALES_ORDER.CONTENT, json.writeValueAsString(order.content()));
    row.put(SALES_ORDER.NUMBER, number);
    row.put(SALES_ORDER.STAGE, Stage.RECEIVED.name());
    row.put(SALES_ORDER.STAGE_SINCE, clock.instant());
    row.put(SALES_ORDER.NEXT_STEP, Step.CHECK.name());
    row.put(SALES_ORDER.NEXT_STEP_AT, clock.instant());
    row.put(SALES_ORDER.PLACED_AT, header.placedAt());
    row.put(SALES_ORDER.RECEIVED_AT, clock.instant());
    row.put(SALES_ORDER.SITE, header.site());
    row.put(SALES_ORDER.TEAM, order.team());
    row.put(SALES_ORDER.FULFILLED_BY, header.fulfilledByChannel() ? "CHANNEL" : "US");
    row.put(SALES_ORDER.BUYER_NAME, header.buyer().name());
    row.put(SALES_ORDER.EMAIL, header.buyer().email());
    row.put(SALES_ORDER.PHONE, header.buyer().phone());
    row.putAll(details(header));
    row.put(SALES_ORDER.PAYMENT_STATE, header.payment().state().name());
    row.put(SALES_ORDER.PAYMENT_METHOD, header.payment().method());
    row.put(SALES_ORDER.PAY_WITHIN_DAYS, header.payment().withinDays());
    row.put(SALES_ORDER.CURRENCY, header.discount().currency().getCurrencyCode());
    row.put(SALES_ORDER.PRICES_WITH_TAX, header.pricesWithTax());
    row.put(SALES_ORDER.TOTAL, total == null ? 0 : total.minor());
    row.put(SALES_ORDER.TOLD_TOTAL, total == null ? null : total.minor());
    row.put(SALES_ORDER.UNITS, order.lines().stream().mapToLong(NewOrder.Line::quantity).sum());
    return row;
  }

  /** Makes some parts of an order what the channel says now, but for its lines. */
  void amend(long id, NewOrder order, Set<Part> parts) {
    NewOrder.Header header = order.header();
    Map<Field<?>, @Nullable Object> all = details(header);
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    parts.forEach(
        part -> DETAILS.getOrDefault(part, List.of()).forEach(f -> row.put(f, all.get(f))));
    if (parts.contains(Part.BUYER)) {
      row.put(SALES_ORDER.BUYER_NAME, header.buyer().name());
      row.put(SALES_ORDER.EMAIL, header.buyer().email());
      row.put(SALES_ORDER.PHONE, header.buyer().phone());
    }
    if (parts.contains(Part.TOTAL)) {
      Money total = header.total();
      row.put(SALES_ORDER.TOLD_TOTAL, total == null ? null : total.minor());
      row.put(SALES_ORDER.TOTAL_STANDS, false);
    }
    if (parts.stream().anyMatch(p -> p.isOfMoney() || p.isOfGoods())) {
      row.put(SALES_ORDER.TOLD_OVER, null);
      row.put(SALES_ORDER.TAX, null);
    }
    if (parts.stream().anyMatch(p -> p.isOfParcels() || p.isOfGoods())) {
      row.putAll(UNRULED);
      db.deleteFrom(ORDER_EXCLUDED_NODE).where(ORDER_EXCLUDED_NODE.ORDER_ID.eq(id)).execute();
      db.deleteFrom(ORDER_PREFERRED_NODE).where(ORDER_PREFERRED_NODE.ORDER_ID.eq(id)).execute();
    }
    if (!row.isEmpty()) {
      db.update(SALES_ORDER).set(row).where(SALES_ORDER.ID.eq(id)).execute();
    }
  }

  private static Map<Field<?>, @Nullable Object> unruled() {
    Map<Field<?>, @Nullable Object> unruled = new LinkedHashMap<>();
    List.of(
            SALES_ORDER.LEVEL,
            SALES_ORDER.LADDER,
            SALES_ORDER.MAY_SPLIT,
            SALES_ORDER.MAY_WAIT,
            SALES_ORDER.IN_PART,
            SALES_ORDER.MAY_REPLACE)
        .forEach(field -> unruled.put(field, null));
    unruled.put(SALES_ORDER.WAITING, false);
    return unruled;
  }

  /** What a channel may change. */
  private Map<Field<?>, @Nullable Object> details(NewOrder.Header header) {
    Map<Field<?>, @Nullable Object> details = new LinkedHashMap<>();
    details.put(SALES_ORDER.SHIP_NAME, header.shipTo().name());
    details.put(SALES_ORDER.SHIP_STREET, header.shipTo().street());
    details.put(SALES_ORDER.SHIP_POSTCODE, header.shipTo().postcode());
    details.put(SALES_ORDER.SHIP_CITY, header.shipTo().city());
    details.put(SALES_ORDER.SHIP_COUNTRY, header.shipTo().country());
    details.put(
        SALES_ORDER.BILL_TO,
        header.billTo() == null ? null : json.writeValueAsString(header.billTo()));
    details.put(SALES_ORDER.SERVICE_WORDING, header.service());
    details.put(SALES_ORDER.ARRIVE_BY, header.arriveBy());
    details.put(SALES_ORDER.PICK_UP_NODE, header.pickUpNode());
    details.put(SALES_ORDER.SHIPPING_CHARGE, header.shippingCharge().minor());
    details.put(SALES_ORDER.DISCOUNT, header.discount().minor());
    details.put(SALES_ORDER.INSTRUCTIONS, header.instructions());
    details.put(SALES_ORDER.GIFT_MESSAGE, header.giftMessage());
    return details;
  }

  void keepContent(long id, OrderContent content) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.CONTENT, json.writeValueAsString(content))
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /**
   * Keeps what an order was paid with. Known tenders keep their places, by which refunds name them;
   * two of one method and reference are told apart by their order.
   */
  void followTenders(long id, List<NewOrder.Tender> tenders) {
    Map<String, ArrayDeque<Long>> known = new HashMap<>();
    db.select(ORDER_PAYMENT.ID, ORDER_PAYMENT.METHOD, ORDER_PAYMENT.REFERENCE)
        .from(ORDER_PAYMENT)
        .where(ORDER_PAYMENT.ORDER_ID.eq(id))
        .orderBy(ORDER_PAYMENT.ID)
        .forEach(r ->
            known
                .computeIfAbsent(r.value2() + '\n' + r.value3(), k -> new ArrayDeque<>())
                .add(r.value1()));
    for (NewOrder.Tender tender : tenders) {
      ArrayDeque<Long> its = known.get(tender.method() + '\n' + tender.reference());
      if (its == null || its.isEmpty()) {
        db.insertInto(ORDER_PAYMENT)
            .set(ORDER_PAYMENT.ORDER_ID, id)
            .set(ORDER_PAYMENT.METHOD, tender.method())
            .set(ORDER_PAYMENT.AMOUNT, tender.amount().minor())
            .set(ORDER_PAYMENT.REFERENCE, tender.reference())
            .execute();
      } else {
        db.update(ORDER_PAYMENT)
            .set(ORDER_PAYMENT.AMOUNT, tender.amount().minor())
            .where(ORDER_PAYMENT.ID.eq(its.remove()))
            .execute();
      }
    }
  }

  /** What of an order the channel may change, as it last said; null for the oldest orders. */
  @Nullable OrderContent content(long id) {
    String kept =
        db.select(SALES_ORDER.CONTENT)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(id))
            .fetchSingle()
            .value1();
    return kept == null ? null : json.readValue(kept, OrderContent.class);
  }

  Optional<OrderHead> head(long id) {
    return heads(SALES_ORDER.ID.eq(id)).fetchOptional(OrderStore::head);
  }

  /** Orders by their ids. */
  Map<Long, OrderHead> heads(Collection<Long> ids) {
    return heads(SALES_ORDER.ID.in(ids)).fetchMap(SALES_ORDER.ID, OrderStore::head);
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
   * Locks the most urgent order that the desk has something to do for, and that no one else has: of
   * the first class that has one, what was due first. The classes are named, so that the index on
   * them and on the time is read from each one's first order that is due.
   */
  Optional<Orders.Claim> claim() {
    return db.select(SALES_ORDER.ID, SALES_ORDER.NEXT_STEP, SALES_ORDER.STEP_FAILURES)
        .from(SALES_ORDER)
        .where(SALES_ORDER.PRIORITY.in(CLASSES))
        .and(SALES_ORDER.NEXT_STEP_AT.le(clock.instant()))
        .orderBy(SALES_ORDER.PRIORITY, SALES_ORDER.NEXT_STEP_AT, SALES_ORDER.ID)
        .limit(1)
        .forUpdate()
        .skipLocked()
        .fetchOptional(r -> new Orders.Claim(r.value1(), Step.valueOf(r.value2()), r.value3()));
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

  void addHold(long orderId, String reason, String actor, boolean byRule) {
    db.insertInto(ORDER_HOLD)
        .set(ORDER_HOLD.ORDER_ID, orderId)
        .set(ORDER_HOLD.REASON, reason)
        .set(ORDER_HOLD.BY_RULE, byRule)
        .set(ORDER_HOLD.PLACED_BY, actor)
        .set(ORDER_HOLD.PLACED_AT, clock.instant())
        .execute();
  }

  int endHolds(long orderId, String actor) {
    return endHolds(ORDER_HOLD.ORDER_ID.eq(orderId), actor);
  }

  int endHoldsOfRules(long orderId, String actor) {
    return endHolds(ORDER_HOLD.ORDER_ID.eq(orderId).and(ORDER_HOLD.BY_RULE), actor);
  }

  /** Ends the holds with that reason. */
  int endHolds(long orderId, String reason, String actor) {
    return endHolds(ORDER_HOLD.ORDER_ID.eq(orderId).and(ORDER_HOLD.REASON.eq(reason)), actor);
  }

  private int endHolds(Condition which, String actor) {
    return db.update(ORDER_HOLD)
        .set(ORDER_HOLD.RELEASED_BY, actor)
        .set(ORDER_HOLD.RELEASED_AT, clock.instant())
        .where(which)
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
        .set(SALES_ORDER.STEP_FAILURES, 0)
        .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
  }

  /**
   * @param failures of this step in a row
   */
  void setAgain(long orderId, Step step, Instant at, int failures) {
    setNext(orderId, step, at);
    db.update(SALES_ORDER)
        .set(SALES_ORDER.STEP_FAILURES, failures)
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
  }

  /** Since when the step that has waited longest is due; null if none is. */
  @Nullable Instant oldestDue() {
    Instant now = clock.instant();
    return db.select(min(SALES_ORDER.NEXT_STEP_AT))
        .from(SALES_ORDER)
        .where(SALES_ORDER.PRIORITY.in(CLASSES))
        .and(SALES_ORDER.NEXT_STEP_AT.le(now))
        .fetchSingle()
        .value1();
  }

  private SelectConditionStep<? extends Record> heads(Condition which) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.CHANNEL_ID,
            CHANNEL.CODE,
            CHANNEL.WRITES_BACK,
            SALES_ORDER.EXTERNAL_ID,
            SALES_ORDER.EXTERNAL_REV,
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
            SALES_ORDER.BASE_TOTAL,
            SALES_ORDER.FULFILLED_BY,
            SALES_ORDER.PICK_UP_NODE,
            SALES_ORDER.UNITS,
            SALES_ORDER.APPROVED_AT,
            SALES_ORDER.HELD,
            SALES_ORDER.SNAGGED,
            SALES_ORDER.WAITING,
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
        r.get(CHANNEL.WRITES_BACK),
        r.get(SALES_ORDER.EXTERNAL_ID),
        r.get(SALES_ORDER.EXTERNAL_REV),
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
        r.get(SALES_ORDER.BASE_TOTAL),
        r.get(SALES_ORDER.FULFILLED_BY).equals("CHANNEL"),
        r.get(SALES_ORDER.PICK_UP_NODE),
        r.get(SALES_ORDER.UNITS),
        r.get(SALES_ORDER.APPROVED_AT),
        r.get(SALES_ORDER.HELD),
        r.get(SALES_ORDER.SNAGGED),
        r.get(SALES_ORDER.WAITING),
        r.get(SALES_ORDER.VERSION));
  }
}
