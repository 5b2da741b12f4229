package dev.ordinator.intake;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.core.money.Money;
import dev.ordinator.listings.Listings;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.platform.Problem;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Finds out which listings an order's products are, and fills in the channel's defaults. */
@Component
class Recognition {
  private final Listings listings;
  private final Nodes nodes;

  Recognition(Listings listings, Nodes nodes) {
    this.listings = listings;
    this.nodes = nodes;
  }

  /**
   * @throws Problem if it is collected where no node of ours is
   */
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
    orders.forEach(this::requireNode);
    return orders.stream().map(o -> of(channel, o, known)).toList();
  }

  private void requireNode(IncomingOrder order) {
    String pickUp = order.header().pickUpNode();
    if (pickUp != null && !nodes.names().containsKey(pickUp)) {
      throw Problem.invalid("pickUpNode", "no node of ours has the code ‘" + pickUp + "’");
    }
  }

  private static NewOrder of(Channel channel, IncomingOrder order, Map<String, Long> listings) {
    boolean within = channel.terms().discountsWithin();
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
                    within ? nothing(l.discount()) : l.discount(),
                    l.tax(),
                    l.wishes()))
            .toList());
  }

  /** A missing phone is the channel's; discounts that are within the prices are not taken twice. */
  private static Header withDefaults(Header h, Channel channel) {
    String phone = h.buyer().phone().isBlank() ? channel.terms().phone() : h.buyer().phone();
    return new Header(
        h.externalId(),
        h.revision(),
        h.placedAt(),
        h.site(),
        h.state(),
        h.fulfilledByChannel(),
        new NewOrder.Buyer(h.buyer().name(), h.buyer().email(), phone),
        h.shipTo(),
        h.billTo(),
        h.service(),
        h.arriveBy(),
        h.pickUpNode(),
        h.payment(),
        h.shippingCharge(),
        channel.terms().discountsWithin() ? nothing(h.discount()) : h.discount(),
        h.total(),
        h.pricesWithTax(),
        h.instructions(),
        h.giftMessage());
  }

  private static Money nothing(Money amount) {
    return new Money(0, amount.currency());
  }
}
