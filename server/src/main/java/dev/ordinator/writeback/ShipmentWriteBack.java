package dev.ordinator.writeback;

import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.ShipmentNotice;
import dev.ordinator.channels.Connector.ShipmentSink;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Tells a channel that a consignment was shipped. */
@Component
class ShipmentWriteBack implements Outbox.Delivery {
  private final DSLContext db;
  private final Orders orders;
  private final Consignments consignments;
  private final CarrierWords carriers;
  private final Telling telling;

  ShipmentWriteBack(
      DSLContext db,
      Orders orders,
      Consignments consignments,
      CarrierWords carriers,
      Telling telling) {
    this.db = db;
    this.orders = orders;
    this.consignments = consignments;
    this.carriers = carriers;
    this.telling = telling;
  }

  @Override
  public Outbox.Kind kind() {
    return Outbox.Kind.WRITE_BACK;
  }

  @Override
  public EventKind told() {
    return EventKind.TOLD_CHANNEL;
  }

  @Override
  public String deliver(Outbox.Message message) {
    OrderHead order = orders.head(message.orderId());
    Channel channel = telling.channelOf(order);
    Head consignment = consignments.byId(Objects.requireNonNull(message.consignmentId()));
    List<String> trackings =
        db.select(PARCEL.TRACKING)
            .from(PARCEL)
            .where(PARCEL.CONSIGNMENT_ID.eq(consignment.id()))
            .orderBy(PARCEL.ID)
            .fetch(PARCEL.TRACKING);
    List<Consignments.Line> lines =
        consignments.lines(consignment.id()).stream().filter(l -> l.orderedUnits() > 0).toList();
    if (lines.isEmpty()) {
      return "nothing to tell: nothing that was ordered is whole with this parcel";
    }
    return telling.tell(
        channel,
        ShipmentSink.class,
        sink -> {
          String carrier =
              carriers.nameAt(channel, consignment.carrierCode(), consignment.carrierName());
          sink.pushShipment(
              channel,
              new ShipmentNotice(
                  message.onceKey(),
                  order.externalId(),
                  carrier,
                  trackings,
                  trackings.isEmpty()
                      ? ""
                      : consignment.trackingUrl().replace("{tracking}", trackings.getFirst()),
                  lines.stream()
                      .collect(
                          Collectors.toMap(
                              Consignments.Line::orderLineExternalId,
                              Consignments.Line::orderedUnits,
                              Long::sum)),
                  lines.stream()
                      .filter(l -> l.instead() != null)
                      .collect(
                          Collectors.toMap(
                              Consignments.Line::orderLineExternalId,
                              Consignments.Line::sku,
                              (one, same) -> one))));
          return "shipped with " + carrier + " " + String.join(", ", trackings);
        });
  }
}
