package dev.ordinator.channels;

import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads the web shop's order messages. Nothing in them is trusted; an address may lack parts, which
 * a person can fill in later, but amounts and quantities must be exact.
 */
@Component
class OrderReader {
  private static final int MOST_LINES = 500;
  private static final int DEEPEST = 20;

  private final JsonMapper json =
      JsonMapper.builder(
              JsonFactory.builder()
                  .streamReadConstraints(
                      StreamReadConstraints.builder().maxNestingDepth(DEEPEST).build())
                  .build())
          .build();

  /**
   * @throws Unreadable with the place and what is wrong there
   */
  IncomingOrder read(String message, String currency) {
    MessagePart order = new MessagePart(parse(message), "");
    if (!order.node().isObject()) {
      throw new Unreadable("", "the message is not an object");
    }
    String sent = order.text("currency", 3);
    if (!sent.equals(currency)) {
      throw order.unreadable("currency", "is " + sent + ", but this channel sells in " + currency);
    }
    MessagePart payment = order.object("payment");
    MessagePart buyer = order.object("buyer");
    return new IncomingOrder(
        order.text("id", 100),
        order.whole("revision", 0, Long.MAX_VALUE),
        order.instant("placedAt"),
        new NewOrder.Buyer(
            buyer.text("name", 200), buyer.optional("email", 200), buyer.optional("phone", 40)),
        address(order.object("shipTo")),
        order.optional("shippingService", 120),
        order.optionalDate("arriveBy"),
        paymentState(payment),
        payment.optional("method", 60),
        order.moneyOrZero("shippingCharge", currency),
        order.moneyOrZero("discount", currency),
        order.money("total", currency),
        order.optional("instructions", 1000),
        order.optional("giftMessage", 1000),
        lines(order, currency));
  }

  /** The id in a message that can't be read otherwise; empty if not even that can be. */
  String externalId(String message) {
    try {
      return new MessagePart(parse(message), "").optional("id", 100);
    } catch (Unreadable e) {
      return "";
    }
  }

  /** When a message says that its order was placed. */
  Instant placedAt(String message) {
    return new MessagePart(parse(message), "").instant("placedAt");
  }

  private JsonNode parse(String message) {
    try {
      return json.readTree(message);
    } catch (JacksonException e) {
      var where = e.getLocation();
      throw new Unreadable(
          where == null ? "" : "line " + where.getLineNr() + ", column " + where.getColumnNr(),
          "this is not JSON: " + e.getOriginalMessage());
    }
  }

  private static Address address(MessagePart to) {
    return new Address(
        to.optional("name", 200),
        to.optional("street", 200),
        to.optional("postcode", 20),
        to.optional("city", 120),
        to.optional("country", 2).toUpperCase(Locale.ROOT));
  }

  private static PaymentState paymentState(MessagePart payment) {
    String state = payment.text("state", 20);
    return switch (state) {
      case "unpaid" -> PaymentState.UNPAID;
      case "authorised" -> PaymentState.AUTHORISED;
      case "paid" -> PaymentState.PAID;
      case "on_delivery" -> PaymentState.ON_DELIVERY;
      default -> throw payment.unreadable("state", "‘" + state + "’ is no payment state we know");
    };
  }

  private static List<IncomingOrder.Line> lines(MessagePart order, String currency) {
    return order.list("lines", MOST_LINES).stream()
        .map(line ->
            new IncomingOrder.Line(
                line.text("id", 100),
                new Connector.ListingData(
                    line.text("productId", 100),
                    line.optional("sku", 100),
                    line.optional("gtin", 40),
                    line.text("title", 400)),
                line.whole("quantity", 1, 100_000),
                line.money("unitPrice", currency),
                line.moneyOrZero("discount", currency)))
        .toList();
  }
}
