package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.access.Person;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.dispatch.PackCheck;
import dev.ordinator.core.dispatch.Sscc;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.StockLedger;
import java.time.Clock;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/** Packing: scan, label, hand over. */
@Service
public class PackingBench {
  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final Nodes nodes;
  private final StockLedger ledger;
  private final Carrier carrier;
  private final OutboxPosts posts;
  private final Outbox outbox;
  private final Events events;
  private final Clock clock;
  private final OrdinatorSettings settings;

  PackingBench(
      DSLContext db,
      Transactions transactions,
      Consignments consignments,
      Orders orders,
      Nodes nodes,
      StockLedger ledger,
      Carrier carrier,
      OutboxPosts posts,
      Outbox outbox,
      Events events,
      Clock clock,
      OrdinatorSettings settings) {
    this.db = db;
    this.transactions = transactions;
    this.consignments = consignments;
    this.orders = orders;
    this.nodes = nodes;
    this.ledger = ledger;
    this.carrier = carrier;
    this.posts = posts;
    this.outbox = outbox;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
  }

  /** Looks at one scanned unit, and counts it if it belongs there. */
  public PackCheck.Scan scan(long id, String code, Person person) {
    return transactions.get(() -> {
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.RELEASED, "is not being packed");
      PackCheck.Scan scan = check(id).scan(code);
      if (scan instanceof PackCheck.Scan.Counted(long line, PackCheck after)) {
        db.update(CONSIGNMENT_LINE)
            .set(CONSIGNMENT_LINE.PACKED, CONSIGNMENT_LINE.PACKED.plus(1))
            .where(CONSIGNMENT_LINE.ID.eq(line))
            .execute();
      }
      return scan;
    });
  }

  /** Takes everything out again. */
  void startOver(long id, Person person) {
    transactions.run(() -> {
      require(lockFor(id, person), ConsignmentState.RELEASED, "is not being packed");
      db.update(CONSIGNMENT_LINE)
          .set(CONSIGNMENT_LINE.PACKED, 0L)
          .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(id))
          .execute();
    });
  }

  /**
   * Closes the parcel: asks the carrier for its label. Asking is outside of the transaction and
   * carries the consignment's number, so that a repeat, even after a crash, gets the same label.
   */
  public void close(long id, Person person) {
    Head consignment = consignments.byId(id);
    requireNode(consignment, person);
    if (consignment.state() == ConsignmentState.PACKED) {
      return;
    }
    require(consignment, ConsignmentState.RELEASED, "is not being packed");
    if (!check(id).complete()) {
      throw Problem.conflict("not everything is in the parcel yet");
    }
    OrderHead order = orders.head(consignment.orderId());
    Nodes.NodeCard node = nodes.byId(consignment.nodeId());
    String sscc = Sscc.of(settings.companyPrefix(), id).digits();
    Carrier.Label label;
    try {
      label =
          carrier.label(
              new Carrier.Shipment(
                  consignment.number(),
                  consignment.carrierCode(),
                  consignment.service(),
                  consignment.number(),
                  sscc,
                  new Carrier.Party(
                      node.name(), node.street(), node.postcode(), node.city(), node.country()),
                  new Carrier.Party(
                      order.shipTo().name(),
                      order.shipTo().street(),
                      order.shipTo().postcode(),
                      order.shipTo().city(),
                      order.shipTo().country()),
                  consignment.billable()));
    } catch (Carrier.Unavailable e) {
      throw Problem.elsewhere(Texts.of(e) + ". What you scanned is kept; try again");
    }
    transactions.run(() -> keepLabel(id, sscc, label, person));
  }

  private void keepLabel(long id, String sscc, Carrier.Label label, Person person) {
    lockOrderOf(id);
    Head consignment = lockFor(id, person);
    if (consignment.state() == ConsignmentState.PACKED) {
      return; // somebody pressed twice: it is the same label
    }
    consignments.advance(consignment, ConsignmentState.PACKED);
    db.insertInto(PARCEL)
        .set(PARCEL.CONSIGNMENT_ID, id)
        .set(PARCEL.SSCC, sscc)
        .set(PARCEL.TRACKING, label.tracking())
        .set(PARCEL.LABEL, label.pdf())
        .execute();
    events.record(
        EventKind.PACKED,
        consignment.orderId(),
        id,
        person.displayName(),
        "Packed at " + consignment.nodeName(),
        consignment.carrierName() + " label " + label.tracking());
    consignments.refresh(consignment.orderId());
  }

  /** The carrier has the parcel: stock leaves, channel and buyer are told, tracking begins. */
  public void handOver(long id, Person person) {
    transactions.run(() -> {
      lockOrderOf(id);
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.PACKED, "has no label yet");
      consignments.advance(consignment, ConsignmentState.HANDED_OVER);
      ledger.handOver(
          consignment.nodeId(),
          id,
          consignments.lines(id).stream()
              .map(l -> new StockLedger.Want(l.id(), l.itemId(), l.quantity()))
              .toList(),
          person.displayName());
      db.update(PARCEL)
          .set(PARCEL.NEXT_TRACK_AT, clock.instant())
          .where(PARCEL.CONSIGNMENT_ID.eq(id))
          .execute();
      events.record(
          EventKind.HANDED_OVER,
          consignment.orderId(),
          id,
          person.displayName(),
          "Handed over to " + consignment.carrierName(),
          "");
      consignments.refresh(consignment.orderId());
      posts.postShipped(orders.head(consignment.orderId()), consignment);
    });
    outbox.nudge();
  }

  private PackCheck check(long id) {
    return new PackCheck(
        consignments.lines(id).stream()
            .map(l -> new PackCheck.Line(l.id(), l.sku(), l.gtin(), l.quantity(), l.packed()))
            .toList());
  }

  /** Orders are locked before their consignments, as everywhere: no deadlocks with the desk. */
  private void lockOrderOf(long id) {
    orders.lock(consignments.byId(id).orderId());
  }

  private Head lockFor(long id, Person person) {
    Head consignment = consignments.lock(id);
    requireNode(consignment, person);
    return consignment;
  }

  /** A packer sees only the own node's consignments; others are not there. */
  static void requireNode(Head consignment, Person person) {
    person
        .onlyNode()
        .ifPresent(node -> {
          if (node != consignment.nodeId()) {
            throw Problem.notFound("consignment " + consignment.id());
          }
        });
  }

  private static void require(Head consignment, ConsignmentState wanted, String otherwise) {
    if (consignment.state() != wanted) {
      throw Problem.conflict(
          "%s %s: it is %s"
              .formatted(consignment.number(), otherwise, Consignments.words(consignment.state())));
    }
  }
}
