package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.ORDER_EXCLUDED_NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.RULE_TRACE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.ReadyOrder.LineFigures;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.platform.RowBatch;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Writes many orders down at once that were looked at: a few batches, however many there are. */
@Repository
class ReadyOrderStore {
  /** As the database has it for orders of which no rule says otherwise. */
  private static final int PRIORITY = 5;

  private final DSLContext db;
  private final OrderStore store;
  private final OrderLineStore lines;
  private final Events events;
  private final Clock clock;

  ReadyOrderStore(
      DSLContext db, OrderStore store, OrderLineStore lines, Events events, Clock clock) {
    this.db = db;
    this.store = store;
    this.lines = lines;
    this.events = events;
    this.clock = clock;
  }

  /**
   * @return their ids, in the order given
   */
  List<Long> insert(long channelId, List<ReadyOrder> orders) {
    if (orders.isEmpty()) {
      return List.of();
    }
    List<String> numbers = store.nextNumbers(channelId, orders.size());
    RowBatch heads = new RowBatch(db, SALES_ORDER);
    for (int i = 0; i < orders.size(); i++) {
      heads.add(head(channelId, numbers.get(i), orders.get(i)));
    }
    heads.insert();
    Map<String, Long> ids =
        db.select(SALES_ORDER.NUMBER, SALES_ORDER.ID)
            .from(SALES_ORDER)
            .where(SALES_ORDER.NUMBER.in(numbers))
            .fetchMap(SALES_ORDER.NUMBER, SALES_ORDER.ID);
    List<Long> inOrder = numbers.stream().map(ids::get).toList();
    insertParts(inOrder, orders);
    return inOrder;
  }

  private void insertParts(List<Long> ids, List<ReadyOrder> orders) {
    RowBatch all = new RowBatch(db, ORDER_LINE);
    RowBatch tenders = new RowBatch(db, ORDER_PAYMENT);
    RowBatch tags = new RowBatch(db, ORDER_TAG);
    RowBatch excluded = new RowBatch(db, ORDER_EXCLUDED_NODE);
    RowBatch traces = new RowBatch(db, RULE_TRACE);
    Map<Long, List<Fact>> facts = new LinkedHashMap<>();
    for (int i = 0; i < ids.size(); i++) {
      long id = ids.get(i);
      ReadyOrder ready = orders.get(i);
      List<NewOrder.Line> its = ready.order().lines();
      for (int n = 0; n < its.size(); n++) {
        all.add(line(id, n + 1, its.get(n), ready.figures().lines().get(n)));
      }
      ready.order().header().payment().tenders().forEach(t -> tenders.add(tender(id, t)));
      ready.tags().forEach(t -> tags.add(row(ORDER_TAG.ORDER_ID, id, ORDER_TAG.TAG, t)));
      ready
          .excludedNodes()
          .forEach(n ->
              excluded.add(row(ORDER_EXCLUDED_NODE.ORDER_ID, id, ORDER_EXCLUDED_NODE.NODE, n)));
      ready.traces().forEach(t -> traces.add(trace(id, t)));
      facts.put(id, ready.facts());
    }
    List.of(all, tenders, tags, excluded, traces).forEach(RowBatch::insert);
    events.recordAll(facts);
  }

  private Map<Field<?>, @Nullable Object> head(long channelId, String number, ReadyOrder ready) {
    ReadyOrder.Figures figures = ready.figures();
    Map<Field<?>, @Nullable Object> row = store.received(channelId, number, ready.order());
    boolean approved = ready.approved();
    row.put(SALES_ORDER.STAGE, (approved ? Stage.APPROVED : Stage.RECEIVED).name());
    row.put(SALES_ORDER.STAGE_SINCE, clock.instant());
    row.put(SALES_ORDER.NEXT_STEP, approved ? Step.ROUTE.name() : null);
    row.put(SALES_ORDER.NEXT_STEP_AT, approved ? clock.instant() : null);
    row.put(SALES_ORDER.APPROVED_AT, approved ? clock.instant() : null);
    row.put(SALES_ORDER.LEVEL, ready.level().name());
    row.put(SALES_ORDER.PRIORITY, ready.priority().orElse(PRIORITY));
    row.put(SALES_ORDER.TAX, figures.tax());
    row.put(SALES_ORDER.UNITS, figures.units());
    row.put(SALES_ORDER.TOTAL, figures.total());
    row.put(SALES_ORDER.TOLD_OVER, figures.toldOver());
    row.put(SALES_ORDER.RATE, figures.rate().rate());
    row.put(SALES_ORDER.RATE_DAY, figures.rate().day());
    row.put(SALES_ORDER.BASE_TOTAL, figures.baseTotal());
    return row;
  }

  private Map<Field<?>, @Nullable Object> line(
      long orderId, int number, NewOrder.Line line, LineFigures figures) {
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    row.put(ORDER_LINE.ORDER_ID, orderId);
    row.put(ORDER_LINE.LINE_NO, number);
    row.put(ORDER_LINE.EXTERNAL_ID, line.externalId());
    row.put(ORDER_LINE.LISTING_ID, line.listingId());
    row.put(ORDER_LINE.ITEM_ID, figures.itemId());
    row.put(ORDER_LINE.TITLE, line.title());
    row.put(ORDER_LINE.QUANTITY, line.quantity());
    row.put(ORDER_LINE.CANCELLED, line.cancelled());
    row.put(ORDER_LINE.UNITS_EACH, figures.unitsEach());
    row.put(ORDER_LINE.UNIT_PRICE, line.unitPrice().minor());
    row.put(ORDER_LINE.DISCOUNT, line.discount().minor());
    row.put(ORDER_LINE.ORDER_DISCOUNT, figures.orderDiscount());
    row.put(ORDER_LINE.TAX, figures.tax());
    row.put(ORDER_LINE.TAX_RATE, figures.taxRate());
    row.put(ORDER_LINE.PERSONALISATION, lines.wishes(line));
    return row;
  }

  private Map<Field<?>, @Nullable Object> trace(long orderId, ReadyOrder.Trace trace) {
    Map<Field<?>, @Nullable Object> row =
        row(RULE_TRACE.ORDER_ID, orderId, RULE_TRACE.EDITION_ID, trace.editionId());
    row.put(RULE_TRACE.EVENT, trace.event());
    row.put(RULE_TRACE.AT, clock.instant());
    row.put(RULE_TRACE.TRIED, trace.tried());
    return row;
  }

  private static Map<Field<?>, @Nullable Object> tender(long orderId, NewOrder.Tender tender) {
    Map<Field<?>, @Nullable Object> row =
        row(ORDER_PAYMENT.ORDER_ID, orderId, ORDER_PAYMENT.METHOD, tender.method());
    row.put(ORDER_PAYMENT.AMOUNT, tender.amount().minor());
    row.put(ORDER_PAYMENT.REFERENCE, tender.reference());
    return row;
  }

  private static Map<Field<?>, @Nullable Object> row(
      Field<?> one, Object value, Field<?> other, Object otherValue) {
    Map<Field<?>, @Nullable Object> row = new LinkedHashMap<>();
    row.put(one, value);
    row.put(other, otherValue);
    return row;
  }
}
