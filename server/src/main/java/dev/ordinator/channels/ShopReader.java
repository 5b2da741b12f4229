package dev.ordinator.channels;

import dev.ordinator.channels.IncomingOrder.Line;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import dev.ordinator.orders.NewOrder.Tender;
import dev.ordinator.orders.NewOrder.Wish;
import java.util.List;
import java.util.Locale;

/**
 * Reads the web shop's order messages. Nothing in them is trusted; an address may lack parts, which
 * a person can fill in later, but amounts and quantities must be exact.
 */
final class ShopReader {
  static final String CANCELLED = "cancelled";
  private static final int MOST_LINES = 500;
  private static final int MOST_PARTS = 50;

  private ShopReader() {}

  static IncomingOrder read(Channel channel, String message) {
    MessagePart order = Messages.object(message);
    String currency = order.text("currency", 3);
    if (!currency.equals(channel.currency())) {
      throw order.unreadable(
          "currency", "is " + currency + ", but this channel sells in " + channel.currency());
    }
    String status = order.optional("status", 40);
    MessagePart buyer = order.object("buyer");
    String collectAt = order.optional("collectAt", 12);
    Header header =
        new Header(
            order.text("id", 100),
            order.whole("revision", 0, Long.MAX_VALUE),
            order.instant("placedAt"),
            "",
            status,
            false,
            new Buyer(
                buyer.text("name", 200), buyer.optional("email", 200), buyer.optional("phone", 40)),
            address(order.object("shipTo")),
            order.has("billTo") ? address(order.object("billTo")) : null,
            order.optional("shippingService", 120),
            order.optionalDate("arriveBy"),
            collectAt.isEmpty() ? null : collectAt,
            payment(order, currency),
            order.moneyOrZero("shippingCharge", currency),
            order.moneyOrZero("discount", currency),
            order.money("total", currency),
            channel.terms().pricesWithTax(),
            order.optional("instructions", 1000),
            order.optional("giftMessage", 1000));
    return new IncomingOrder(header, status.equals(CANCELLED), lines(order, currency), List.of());
  }

  private static Address address(MessagePart to) {
    return new Address(
        to.optional("name", 200),
        to.optional("street", 200),
        to.optional("postcode", 20),
        to.optional("city", 120),
        to.optional("country", 2).toUpperCase(Locale.ROOT));
  }

  private static Payment payment(MessagePart order, String currency) {
    MessagePart payment = order.object("payment");
    String state = payment.text("state", 20);
    return new Payment(
        switch (state) {
          case "unpaid" -> PaymentState.UNPAID;
          case "authorised" -> PaymentState.AUTHORISED;
          case "paid" -> PaymentState.PAID;
          case "on_delivery" -> PaymentState.ON_DELIVERY;
          default ->
              throw payment.unreadable("state", "‘" + state + "’ is no payment state we know");
        },
        payment.optional("method", 60),
        order.optionalList("tenders", MOST_PARTS).stream()
            .map(t ->
                new Tender(
                    t.text("method", 60),
                    t.money("amount", currency),
                    t.optional("reference", 100)))
            .toList(),
        null);
  }

  private static List<Line> lines(MessagePart order, String currency) {
    return order.list("lines", MOST_LINES).stream()
        .map(line -> {
          long quantity = line.whole("quantity", 1, 100_000);
          return new Line(
              line.text("id", 100),
              new Connector.ListingData(
                  line.text("productId", 100),
                  line.optional("sku", 100),
                  line.optional("gtin", 40),
                  line.text("title", 400),
                  "",
                  line.money("unitPrice", currency)),
              quantity,
              line.wholeOrZero("cancelled", quantity),
              line.money("unitPrice", currency),
              line.moneyOrZero("discount", currency),
              line.has("tax") ? line.money("tax", currency) : null,
              line.optionalList("personalisation", MOST_PARTS).stream()
                  .map(w ->
                      new Wish(
                          w.text("name", 100), w.optional("text", 1000), w.optional("file", 400)))
                  .toList());
        })
        .toList();
  }
}
