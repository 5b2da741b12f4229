package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.ShipmentNotice;
import dev.ordinator.channels.Connector.ShipmentSink;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Tells a channel that a consignment was shipped. */
@Component
class WriteBack implements Outbox.Delivery {
  private final DSLContext db;
  private final Orders orders;
  private final Consignments consignments;
  private final Channels channels;
  private final Connectors connectors;

  WriteBack(
      DSLContext db,
      Orders orders,
      Consignments consignments,
      Channels channels,
      Connectors connectors) {
    this.db = db;
    this.orders = orders;
    this.consignments = consignments;
    this.channels = channels;
    this.connectors = connectors;
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
    Channel channel = channels.byId(order.channelId());
    if (!channel.writesBack()) {
      throw ChannelError.refused(channel.name() + " was set to listen-only meanwhile");
    }
    Head consignment = consignments.byId(message.consignmentId());
    List<String> trackings =
        db.select(PARCEL.TRACKING)
            .from(PARCEL)
            .where(PARCEL.CONSIGNMENT_ID.eq(consignment.id()))
            .orderBy(PARCEL.ID)
            .fetch(PARCEL.TRACKING);
    Optional<ShipmentSink> sink = connectors.able(channel, ShipmentSink.class);
    if (sink.isEmpty()) {
      return channel.name() + " is not told of shipments";
    }
    sink.get()
        .pushShipment(
            channel,
            new ShipmentNotice(
                message.onceKey(),
                order.externalId(),
                consignment.carrierName(),
                trackings,
                trackings.isEmpty()
                    ? ""
                    : consignment.trackingUrl().replace("{tracking}", trackings.getFirst()),
                consignments.lines(consignment.id()).stream()
                    .collect(
                        Collectors.toMap(
                            Consignments.Line::orderLineExternalId,
                            Consignments.Line::orderedUnits,
                            Long::sum))));
    return channel.name()
        + " told: shipped with "
        + consignment.carrierName()
        + " "
        + String.join(", ", trackings);
  }
}
