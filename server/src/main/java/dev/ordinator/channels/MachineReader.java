package dev.ordinator.channels;

import dev.ordinator.channels.IncomingOrder.Line;
import dev.ordinator.core.limits.Limits;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import dev.ordinator.orders.NewOrder.Tender;
import dev.ordinator.orders.NewOrder.Wish;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Reads orders as machines send them to our own API: amounts in minor units, names as ours. */
public final class MachineReader {
  private static final int MOST_LINES = 500;
  private static final int MOST_WISHES = 50;

  private MachineReader() {}

  /**
   * @throws MessagePart.Unreadable with the place and what is wrong there
   */
  public static IncomingOrder read(Channel channel, String message) {
    MessagePart order = Messages.strictObject(message);
    String currency = order.has("currency") ? order.currency("currency") : channel.currency();
    MessagePart buyer = order.object("buyer");
    Header header =
        new Header(
            order.text("id", 100),
            order.has("revision") ? order.whole("revision", 1, Long.MAX_VALUE) : 1,
            order.instant("placedAt"),
            order.optional("site", 20),
            "",
            false,
            new Buyer(
                buyer.text("name", 200), buyer.optional("email", 200), buyer.optional("phone", 40)),
            address(order.object("shipTo")),
            order.has("billTo") ? address(order.object("billTo")) : null,
            order.optional("service", 120),
            order.optionalDate("arriveBy"),
            order.has("pickUpNode") ? order.text("pickUpNode", 12) : null,
            payment(order.object("payment"), currency),
            amount(order, "shipping", currency),
            amount(order, "discount", currency),
            order.has("total") ? amount(order, "total", currency) : null,
            channel.terms().pricesWithTax(),
            order.optional("instructions", 1000),
            order.optional("giftMessage", 1000));
    List<Line> lines = lines(order, currency);
    order.refuseUnknown();
    return new IncomingOrder(header, false, lines, List.of());
  }

  /** The order's id; empty if not even that can be read. */
  public static String externalId(String message) {
    return Messages.textOf(message, "id");
  }

  private static Address address(MessagePart at) {
    return new Address(
        at.optional("name", 200),
        at.optional("street", 200),
        at.optional("postcode", 20),
        at.optional("city", 120),
        at.text("country", 2).toUpperCase(Locale.ROOT));
  }

  private static Payment payment(MessagePart payment, String currency) {
    String state = payment.text("state", 20);
    PaymentState known =
        Arrays.stream(PaymentState.values())
            .filter(s -> s.name().equals(state))
            .findFirst()
            .orElseThrow(() ->
                payment.unreadable(
                    "state",
                    "‘%s’ is none of %s"
                        .formatted(
                            state,
                            Arrays.stream(PaymentState.values())
                                .map(PaymentState::name)
                                .collect(Collectors.joining(", ")))));
    return new Payment(
        known,
        payment.optional("method", 60),
        payment.optionalList("tenders", 20).stream()
            .map(t ->
                new Tender(
                    t.text("method", 60),
                    amount(t, "amount", currency),
                    t.optional("reference", 100)))
            .toList(),
        payment.has("withinDays") ? (int) payment.whole("withinDays", 0, 365) : null,
        payment.has("refunded") ? amount(payment, "refunded", currency) : null);
  }

  private static List<Line> lines(MessagePart order, String currency) {
    Set<String> ids = new HashSet<>();
    return order.list("lines", MOST_LINES).stream()
        .map(line -> {
          String id = line.text("id", 100);
          if (!ids.add(id)) {
            throw line.unreadable("id", "‘" + id + "’ is another line’s already");
          }
          String sku = line.text("sku", 100);
          long quantity = line.whole("quantity", 1, Limits.MOST_UNITS);
          String title = line.optional("title", 400);
          Money price = amount(line, "price", currency);
          return new Line(
              id,
              new Connector.ListingData(
                  sku, sku, line.optional("gtin", 40), title.isEmpty() ? sku : title, "", price),
              quantity,
              line.wholeOrZero("cancelled", quantity),
              price,
              amount(line, "discount", currency),
              line.has("tax") ? amount(line, "tax", currency) : null,
              line.optionalList("wishes", MOST_WISHES).stream().map(MachineReader::wish).toList());
        })
        .toList();
  }

  private static Wish wish(MessagePart wish) {
    return new Wish(
        wish.text("name", 100), wish.optional("text", 2000), wish.optional("file", 400));
  }

  /** Minor units; none is zero. */
  private static Money amount(MessagePart part, String name, String currency) {
    return Money.of(part.wholeOrZero(name, Limits.MOST_MINOR), currency);
  }
}
