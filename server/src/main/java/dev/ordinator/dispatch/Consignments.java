package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static java.util.Objects.requireNonNullElse;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.when;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.orders.LineProgress;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.routing.PlannedConsignment;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.stock.Outgoing;
import dev.ordinator.stock.Serials;
import dev.ordinator.stock.StockLedger;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Consignments from plan to hand-over, and what they say of their orders. */
@Service
public class Consignments {
  private final DSLContext db;
  private final Orders orders;
  private final StockLedger ledger;
  private final Outgoing outgoing;
  private final Serials serials;
  private final Nodes nodes;
  private final Events events;
  private final KitsInParts kitsInParts;
  private final OutboxPosts posts;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Consignments(
      DSLContext db,
      Orders orders,
      StockLedger ledger,
      Outgoing outgoing,
      Serials serials,
      Nodes nodes,
      KitsInParts kitsInParts,
      OutboxPosts posts,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.ledger = ledger;
    this.outgoing = outgoing;
    this.serials = serials;
    this.nodes = nodes;
    this.kitsInParts = kitsInParts;
    this.posts = posts;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** More of an order is planned; published in the transaction that plans it. */
  public record Planned(long orderId) {}

  /**
   * What a node takes from its shelves.
   *
   * @param quantity units of the item
   * @param ordered units of the line that go with it, as the channel counts them; of a kit's
   *     components the first bears them, the others none, unless it goes in parts ({@link
   *     KitsInParts})
   */
  public record Pick(long orderLineId, long itemId, long quantity, long ordered) {}

  /**
   * @param quantity units of the item
   * @param orderedUnits units of the line that go with it, as the channel counts them
   * @param kit the kit of which it is a component; null: it was ordered by itself
   * @param instead what was ordered, if this is sent in its place; null: this was
   * @param packed units scanned so far
   * @param bySerial whether each unit has a number of its own
   */
  public record Line(
      long id,
      long orderLineId,
      String orderLineExternalId,
      long itemId,
      String sku,
      @Nullable String gtin,
      String name,
      long quantity,
      long orderedUnits,
      @Nullable String kit,
      @Nullable String instead,
      long packed,
      boolean bySerial) {}

  public record Head(
      long id,
      long orderId,
      long nodeId,
      String nodeName,
      String number,
      ConsignmentState state,
      String carrierCode,
      String carrierName,
      String trackingUrl,
      String service,
      LocalDate handOverOn,
      LocalDate shipBy,
      LocalDate arrivalOn,
      long billable,
      long units,
      int version) {

    /** Whether the buyer collects it at its node: it has no carrier, no label and no tracking. */
    public boolean isCollected() {
      return carrierCode.equals(Lane.NO_CARRIER);
    }
  }

  /**
   * Plans what a node sends, and holds the stock for it.
   *
   * @throws StockLedger.TakenMeanwhile if another took the stock since the plan was made
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void plan(OrderHead order, NodeCard node, PlannedConsignment plan, List<Pick> picks) {
    int earlier = db.fetchCount(CONSIGNMENT, CONSIGNMENT.ORDER_ID.eq(order.id()));
    String number = order.number() + "-" + (earlier + 1);
    long id =
        db.insertInto(CONSIGNMENT)
            .set(CONSIGNMENT.ORDER_ID, order.id())
            .set(CONSIGNMENT.NODE_ID, node.id())
            .set(CONSIGNMENT.NUMBER, number)
            .set(CONSIGNMENT.STATE, ConsignmentState.PLANNED.name())
            .set(
                CONSIGNMENT.CARRIER_ID,
                plan.carrier().equals(Lane.NO_CARRIER) ? null : carrierId(plan.carrier()))
            .set(CONSIGNMENT.SERVICE, plan.service())
            .set(CONSIGNMENT.HAND_OVER_ON, plan.handOver())
            .set(CONSIGNMENT.SHIP_BY, plan.shipBy())
            .set(CONSIGNMENT.ARRIVAL_ON, plan.arrival())
            .set(CONSIGNMENT.BILLABLE, plan.billable())
            .set(CONSIGNMENT.UNITS, picks.stream().mapToLong(Pick::quantity).sum())
            .set(CONSIGNMENT.CARRIAGE, plan.cost().carriage())
            .set(CONSIGNMENT.HANDLING, plan.cost().handling())
            .returningResult(CONSIGNMENT.ID)
            .fetchSingle()
            .value1();
    List<StockLedger.Want> wants = new ArrayList<>();
    for (Pick pick : picks) {
      long lineId =
          db.insertInto(CONSIGNMENT_LINE)
              .set(CONSIGNMENT_LINE.CONSIGNMENT_ID, id)
              .set(CONSIGNMENT_LINE.ORDER_LINE_ID, pick.orderLineId())
              .set(CONSIGNMENT_LINE.ITEM_ID, pick.itemId())
              .set(CONSIGNMENT_LINE.QUANTITY, pick.quantity())
              .set(CONSIGNMENT_LINE.ORDERED, pick.ordered())
              .returningResult(CONSIGNMENT_LINE.ID)
              .fetchSingle()
              .value1();
      wants.add(new StockLedger.Want(lineId, pick.itemId(), pick.quantity()));
    }
    ledger.allocate(order.id(), node.id(), wants, plan.arrival());
    long units = wants.stream().mapToLong(StockLedger.Want::quantity).sum();
    events.record(
        EventKind.ALLOCATED,
        order.id(),
        id,
        "desk",
        units + (units == 1 ? " unit" : " units") + " held at " + node.name(),
        "");
    publisher.publishEvent(new Planned(order.id()));
  }

  /** When the last of an order that is under way arrives; null if nothing is. */
  public @Nullable LocalDate arrival(long orderId) {
    return db.select(max(CONSIGNMENT.ARRIVAL_ON))
        .from(CONSIGNMENT)
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .and(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
        .fetchSingle()
        .value1();
  }

  /** Hands the order's planned consignments to their nodes. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void releasePlanned(long orderId, String actor) {
    for (Head planned : ofOrder(orderId)) {
      if (planned.state() == ConsignmentState.PLANNED) {
        advance(planned, ConsignmentState.RELEASED);
        reached(planned, LeaveMoment.RELEASE, actor);
        events.record(
            EventKind.RELEASED,
            orderId,
            planned.id(),
            actor,
            "Released to " + planned.nodeName(),
            "to leave by " + Texts.day(planned.shipBy()));
      }
    }
    refresh(orderId);
  }

  /**
   * Takes back from their nodes what of an order has not left: the stock is free again, and the
   * places in the nodes' days.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void withdraw(long orderId, String actor, String why) {
    for (Head consignment : ofOrder(orderId)) {
      if (consignment.state().mayBecome(ConsignmentState.RECALLED)) {
        recall(consignment, actor, why);
      }
    }
  }

  /** Takes some consignments back from their nodes. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void withdraw(List<Head> some, String actor, String why) {
    some.forEach(consignment -> recall(consignment, actor, why));
  }

  /** Consignments of an order that could still be taken back. */
  public List<Head> notLeft(long orderId) {
    return ofOrder(orderId).stream()
        .filter(c -> c.state().mayBecome(ConsignmentState.RECALLED))
        .toList();
  }

  /** Nobody goes on with some consignments until it is decided what becomes of them. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void stop(List<Head> some, String why) {
    db.update(CONSIGNMENT)
        .set(CONSIGNMENT.STOPPED, Texts.cut(why, 200))
        .where(CONSIGNMENT.ID.in(some.stream().map(Head::id).toList()))
        .execute();
  }

  /** It is decided: what was stopped of an order goes on. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void letGoOn(long orderId) {
    db.update(CONSIGNMENT)
        .setNull(CONSIGNMENT.STOPPED)
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .and(CONSIGNMENT.STOPPED.isNotNull())
        .execute();
  }

  /** Why nobody may go on with a consignment; empty if nothing is in the way. */
  public Optional<String> stopped(long id) {
    return db.select(CONSIGNMENT.STOPPED)
        .from(CONSIGNMENT)
        .where(CONSIGNMENT.ID.eq(id))
        .fetchOptional(CONSIGNMENT.STOPPED);
  }

  /** Units of each of an order's lines, as items, that are with a carrier, or further. */
  public Map<Long, Long> left(long orderId) {
    Map<Long, Long> units = new LinkedHashMap<>();
    progress(orderId)
        .forEach((line, reached) ->
            units.put(line, reached.getOrDefault(ConsignmentState.HANDED_OVER, 0L)));
    return units;
  }

  /**
   * Takes back from their nodes what of an order nobody has begun to pack.
   *
   * @return what was taken back
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Head> withdrawUnpacked(long orderId, String actor, String why) {
    List<Head> unpacked =
        ofOrder(orderId).stream()
            .filter(c ->
                c.state() == ConsignmentState.PLANNED || c.state() == ConsignmentState.RELEASED)
            .filter(c -> lines(c.id()).stream().allMatch(l -> l.packed() == 0))
            .toList();
    unpacked.forEach(c -> recall(c, actor, why));
    return unpacked;
  }

  private void recall(Head consignment, String actor, String why) {
    boolean begun = lines(consignment.id()).stream().anyMatch(l -> l.packed() > 0);
    takeOff(consignment, ConsignmentState.RECALLED, actor);
    posts.postVoid(consignment);
    db.update(CONSIGNMENT)
        .set(CONSIGNMENT.TO_UNPACK, begun)
        .where(CONSIGNMENT.ID.eq(consignment.id()))
        .execute();
    events.record(
        EventKind.RECALLED,
        consignment.orderId(),
        consignment.id(),
        actor,
        "Taken back from " + consignment.nodeName(),
        why);
  }

  /** A consignment will not be sent: its stock is free again, and its place in the node's day. */
  @Transactional(propagation = Propagation.MANDATORY)
  void takeOff(Head consignment, ConsignmentState end, String actor) {
    advance(consignment, end);
    outgoing.free(consignment.nodeId(), consignment.id(), wants(consignment.id()), actor);
    nodes.givePlaceBack(consignment.nodeId(), consignment.handOverOn());
    orders.setWaiting(consignment.orderId(), false);
    // nobody works on it any more
    db.update(CONSIGNMENT)
        .setNull(CONSIGNMENT.STOPPED)
        .where(CONSIGNMENT.ID.eq(consignment.id()))
        .execute();
  }

  /** A consignment got so far: its goods leave their node's stock if the node has it so. */
  @Transactional(propagation = Propagation.MANDATORY)
  void reached(Head consignment, LeaveMoment moment, String actor) {
    if (nodes.byId(consignment.nodeId()).leaves().hasComeAt(moment)) {
      outgoing.leave(
          consignment.nodeId(),
          consignment.id(),
          wants(consignment.id()),
          moment == LeaveMoment.HAND_OVER ? StockLedger.Reason.HAND_OVER : StockLedger.Reason.PICK,
          actor);
    }
  }

  /** Somebody has taken out again what was in the parcel of something that was taken back. */
  @Transactional(propagation = Propagation.MANDATORY)
  void unpacked(Head consignment, String actor) {
    int done =
        db.update(CONSIGNMENT)
            .set(CONSIGNMENT.TO_UNPACK, false)
            .where(CONSIGNMENT.ID.eq(consignment.id()))
            .and(CONSIGNMENT.TO_UNPACK)
            .execute();
    if (done == 0) {
      throw Problem.conflict(consignment.number() + " need not be unpacked");
    }
    events.record(
        EventKind.NOTE,
        consignment.orderId(),
        consignment.id(),
        actor,
        consignment.number() + " is unpacked",
        "");
  }

  /** What was put into its parcel is taken out again, and lies where it lay. */
  @Transactional(propagation = Propagation.MANDATORY)
  void unpack(Head consignment, String actor) {
    boolean leftWhenPacked =
        !nodes.byId(consignment.nodeId()).leaves().hasComeAt(LeaveMoment.RELEASE);
    if (leftWhenPacked) {
      outgoing.bringBack(consignment.nodeId(), consignment.id(), wants(consignment.id()), actor);
    }
    serials.unpack(consignment.id());
    db.update(CONSIGNMENT_LINE)
        .set(CONSIGNMENT_LINE.PACKED, 0L)
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignment.id()))
        .execute();
  }

  private List<StockLedger.Want> wants(long consignmentId) {
    return lines(consignmentId).stream()
        .map(l -> new StockLedger.Want(l.id(), l.itemId(), l.quantity()))
        .toList();
  }

  /** Units of each of an order's lines, as items, that are planned, with a node, or sent. */
  public Map<Long, Long> underWay(long orderId) {
    Map<Long, Long> units = new LinkedHashMap<>();
    progress(orderId)
        .forEach(
            (line, reached) -> units.put(line, reached.getOrDefault(ConsignmentState.PLANNED, 0L)));
    return units;
  }

  /** Whether any of an order is with a carrier, or further. */
  public boolean hasLeft(long orderId) {
    return ofOrder(orderId).stream().anyMatch(c -> c.state().reached(ConsignmentState.HANDED_OVER));
  }

  /** Whether anybody has begun to put any of an order into a parcel. */
  public boolean packingHasBegun(long orderId) {
    return ofOrder(orderId).stream()
        .filter(c -> !c.state().isOff())
        .anyMatch(c -> lines(c.id()).stream().anyMatch(l -> l.packed() > 0));
  }

  public List<Head> ofOrder(long orderId) {
    return heads(CONSIGNMENT.ORDER_ID.eq(orderId)).fetch(Consignments::head);
  }

  public Head byId(long id) {
    return heads(CONSIGNMENT.ID.eq(id))
        .fetchOptional(Consignments::head)
        .orElseThrow(() -> Problem.notFound("consignment " + id));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public Head lock(long id) {
    // in two steps: a locking join would lock the node's row as well
    db.select(CONSIGNMENT.ID).from(CONSIGNMENT).where(CONSIGNMENT.ID.eq(id)).forUpdate().fetch();
    return byId(id);
  }

  public List<Line> lines(long consignmentId) {
    var ordered = ITEM.as("ordered_item");
    var first = ITEM.as("first_item");
    return db.select(
            CONSIGNMENT_LINE.ID,
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            ORDER_LINE.EXTERNAL_ID,
            CONSIGNMENT_LINE.ITEM_ID,
            ITEM.SKU,
            ITEM.GTIN,
            ITEM.NAME,
            CONSIGNMENT_LINE.QUANTITY,
            CONSIGNMENT_LINE.ORDERED,
            when(ORDER_LINE.ITEM_ID.ne(CONSIGNMENT_LINE.ITEM_ID), ordered.NAME),
            first.NAME,
            CONSIGNMENT_LINE.PACKED,
            ITEM.TRACKED.eq("SERIAL"))
        .from(CONSIGNMENT_LINE)
        .join(ITEM)
        .on(ITEM.ID.eq(CONSIGNMENT_LINE.ITEM_ID))
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .leftJoin(ordered)
        .on(ordered.ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(first)
        .on(first.ID.eq(ORDER_LINE.ORDERED_ITEM_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .orderBy(CONSIGNMENT_LINE.ID)
        .fetch(r ->
            new Line(
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
                r.value12(),
                r.value13()));
  }

  /**
   * Takes a consignment to its next state.
   *
   * @throws Problem if it may not become that
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void advance(Head consignment, ConsignmentState next) {
    if (!consignment.state().mayBecome(next)) {
      throw Problem.conflict(
          "%s is %s and can’t become %s"
              .formatted(consignment.number(), words(consignment.state()), words(next)));
    }
    var update =
        db.update(CONSIGNMENT)
            .set(CONSIGNMENT.STATE, next.name())
            .set(CONSIGNMENT.VERSION, CONSIGNMENT.VERSION.plus(1));
    (switch (next) {
          case RELEASED -> update.set(CONSIGNMENT.RELEASED_AT, clock.instant());
          case PACKED -> update.set(CONSIGNMENT.PACKED_AT, clock.instant());
          case HANDED_OVER -> update.set(CONSIGNMENT.HANDED_OVER_AT, clock.instant());
          case DELIVERED -> update.set(CONSIGNMENT.DELIVERED_AT, clock.instant());
          case PLANNED, IN_TRANSIT, RECALLED, REFUSED -> update;
        })
        .where(CONSIGNMENT.ID.eq(consignment.id()))
        .execute();
  }

  /** Derives an order's stage from its lines and consignments, and keeps it with the order. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void refresh(long orderId) {
    OrderHead order = orders.lock(orderId);
    kitsInParts.settle(orderId);
    Map<Long, Map<ConsignmentState, Long>> reached = progress(orderId);
    List<LineProgress> lines =
        orders.lines(orderId).stream()
            .map(line -> {
              var units = reached.getOrDefault(line.id(), Map.of());
              return new LineProgress(
                  line.quantity(),
                  units.getOrDefault(ConsignmentState.PLANNED, 0L),
                  units.getOrDefault(ConsignmentState.RELEASED, 0L),
                  units.getOrDefault(ConsignmentState.PACKED, 0L),
                  units.getOrDefault(ConsignmentState.HANDED_OVER, 0L),
                  units.getOrDefault(ConsignmentState.DELIVERED, 0L));
            })
            .toList();
    Stage stage = Stage.of(order.approvedAt() != null, lines);
    boolean someShipped = lines.stream().anyMatch(l -> l.shipped() > 0);
    boolean allShipped = lines.stream().allMatch(l -> l.shipped() == l.open());
    LocalDate shipBy =
        db.select(CONSIGNMENT.SHIP_BY)
            .from(CONSIGNMENT)
            .where(CONSIGNMENT.ORDER_ID.eq(orderId))
            .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED", "PACKED"))
            .orderBy(CONSIGNMENT.SHIP_BY)
            .limit(1)
            .fetchOne(CONSIGNMENT.SHIP_BY);
    orders.setProgress(orderId, new Orders.Progress(stage, someShipped && !allShipped, shipBy));
  }

  /** Units of an order's lines, as items, that got as far as each state or further. */
  private Map<Long, Map<ConsignmentState, Long>> progress(long orderId) {
    Map<Long, Map<ConsignmentState, Long>> reached = new LinkedHashMap<>();
    db.select(
            CONSIGNMENT_LINE.ORDER_LINE_ID,
            CONSIGNMENT_LINE.ORDERED.mul(ORDER_LINE.UNITS_EACH),
            CONSIGNMENT.STATE)
        .from(CONSIGNMENT_LINE)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .forEach(r -> {
          var units =
              reached.computeIfAbsent(r.value1(), line -> new EnumMap<>(ConsignmentState.class));
          ConsignmentState state = ConsignmentState.valueOf(r.value3());
          for (ConsignmentState s : ConsignmentState.values()) {
            if (state.reached(s)) {
              units.merge(s, r.value2(), Long::sum);
            }
          }
        });
    reached.putAll(kitsInParts.reached(orderId));
    return reached;
  }

  /** A state as a person says it. */
  static String words(ConsignmentState state) {
    return state.name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  private long carrierId(String code) {
    return db.select(CARRIER.ID).from(CARRIER).where(CARRIER.CODE.eq(code)).fetchSingle().value1();
  }

  private SelectConditionStep<? extends Record> heads(Condition which) {
    return db.select(
            CONSIGNMENT.ID,
            CONSIGNMENT.ORDER_ID,
            CONSIGNMENT.NODE_ID,
            NODE.NAME,
            CONSIGNMENT.NUMBER,
            CONSIGNMENT.STATE,
            CARRIER.CODE,
            CARRIER.NAME,
            CARRIER.TRACKING_URL,
            CONSIGNMENT.SERVICE,
            CONSIGNMENT.HAND_OVER_ON,
            CONSIGNMENT.SHIP_BY,
            CONSIGNMENT.ARRIVAL_ON,
            CONSIGNMENT.BILLABLE,
            CONSIGNMENT.UNITS,
            CONSIGNMENT.VERSION)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .leftJoin(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID))
        .where(which);
  }

  private static Head head(Record r) {
    return new Head(
        r.get(CONSIGNMENT.ID),
        r.get(CONSIGNMENT.ORDER_ID),
        r.get(CONSIGNMENT.NODE_ID),
        r.get(NODE.NAME),
        r.get(CONSIGNMENT.NUMBER),
        ConsignmentState.valueOf(r.get(CONSIGNMENT.STATE)),
        requireNonNullElse(r.get(CARRIER.CODE), Lane.NO_CARRIER),
        requireNonNullElse(r.get(CARRIER.NAME), ""),
        requireNonNullElse(r.get(CARRIER.TRACKING_URL), ""),
        r.get(CONSIGNMENT.SERVICE),
        r.get(CONSIGNMENT.HAND_OVER_ON),
        r.get(CONSIGNMENT.SHIP_BY),
        r.get(CONSIGNMENT.ARRIVAL_ON),
        r.get(CONSIGNMENT.BILLABLE),
        r.get(CONSIGNMENT.UNITS),
        r.get(CONSIGNMENT.VERSION));
  }
}
