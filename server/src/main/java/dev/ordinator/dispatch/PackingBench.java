package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.access.Person;
import dev.ordinator.core.catalog.ElementString;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.dispatch.PackCheck;
import dev.ordinator.core.dispatch.Sscc;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Consignments.Line;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.PickPlaces;
import dev.ordinator.stock.Serials;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Packing: scan, label, hand over. */
@Service
public class PackingBench {
  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final Nodes nodes;
  private final Serials serials;
  private final PickPlaces pickPlaces;
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
      Serials serials,
      PickPlaces pickPlaces,
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
    this.serials = serials;
    this.pickPlaces = pickPlaces;
    this.carrier = carrier;
    this.posts = posts;
    this.outbox = outbox;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
  }

  /**
   * Looks at one scanned unit, and counts it if it belongs there.
   *
   * @param code an SKU, a GTIN, a lot, a serial number or a GS1 element string
   * @param of the SKU of the unit whose serial number the code is; null: the code is none
   */
  public PackCheck.Scan scan(long id, String code, @Nullable String of, Person person) {
    return transactions.get(() -> {
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.RELEASED, "is not being packed");
      requireNothingInTheWay(consignment);
      List<Line> lines = consignments.lines(id);
      PackCheck check = check(id, lines);
      Unit unit = unit(check, lines, code, of);
      PackCheck.Scan scan = check.scan(unit.item(), unit.mark());
      if (scan instanceof PackCheck.Scan.Counted(long line, PackCheck after)) {
        db.update(CONSIGNMENT_LINE)
            .set(CONSIGNMENT_LINE.PACKED, CONSIGNMENT_LINE.PACKED.plus(1))
            .where(CONSIGNMENT_LINE.ID.eq(line))
            .execute();
        lines.stream()
            .filter(l -> l.id() == line && l.bySerial())
            .forEach(l ->
                serials.pack(
                    line,
                    l.itemId(),
                    consignment.nodeId(),
                    Objects.requireNonNull(unit.mark()),
                    person.displayName()));
        if (after.complete()) {
          consignments.reached(consignment, LeaveMoment.PACK, person.displayName());
        }
      }
      return scan;
    });
  }

  /**
   * @param item an SKU or GTIN
   * @param mark lot or serial number; null: not scanned
   */
  private record Unit(String item, @Nullable String mark) {}

  private Unit unit(PackCheck check, List<Line> lines, String code, @Nullable String of) {
    String scanned = code.strip();
    if (of != null) {
      return new Unit(of, scanned);
    }
    Optional<ElementString> printed = ElementString.parse(scanned);
    if (printed.isPresent()) {
      ElementString read = printed.get();
      return new Unit(read.gtin(), read.serial() != null ? read.serial() : read.lot());
    }
    if (check.names(scanned)) {
      return new Unit(scanned, null);
    }
    return serials
        .skuOf(scanned, lines.stream().map(Line::itemId).toList())
        .map(sku -> new Unit(sku, scanned))
        .orElse(new Unit(scanned, null));
  }

  /** Takes everything out again. */
  void startOver(long id, Person person) {
    transactions.run(() -> {
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.RELEASED, "is not being packed");
      consignments.unpack(consignment, person.displayName());
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
    requireNothingInTheWay(consignment);
    if (!check(id, consignments.lines(id)).complete()) {
      throw Problem.conflict("not everything is in the parcel yet");
    }
    if (consignment.isCollected()) {
      transactions.run(() -> keepReady(id, person));
      outbox.nudge();
      return;
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
    try {
      transactions.run(() -> keepLabel(id, sscc, label, person));
    } catch (Problem takenBack) {
      // it was taken back while its carrier was asked: nobody else knows of that label
      transactions.run(() -> posts.postVoid(consignment, label.tracking()));
      throw takenBack;
    }
  }

  private void keepLabel(long id, String sscc, Carrier.Label label, Person person) {
    lockOrderOf(id);
    Head consignment = lockFor(id, person);
    if (consignment.state() == ConsignmentState.PACKED) {
      return; // somebody pressed twice: it is the same label
    }
    consignments.advance(consignment, ConsignmentState.PACKED);
    consignments.reached(consignment, LeaveMoment.LABEL, person.displayName());
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

  /** What the buyer collects waits at the node, and the buyer is told. */
  private void keepReady(long id, Person person) {
    lockOrderOf(id);
    Head consignment = lockFor(id, person);
    if (consignment.state() == ConsignmentState.PACKED) {
      return; // somebody pressed twice
    }
    consignments.advance(consignment, ConsignmentState.PACKED);
    consignments.reached(consignment, LeaveMoment.LABEL, person.displayName());
    events.record(
        EventKind.PACKED,
        consignment.orderId(),
        id,
        person.displayName(),
        "Ready for collection at " + consignment.nodeName(),
        "");
    consignments.refresh(consignment.orderId());
    posts.postReady(orders.head(consignment.orderId()), consignment);
  }

  /** The buyer has come: stock leaves, and the channel is told. */
  private void collected(Head consignment, Person person) {
    consignments.advance(consignment, ConsignmentState.HANDED_OVER);
    consignments.reached(consignment, LeaveMoment.HAND_OVER, person.displayName());
    consignments.advance(consignments.byId(consignment.id()), ConsignmentState.DELIVERED);
    events.record(
        EventKind.HANDED_OVER,
        consignment.orderId(),
        consignment.id(),
        person.displayName(),
        "Collected by the buyer at " + consignment.nodeName(),
        "");
    consignments.refresh(consignment.orderId());
    posts.postCollected(orders.head(consignment.orderId()), consignment);
  }

  /**
   * The buyer did not come: what waited goes back to stock, and its order is held until a person
   * says whether it is sent, collected later or cancelled.
   */
  void putBack(long id, String why, Person person) {
    transactions.run(() -> {
      lockOrderOf(id);
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.PACKED, "does not wait for its buyer");
      if (!consignment.isCollected()) {
        throw Problem.conflict(consignment.number() + " goes by carrier: recall it in its order");
      }
      consignments.withdraw(List.of(consignment), person.displayName(), "not collected");
      consignments.refresh(consignment.orderId());
      orders.hold(
          consignment.orderId(),
          ("Not collected at %s. %s").formatted(consignment.nodeName(), why.strip()).strip(),
          person.displayName());
    });
  }

  /** What was taken back lies where it lay. */
  void unpacked(long id, Person person) {
    transactions.run(() -> {
      lockOrderOf(id);
      consignments.unpacked(lockFor(id, person), person.displayName());
    });
  }

  /** The carrier has the parcel: stock leaves, channel and buyer are told, tracking begins. */
  public void handOver(long id, Person person) {
    transactions.run(() -> {
      lockOrderOf(id);
      Head consignment = lockFor(id, person);
      require(consignment, ConsignmentState.PACKED, "is not packed yet");
      requireNothingInTheWay(consignment);
      if (consignment.isCollected()) {
        collected(consignment, person);
        return;
      }
      consignments.advance(consignment, ConsignmentState.HANDED_OVER);
      consignments.reached(consignment, LeaveMoment.HAND_OVER, person.displayName());
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

  private PackCheck check(long id, List<Line> lines) {
    Map<Long, List<PickPlaces.From>> from = pickPlaces.of(id);
    return new PackCheck(
        lines.stream()
            .map(l ->
                new PackCheck.Line(
                    l.id(),
                    l.sku(),
                    l.gtin(),
                    l.quantity(),
                    l.packed(),
                    l.bySerial(),
                    l.bySerial() ? Set.of() : lots(from.getOrDefault(l.id(), List.of()))))
            .toList());
  }

  private static Set<String> lots(List<PickPlaces.From> from) {
    return from.stream()
        .map(PickPlaces.From::lot)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
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

  /** Something of the order is to be decided first. */
  private void requireNothingInTheWay(Head consignment) {
    consignments
        .stopped(consignment.id())
        .ifPresent(why -> {
          throw Problem.conflict(
              "Stop: %s. Put %s aside until it is decided".formatted(why, consignment.number()));
        });
    if (orders.head(consignment.orderId()).held()) {
      throw Problem.conflict(
          "Stop: the order is held. Put %s aside until it is let go"
              .formatted(consignment.number()));
    }
  }

  private static void require(Head consignment, ConsignmentState wanted, String otherwise) {
    if (consignment.state() != wanted) {
      throw Problem.conflict(
          "%s %s: it is %s"
              .formatted(consignment.number(), otherwise, Consignments.words(consignment.state())));
    }
  }
}
