package dev.ordinator.intake;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.listings.Listings;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.NewOrder.Header;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Finds out which listings an order's products are, and fills in the channel's defaults. */
@Component
class Recognition {
  private final Listings listings;

  Recognition(Listings listings) {
    this.listings = listings;
  }

  NewOrder of(Channel channel, IncomingOrder order) {
    return of(channel, List.of(order)).getFirst();
  }

  /** Many at once; each product is looked up once. */
  List<NewOrder> of(Channel channel, List<IncomingOrder> orders) {
    Map<String, Long> known =
        listings.know(
            channel,
            orders.stream()
                .flatMap(o -> o.lines().stream())
                .map(IncomingOrder.Line::listing)
                .toList());
    return orders.stream().map(o -> of(channel, o, known)).toList();
  }

  private static NewOrder of(Channel channel, IncomingOrder order, Map<String, Long> listings) {
    return new NewOrder(
        withDefaults(order.header(), channel),
        order.content(),
        channel.terms().team(),
        order.lines().stream()
            .map(l ->
                new NewOrder.Line(
                    l.externalId(),
                    Objects.requireNonNull(listings.get(l.listing().externalId())),
                    l.listing().title(),
                    l.quantity(),
                    l.cancelled(),
                    l.unitPrice(),
                    l.discount(),
                    l.tax(),
                    l.wishes()))
            .toList());
  }

  private static Header withDefaults(Header h, Channel channel) {
    if (!h.buyer().phone().isBlank() || channel.terms().phone().isBlank()) {
      return h;
    }
    return new Header(
        h.externalId(),
        h.revision(),
        h.placedAt(),
        h.site(),
        h.state(),
        h.fulfilledByChannel(),
        new NewOrder.Buyer(h.buyer().name(), h.buyer().email(), channel.terms().phone()),
        h.shipTo(),
        h.billTo(),
        h.service(),
        h.arriveBy(),
        h.pickUpNode(),
        h.payment(),
        h.shippingCharge(),
        h.discount(),
        h.total(),
        h.pricesWithTax(),
        h.instructions(),
        h.giftMessage());
  }
}
