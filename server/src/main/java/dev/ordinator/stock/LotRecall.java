package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.not;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Where a lot went, and taking it off sale. */
@Service
class LotRecall {
  private static final int LONGEST_NOTE = 400;

  /** It has not been handed over, though it may have left the shelves. */
  private static final org.jooq.Condition IS_HERE =
      CONSIGNMENT.STATE.in("PLANNED", "RELEASED", "PACKED");

  private static final List<Field<?>> BUYER =
      List.of(
          SALES_ORDER.ID,
          SALES_ORDER.NUMBER,
          SALES_ORDER.EXTERNAL_ID,
          SALES_ORDER.BUYER_NAME,
          SALES_ORDER.EMAIL,
          SALES_ORDER.PHONE,
          SALES_ORDER.SHIP_COUNTRY);

  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final OrderEarmarks earmarks;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  LotRecall(
      DSLContext db,
      StockLedger ledger,
      StockPlaces places,
      OrderEarmarks earmarks,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.earmarks = earmarks;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * An order that holds some of a lot, or got it.
   *
   * @param units of the item
   * @param sentAt null: it has not left yet
   */
  record Reached(
      long orderId,
      String number,
      String channelNumber,
      String buyer,
      String email,
      String phone,
      String country,
      long units,
      @Nullable Instant sentAt) {}

  /** Units of a lot at a node. */
  record There(String node, Condition state, long units) {}

  /**
   * @param holding orders that have not left: they would be routed again
   * @param sent orders that got it
   */
  record Trace(
      long id,
      long itemId,
      String sku,
      String name,
      String code,
      @Nullable LocalDate expires,
      Instant cameAt,
      @Nullable Instant recalledAt,
      String recallNote,
      List<There> there,
      List<Reached> holding,
      List<Reached> sent) {}

  Trace trace(long lotId) {
    return db.select(
            LOT.ID,
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            LOT.CODE,
            LOT.EXPIRES,
            LOT.CAME_AT,
            LOT.RECALLED_AT,
            LOT.RECALL_NOTE)
        .from(LOT)
        .join(ITEM)
        .on(ITEM.ID.eq(LOT.ITEM_ID))
        .where(LOT.ID.eq(lotId))
        .fetchOptional(r ->
            new Trace(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9(),
                there(lotId),
                holding(lotId),
                sent(lotId)))
        .orElseThrow(() -> Problem.notFound("lot " + lotId));
  }

  /**
   * Takes a lot off sale: what is there goes to quarantine, and orders that hold some of it are
   * taken back from their nodes and routed again.
   */
  @Transactional
  void recall(long lotId, String note, String actor) {
    if (note.isBlank() || note.length() > LONGEST_NOTE) {
      throw Problem.invalid("note", "say in 1 to 400 characters why");
    }
    Trace trace = trace(lotId);
    int marked =
        db.update(LOT)
            .set(LOT.RECALLED_AT, clock.instant())
            .set(LOT.RECALL_NOTE, note.strip())
            .where(LOT.ID.eq(lotId))
            .and(LOT.RECALLED_AT.isNull())
            .execute();
    if (marked == 0) {
      throw Problem.conflict("lot " + trace.code() + " is recalled already");
    }
    publisher.publishEvent(
        new LotRecalled(
            trace.code(), trace.holding().stream().map(Reached::orderId).toList(), actor));
    quarantine(LOT.ID.eq(lotId), actor, note.strip());
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "Lot %s of %s is recalled".formatted(trace.code(), trace.sku()),
        note.strip());
  }

  /**
   * Puts what no consignment holds of some lots into quarantine.
   *
   * @return units
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long quarantine(org.jooq.Condition which, String actor, String note) {
    earmarks.endOfLots(which, actor);
    Because because = Because.of(Reason.QUARANTINE, actor, note);
    long units = 0;
    var free = STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED);
    for (var place :
        db.select(STOCK_PLACE.ID, free)
            .from(STOCK_PLACE)
            .join(LOT)
            .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
            .where(which)
            .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
            .and(free.gt(0L))
            .orderBy(STOCK_PLACE.ITEM_ID, STOCK_PLACE.NODE_ID, STOCK_PLACE.ID)
            .fetch()) {
      Spot there = places.spot(place.value1()).in(Condition.QUARANTINE);
      if (ledger.move(place.value1(), place.value2(), there, because)) {
        units += place.value2();
      }
    }
    return units;
  }

  /** Who got a lot, or would have, with how to reach them. */
  String csv(long lotId) {
    Trace trace = trace(lotId);
    StringWriter text = new StringWriter();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader(
                "order", "channel order", "buyer", "email", "phone", "country", "units", "sent")
            .get();
    try (CSVPrinter csv = new CSVPrinter(text, format)) {
      for (List<Reached> some : List.of(trace.sent(), trace.holding())) {
        for (Reached r : some) {
          csv.printRecord(
              r.number(),
              Texts.harmless(r.channelNumber()),
              Texts.harmless(r.buyer()),
              Texts.harmless(r.email()),
              // a number with its country begins with +, and is no formula: a space says so
              r.phone().startsWith("+") ? " " + r.phone() : Texts.harmless(r.phone()),
              r.country(),
              r.units(),
              r.sentAt() == null ? "not yet" : r.sentAt());
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return text.toString();
  }

  private List<There> there(long lotId) {
    return db.select(NODE.NAME, STOCK_PLACE.STATE, sum(STOCK_PLACE.ON_HAND))
        .from(STOCK_PLACE)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
        .where(STOCK_PLACE.LOT_ID.eq(lotId))
        .and(STOCK_PLACE.ON_HAND.gt(0L))
        .groupBy(NODE.POSITION, NODE.NAME, STOCK_PLACE.STATE)
        .orderBy(NODE.POSITION, STOCK_PLACE.STATE)
        .fetch(
            r -> new There(r.value1(), Condition.valueOf(r.value2()), r.value3().longValueExact()));
  }

  private List<Reached> holding(long lotId) {
    var units = sum(ALLOCATION.QUANTITY);
    return db.select(BUYER)
        .select(units)
        .from(ALLOCATION)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(ALLOCATION.PLACE_ID))
        .join(CONSIGNMENT_LINE)
        .on(CONSIGNMENT_LINE.ID.eq(ALLOCATION.CONSIGNMENT_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(STOCK_PLACE.LOT_ID.eq(lotId))
        .and(IS_HERE)
        .groupBy(SALES_ORDER.ID)
        .orderBy(SALES_ORDER.ID)
        .fetch(r -> reached(r, r.get(units), null));
  }

  private List<Reached> sent(long lotId) {
    var units = sum(STOCK_MOVEMENT.QUANTITY.neg());
    var at = max(STOCK_MOVEMENT.AT);
    return db.select(BUYER)
        .select(units, at)
        .from(STOCK_MOVEMENT)
        .join(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(STOCK_MOVEMENT.CONSIGNMENT_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(STOCK_PLACE.LOT_ID.eq(lotId))
        .and(not(IS_HERE))
        .groupBy(SALES_ORDER.ID)
        .having(units.gt(BigDecimal.ZERO))
        .orderBy(at.desc(), SALES_ORDER.ID)
        .fetch(r -> reached(r, r.get(units), r.get(at)));
  }

  private static Reached reached(Record r, BigDecimal units, @Nullable Instant sentAt) {
    return new Reached(
        r.get(SALES_ORDER.ID),
        r.get(SALES_ORDER.NUMBER),
        r.get(SALES_ORDER.EXTERNAL_ID),
        r.get(SALES_ORDER.BUYER_NAME),
        r.get(SALES_ORDER.EMAIL),
        r.get(SALES_ORDER.PHONE),
        r.get(SALES_ORDER.SHIP_COUNTRY),
        units.longValueExact(),
        sentAt);
  }
}
