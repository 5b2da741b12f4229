package dev.ordinator.channels;

import dev.ordinator.channels.IncomingOrder.Line;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.Rounding;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Reads the wholesale portal's order messages: prices without tax, discounts in per cent on each
 * position and on the order, payment within so many days.
 */
final class PortalReader {
  static final String CANCELLED = "cancelled";
  private static final int MOST_LINES = 500;

  private PortalReader() {}

  static IncomingOrder read(String message) {
    MessagePart order = Messages.object(message);
    String currency = order.currency("currency");
    String status = order.text("status", 40);
    MessagePart party = order.object("party");
    List<Line> lines = lines(order, currency);
    Money goods =
        lines.stream()
            .map(l -> l.unitPrice().times(l.quantity()).minus(l.discount()))
            .reduce(Money.of(0, currency), Money::plus);
    Header header =
        new Header(
            order.text("number", 100),
            order.whole("amendment", 0, Long.MAX_VALUE),
            order.instant("placedAt"),
            "",
            status,
            false,
            new Buyer(
                party.text("company", 200),
                party.optional("email", 200),
                party.optional("phone", 40)),
            address(order.object("deliverTo")),
            order.has("invoiceTo") ? address(order.object("invoiceTo")) : null,
            order.optional("deliveryTerms", 120),
            order.optionalDate("deliverBy"),
            null,
            new Payment(PaymentState.AUTHORISED, "on account", List.of(), within(order)),
            order.moneyOrZero("freight", currency),
            percentOf(order, "discountPercent", goods),
            null,
            false,
            order.optional("remarks", 1000),
            "");
    return new IncomingOrder(header, status.equals(CANCELLED), lines, List.of());
  }

  private static @Nullable Integer within(MessagePart order) {
    return order.has("payWithin") ? (int) order.whole("payWithin", 0, 365) : null;
  }

  private static Address address(MessagePart at) {
    return new Address(
        at.optional("company", 200),
        at.optional("street", 200),
        at.optional("postalCode", 20),
        at.optional("place", 120),
        at.optional("country", 2).toUpperCase(Locale.ROOT));
  }

  private static List<Line> lines(MessagePart order, String currency) {
    return order.list("positions", MOST_LINES).stream()
        .map(p -> {
          long quantity = p.whole("quantity", 1, 1_000_000);
          Money price = p.money("netPrice", currency);
          return new Line(
              p.text("no", 100),
              new Connector.ListingData(
                  p.text("article", 100),
                  p.text("article", 100),
                  p.optional("ean", 40),
                  p.text("description", 400),
                  "",
                  price),
              quantity,
              p.wholeOrZero("cancelled", quantity),
              price,
              percentOf(p, "discountPercent", price.times(quantity)),
              p.has("tax") ? p.money("tax", currency) : null,
              List.of());
        })
        .toList();
  }

  /** So many per cent of an amount, {@link Rounding rounded}. */
  private static Money percentOf(MessagePart part, String name, Money amount) {
    BigDecimal percent = part.decimalOrZero(name);
    if (percent.compareTo(BigDecimal.valueOf(100)) > 0) {
      throw part.unreadable(name, percent.toPlainString() + " % is more than all of it");
    }
    long minor =
        Rounding.minor(BigDecimal.valueOf(amount.minor()).multiply(percent).movePointLeft(2));
    return new Money(minor, amount.currency());
  }
}
