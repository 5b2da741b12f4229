package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.REFUSAL;
import static dev.ordinator.schema.Tables.REFUSAL_LINE;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Consignments.Line;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.StockLedger;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Nodes that can't fill what was released to them. The order is routed again. A node that lacked
 * some items is not asked for these until goods came there; one that had no time that day not on
 * that day; one that had another reason not at all; each of them as soon as a person says so.
 */
@Service
public class Refusals {
  private static final int LONGEST_NOTE = 400;

  /** After these a node may have again what it had not. */
  private static final List<String> GOODS_CAME =
      Stream.of(
              StockLedger.Reason.RECEIPT,
              StockLedger.Reason.TRANSFER_IN,
              StockLedger.Reason.COUNT,
              StockLedger.Reason.ADJUST,
              StockLedger.Reason.RETURN,
              StockLedger.Reason.ASSEMBLE,
              StockLedger.Reason.SUPPLIER_SAID)
          .map(Enum::name)
          .toList();

  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final StockLedger ledger;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Refusals(
      DSLContext db,
      Transactions transactions,
      Consignments consignments,
      Orders orders,
      StockLedger ledger,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.transactions = transactions;
    this.consignments = consignments;
    this.orders = orders;
    this.ledger = ledger;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** A node gave back what it was to send of an order; published in the same transaction. */
  public record Refused(long orderId) {}

  /** Why a node can't fill it. */
  public enum Reason {
    NOT_THERE("not on the shelf"),
    DAMAGED("damaged"),
    NO_TIME("no time today"),
    OTHER("another reason");

    private final String words;

    Reason(String words) {
      this.words = words;
    }
  }

  /**
   * @param missing units of each consignment line that are not there, or are damaged; they leave
   *     the node's stock. Empty for the other reasons
   */
  public record Refusal(Reason reason, Map<Long, Long> missing, String note) {}

  /**
   * @throws Problem if it is not released, or packing has begun, or the refusal is not sound
   */
  public void refuse(long id, Refusal refusal, String actor) {
    transactions.run(() -> {
      orders.lock(consignments.byId(id).orderId());
      Head consignment = consignments.lock(id);
      check(consignment, refusal);
      consignments.takeOff(consignment, ConsignmentState.REFUSED, actor);
      consignments.lines(id).forEach(line -> writeOff(consignment, line, refusal, actor));
      db.insertInto(REFUSAL)
          .set(REFUSAL.CONSIGNMENT_ID, id)
          .set(REFUSAL.REASON, refusal.reason().name())
          .set(REFUSAL.NOTE, refusal.note())
          .set(REFUSAL.ACTOR, actor)
          .set(REFUSAL.AT, clock.instant())
          .execute();
      consignments.lines(id).forEach(line -> note(id, line, refusal));
      events.record(
          EventKind.REFUSED,
          consignment.orderId(),
          id,
          actor,
          "Refused by " + consignment.nodeName() + ": " + refusal.reason().words,
          refusal.note());
      consignments.refresh(consignment.orderId());
      orders.setNext(consignment.orderId(), Step.ROUTE);
      publisher.publishEvent(new Refused(consignment.orderId()));
    });
  }

  private void note(long id, Line line, Refusal refusal) {
    long units = Objects.requireNonNullElse(refusal.missing().get(line.id()), 0L);
    if (units > 0) {
      db.insertInto(REFUSAL_LINE)
          .set(REFUSAL_LINE.CONSIGNMENT_ID, id)
          .set(REFUSAL_LINE.ITEM_ID, line.itemId())
          .set(REFUSAL_LINE.UNITS, units)
          .onDuplicateKeyUpdate()
          .set(REFUSAL_LINE.UNITS, REFUSAL_LINE.UNITS.plus(units))
          .execute();
    }
  }

  /**
   * What nodes are not asked for an order.
   *
   * @param nodes codes of those that are asked for nothing of it
   * @param items by node's code, those that it is not asked for
   */
  public record Barred(Set<String> nodes, Map<String, Set<Long>> items) {
    /** Codes of all nodes that are not asked for all of it. */
    public Set<String> all() {
      Set<String> all = new HashSet<>(nodes);
      all.addAll(items.keySet());
      return all;
    }

    /** Whether a node is asked for an item. */
    public boolean admits(String node, long itemId) {
      return !nodes.contains(node) && !items.getOrDefault(node, Set.of()).contains(itemId);
    }
  }

  /** What nodes are not asked for an order now. */
  public Barred by(long orderId) {
    Set<String> nodes = new HashSet<>();
    Map<String, Set<Long>> items = new HashMap<>();
    Instant now = clock.instant();
    db.select(NODE.CODE, NODE.TIME_ZONE, REFUSAL.REASON, REFUSAL.AT, REFUSAL_LINE.ITEM_ID)
        .from(REFUSAL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(REFUSAL.CONSIGNMENT_ID))
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .leftJoin(REFUSAL_LINE)
        .on(REFUSAL_LINE.CONSIGNMENT_ID.eq(REFUSAL.CONSIGNMENT_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .and(REFUSAL.LIFTED_AT.isNull())
        .andNotExists(
            selectOne()
                .from(STOCK_MOVEMENT)
                .where(STOCK_MOVEMENT.ITEM_ID.eq(REFUSAL_LINE.ITEM_ID))
                .and(STOCK_MOVEMENT.NODE_ID.eq(CONSIGNMENT.NODE_ID))
                .and(STOCK_MOVEMENT.AT.gt(REFUSAL.AT))
                .and(STOCK_MOVEMENT.QUANTITY.gt(0L))
                .and(STOCK_MOVEMENT.REASON.in(GOODS_CAME)))
        .forEach(r -> {
          ZoneId zone = ZoneId.of(r.value2());
          boolean isPast =
              Reason.valueOf(r.value3()) == Reason.NO_TIME
                  && LocalDate.ofInstant(r.value4(), zone).isBefore(LocalDate.ofInstant(now, zone));
          if (r.value5() != null) {
            items.computeIfAbsent(r.value1(), n -> new HashSet<>()).add(r.value5());
          } else if (!isPast) {
            nodes.add(r.value1());
          }
        });
    return new Barred(nodes, items);
  }

  /**
   * A refusal as people see it.
   *
   * @param what the items that were not there, or damaged; empty: it was about the whole of it
   * @param stands whether some of the order is still to be routed, and the node is not asked for it
   * @param lifted whether a person said that the node may be asked again
   */
  public record Card(
      long consignmentId,
      String consignment,
      String node,
      Reason reason,
      String note,
      String actor,
      Instant at,
      List<String> what,
      boolean stands,
      boolean lifted) {

    /** In a few words: who refused, and why. */
    public String words() {
      return node
          + " ("
          + reason.words
          + (what.isEmpty() ? ")" : ": " + String.join(", ", what) + ")");
    }
  }

  /** What nodes refused of an order, the latest first. */
  public List<Card> of(long orderId) {
    Barred barred = by(orderId);
    boolean isToRoute = orders.head(orderId).stage().compareTo(Stage.ROUTED) < 0;
    return db.select(
            CONSIGNMENT.ID,
            CONSIGNMENT.NUMBER,
            NODE.CODE,
            NODE.NAME,
            REFUSAL.REASON,
            REFUSAL.NOTE,
            REFUSAL.ACTOR,
            REFUSAL.AT,
            REFUSAL.LIFTED_AT)
        .from(REFUSAL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(REFUSAL.CONSIGNMENT_ID))
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .orderBy(REFUSAL.AT.desc(), CONSIGNMENT.ID.desc())
        .fetch(r ->
            new Card(
                r.value1(),
                r.value2(),
                r.value4(),
                Reason.valueOf(r.value5()),
                r.value6(),
                r.value7(),
                r.value8(),
                what(r.value1()),
                isToRoute && r.value9() == null && barred.all().contains(r.value3()),
                r.value9() != null));
  }

  private List<String> what(long consignmentId) {
    return db.select(REFUSAL_LINE.UNITS, ITEM.SKU)
        .from(REFUSAL_LINE)
        .join(ITEM)
        .on(ITEM.ID.eq(REFUSAL_LINE.ITEM_ID))
        .where(REFUSAL_LINE.CONSIGNMENT_ID.eq(consignmentId))
        .orderBy(ITEM.SKU)
        .fetch(r -> r.value1() + " × " + r.value2());
  }

  /** A person says that a node may be asked again; the order is looked at anew. */
  @Transactional
  public void lift(long orderId, long consignmentId, String actor) {
    orders.lock(orderId);
    Head consignment = consignments.byId(consignmentId);
    int lifted =
        consignment.orderId() != orderId
            ? 0
            : db.update(REFUSAL)
                .set(REFUSAL.LIFTED_AT, clock.instant())
                .set(REFUSAL.LIFTED_BY, actor)
                .where(REFUSAL.CONSIGNMENT_ID.eq(consignmentId))
                .and(REFUSAL.LIFTED_AT.isNull())
                .execute();
    if (lifted == 0) {
      throw Problem.conflict("it may be asked already");
    }
    events.record(EventKind.NOTE, orderId, actor, consignment.nodeName() + " may be asked again");
    orders.wake(List.of(orderId));
  }

  private void check(Head consignment, Refusal refusal) {
    if (consignment.state() != ConsignmentState.RELEASED) {
      throw Problem.conflict(
          "%s is %s: only what is released can be refused"
              .formatted(consignment.number(), Consignments.words(consignment.state())));
    }
    if (refusal.note().length() > LONGEST_NOTE) {
      throw Problem.invalid("note", "a note has at most " + LONGEST_NOTE + " characters");
    }
    boolean names = refusal.reason() == Reason.NOT_THERE || refusal.reason() == Reason.DAMAGED;
    if (names == refusal.missing().isEmpty()) {
      throw Problem.invalid("missing", names ? "say what of it" : "only for what is not there");
    }
    Map<Long, Long> asked =
        consignments.lines(consignment.id()).stream()
            .collect(Collectors.toMap(Line::id, Line::quantity));
    refusal
        .missing()
        .forEach((line, units) -> {
          Long most = asked.get(line);
          if (most == null || units < 1 || units > most) {
            throw Problem.invalid(
                "missing." + line,
                most == null ? "it has no such line" : "1 to %d units".formatted(most));
          }
        });
  }

  private void writeOff(Head consignment, Line line, Refusal refusal, String actor) {
    long units = Objects.requireNonNullElse(refusal.missing().get(line.id()), 0L);
    boolean done =
        units == 0
            || ledger.adjust(
                line.itemId(),
                consignment.nodeId(),
                -units,
                refusal.reason() == Reason.DAMAGED
                    ? StockLedger.Reason.SCRAP
                    : StockLedger.Reason.COUNT,
                actor,
                consignment.number() + " was refused");
    if (!done) {
      throw Problem.conflict(line.sku() + " is allocated to other orders; free it first");
    }
  }
}
