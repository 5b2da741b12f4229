package dev.ordinator.channels;

import dev.ordinator.channels.IncomingOrder.DepotParcel;
import dev.ordinator.channels.IncomingOrder.Line;
import dev.ordinator.channels.IncomingOrder.Sent;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import java.util.List;
import java.util.Locale;

/**
 * Reads the marketplace's order messages: country sites with their currencies, states from basket
 * to sent, prices that contain tax of which it says nothing.
 */
final class MarketReader {
  static final String VOID = "void";
  private static final int MOST_LINES = 200;

  private MarketReader() {}

  static IncomingOrder read(String message) {
    MessagePart order = Messages.object(message);
    String currency = order.currency("currency");
    String state = order.text("state", 40);
    MessagePart customer = order.object("customer");
    MessagePart delivery = order.object("delivery");
    MessagePart to = order.object("deliverTo");
    List<Line> lines = lines(order, currency);
    Header header =
        new Header(
            order.text("orderRef", 100),
            order.whole("version", 0, Long.MAX_VALUE),
            order.instant("created"),
            order.optional("site", 20),
            state,
            order.optional("fulfilment", 20).equals("depot"),
            new Buyer(
                customer.text("fullName", 200),
                customer.optional("mail", 200),
                customer.optional("telephone", 40)),
            new Address(
                to.optional("addressee", 200),
                to.optional("line1", 200),
                to.optional("zip", 20),
                to.optional("town", 120),
                to.optional("countryCode", 2).toUpperCase(Locale.ROOT)),
            null,
            delivery.optional("method", 120),
            delivery.optionalDate("latest"),
            null,
            new Payment(payment(order, state), order.optional("paidWith", 60), List.of(), null),
            order.moneyOrZero("shippingPrice", currency),
            order.moneyOrZero("voucher", currency),
            order.money("grandTotal", currency),
            true,
            "",
            "");
    return new IncomingOrder(header, state.equals(VOID), lines, parcels(order));
  }

  private static PaymentState payment(MessagePart order, String state) {
    return switch (state) {
      case "basket", "offer_accepted", VOID -> PaymentState.UNPAID;
      case "ready", "sent" -> PaymentState.PAID;
      default -> throw order.unreadable("state", "‘" + state + "’ is no state we know");
    };
  }

  private static List<Line> lines(MessagePart order, String currency) {
    return order.list("items", MOST_LINES).stream()
        .map(item -> {
          long count = item.whole("count", 1, 100_000);
          Money price = item.money("price", currency);
          return new Line(
              item.text("itemRef", 100),
              new Connector.ListingData(
                  item.text("offerRef", 100),
                  item.optional("merchantSku", 100),
                  item.optional("ean", 40),
                  item.text("name", 400),
                  "",
                  price),
              count,
              item.wholeOrZero("cancelledCount", count),
              price,
              item.moneyOrZero("reduction", currency),
              null,
              List.of());
        })
        .toList();
  }

  private static List<DepotParcel> parcels(MessagePart order) {
    return order.optionalList("depotParcels", MOST_LINES).stream()
        .map(p ->
            new DepotParcel(
                p.text("parcel", 60),
                p.optional("carrier", 80),
                p.list("items", MOST_LINES).stream()
                    .map(i -> new Sent(i.text("itemRef", 100), i.whole("count", 1, 100_000)))
                    .toList()))
        .toList();
  }
}
