package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.REFUSAL;

import dev.ordinator.core.dispatch.ConsignmentState;
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
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/**
 * Nodes that can't fill what was released to them. The order is routed again, and a node that
 * refused it is out for it.
 */
@Service
public class Refusals {
  private static final int LONGEST_NOTE = 400;

  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final StockLedger ledger;
  private final Events events;
  private final Clock clock;

  Refusals(
      DSLContext db,
      Transactions transactions,
      Consignments consignments,
      Orders orders,
      StockLedger ledger,
      Events events,
      Clock clock) {
    this.db = db;
    this.transactions = transactions;
    this.consignments = consignments;
    this.orders = orders;
    this.ledger = ledger;
    this.events = events;
    this.clock = clock;
  }

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
      events.record(
          EventKind.REFUSED,
          consignment.orderId(),
          id,
          actor,
          "Refused by " + consignment.nodeName() + ": " + refusal.reason().words,
          refusal.note());
      consignments.refresh(consignment.orderId());
      orders.setNext(consignment.orderId(), Step.ROUTE);
    });
  }

  /** Codes of the nodes that refused an order. */
  public Set<String> by(long orderId) {
    return db.select(NODE.CODE)
        .from(REFUSAL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(REFUSAL.CONSIGNMENT_ID))
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .where(CONSIGNMENT.ORDER_ID.eq(orderId))
        .fetchSet(NODE.CODE);
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
