package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.DEPOT_PARCEL;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.stock.StockLedger;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What a channel's own depot has sent: recorded as handed over, and moved out of the depot. */
@Service
public class DepotConsignments {
  private static final TypeReference<Map<String, Long>> UNITS = new TypeReference<>() {};

  private final DSLContext db;
  private final Orders orders;
  private final Nodes nodes;
  private final Consignments consignments;
  private final StockLedger ledger;
  private final Snags snags;
  private final Events events;
  private final JsonMapper json;
  private final Clock clock;

  DepotConsignments(
      DSLContext db,
      Orders orders,
      Nodes nodes,
      Consignments consignments,
      StockLedger ledger,
      Snags snags,
      Events events,
      JsonMapper json,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.nodes = nodes;
    this.consignments = consignments;
    this.ledger = ledger;
    this.snags = snags;
    this.events = events;
    this.json = json;
    this.clock = clock;
  }

  /** Records the parcels noted for an order whose lines are all matched. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void recordNoted(OrderHead order, String depotCode, String channel) {
    NodeCard depot = nodes.byCode(depotCode);
    Map<String, OrderLine> lines =
        orders.lines(order.id()).stream()
            .collect(Collectors.toMap(OrderLine::externalId, Function.identity(), (a, b) -> a));
    db.select(DEPOT_PARCEL.ID, DEPOT_PARCEL.TRACKING, DEPOT_PARCEL.UNITS)
        .from(DEPOT_PARCEL)
        .where(DEPOT_PARCEL.ORDER_ID.eq(order.id()))
        .and(DEPOT_PARCEL.CONSIGNMENT_ID.isNull())
        .fetch()
        .forEach(p -> {
          long id = record(order, depot, lines, json.readValue(p.value3(), UNITS), channel);
          db.update(DEPOT_PARCEL)
              .set(DEPOT_PARCEL.CONSIGNMENT_ID, id)
              .where(DEPOT_PARCEL.ID.eq(p.value1()))
              .execute();
          events.record(
              EventKind.HANDED_OVER,
              order.id(),
              id,
              channel,
              "Sent from " + depot.name() + " by the channel",
              "parcel " + p.value2());
        });
    consignments.refresh(order.id());
  }

  private long record(
      OrderHead order,
      NodeCard depot,
      Map<String, OrderLine> lines,
      Map<String, Long> units,
      String channel) {
    Instant now = clock.instant();
    LocalDate today = LocalDate.ofInstant(now, depot.timeZone());
    int earlier = db.fetchCount(CONSIGNMENT, CONSIGNMENT.ORDER_ID.eq(order.id()));
    long carrier =
        db.select(CARRIER.ID)
            .from(CARRIER)
            .where(CARRIER.CODE.eq("CHANNEL"))
            .fetchSingle()
            .value1();
    long id =
        db.insertInto(CONSIGNMENT)
            .set(CONSIGNMENT.ORDER_ID, order.id())
            .set(CONSIGNMENT.NODE_ID, depot.id())
            .set(CONSIGNMENT.NUMBER, order.number() + "-" + (earlier + 1))
            .set(CONSIGNMENT.STATE, ConsignmentState.HANDED_OVER.name())
            .set(CONSIGNMENT.CARRIER_ID, carrier)
            .set(CONSIGNMENT.SERVICE, "DEPOT")
            .set(CONSIGNMENT.HAND_OVER_ON, today)
            .set(CONSIGNMENT.SHIP_BY, today)
            .set(CONSIGNMENT.ARRIVAL_ON, today)
            .set(CONSIGNMENT.BILLABLE, 0L)
            .set(CONSIGNMENT.UNITS, units.values().stream().mapToLong(Long::longValue).sum())
            .set(CONSIGNMENT.CARRIAGE, 0L)
            .set(CONSIGNMENT.HANDLING, 0L)
            .set(CONSIGNMENT.HANDED_OVER_AT, now)
            .returningResult(CONSIGNMENT.ID)
            .fetchSingle()
            .value1();
    units.forEach((external, sent) -> {
      OrderLine line = lines.get(external);
      if (line != null) {
        send(order, depot, id, line, sent, channel);
      }
    });
    return id;
  }

  private void send(
      OrderHead order, NodeCard depot, long consignment, OrderLine line, long sent, String actor) {
    long item = Objects.requireNonNull(line.itemId(), "all lines are matched");
    long units = sent * line.unitsEach();
    db.insertInto(CONSIGNMENT_LINE)
        .set(CONSIGNMENT_LINE.CONSIGNMENT_ID, consignment)
        .set(CONSIGNMENT_LINE.ORDER_LINE_ID, line.id())
        .set(CONSIGNMENT_LINE.ITEM_ID, item)
        .set(CONSIGNMENT_LINE.QUANTITY, units)
        .set(CONSIGNMENT_LINE.ORDERED, sent)
        .set(CONSIGNMENT_LINE.PACKED, units)
        .execute();
    long found = ledger.sentByChannel(item, depot.id(), units, consignment, actor);
    if (found > 0) {
      snags.open(
          Snags.About.of(
                  SnagCause.DEPOT_SHORT,
                  item + "@" + depot.id(),
                  line.title() + " at " + depot.name(),
                  "the depot sent " + found + " more than was on record there: count it")
              .item(item),
          order.id(),
          actor);
    }
  }
}
