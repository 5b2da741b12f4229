package dev.ordinator.channels;

import dev.ordinator.channels.IncomingOrder.Line;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * Files of orders, one row per line. Rows of one order come as one message, each cell under its
 * field's name; what stands on the order's first row holds for the order. Its revision is the
 * moment at which the file was brought, in milliseconds.
 */
@Component
class Spreadsheets implements Connector {
  private static final int MOST_ROWS = 500;
  private static final Profile PROFILE =
      new Profile(List.of(), Map.of(), List.of(), false, false, true);

  @Override
  public ChannelKind kind() {
    return ChannelKind.SPREADSHEET;
  }

  @Override
  public Profile profile() {
    return PROFILE;
  }

  @Override
  public String externalId(String message) {
    return Messages.textOf(message, "order");
  }

  @Override
  public IncomingOrder read(Channel channel, String message) {
    MessagePart order = Messages.object(message);
    List<MessagePart> rows = order.list("rows", MOST_ROWS);
    MessagePart first = rows.getFirst();
    String currency = channel.currency();
    LocalDate placed = first.optionalDate("placed");
    Money shipping = first.moneyOrZero("shipping", currency);
    Money discount = first.moneyOrZero("discount", currency);
    List<Line> lines = lines(rows, currency);
    long broughtAt = order.whole("revision", 0, Long.MAX_VALUE);
    Header header =
        new Header(
            order.text("order", 100),
            broughtAt,
            placed == null
                ? Instant.ofEpochMilli(broughtAt)
                : placed.atStartOfDay(ZoneOffset.UTC).toInstant(),
            "",
            "",
            false,
            new Buyer(
                first.text("buyer", 200),
                first.optional("email", 200),
                first.optional("phone", 40)),
            new Address(
                first.optional("buyer", 200),
                first.text("street", 200),
                first.text("postcode", 20),
                first.text("city", 120),
                first.text("country", 2).toUpperCase(Locale.ROOT)),
            null,
            first.optional("service", 120),
            first.optionalDate("arriveBy"),
            null,
            new Payment(payment(first), "", List.of(), null),
            shipping,
            discount,
            null,
            channel.terms().pricesWithTax(),
            first.optional("instructions", 1000),
            "");
    return new IncomingOrder(header, false, lines, List.of());
  }

  private static PaymentState payment(MessagePart row) {
    String state = row.text("payment", 20).toLowerCase(Locale.ROOT);
    return switch (state) {
      case "paid" -> PaymentState.PAID;
      case "unpaid" -> PaymentState.UNPAID;
      case "authorised" -> PaymentState.AUTHORISED;
      case "on_delivery", "on delivery" -> PaymentState.ON_DELIVERY;
      default ->
          throw row.unreadable(
              "payment", "‘" + state + "’ is none of paid, unpaid, authorised, on delivery");
    };
  }

  /** The same item twice in an order is two lines; a line is known by its item and its turn. */
  private static List<Line> lines(List<MessagePart> rows, String currency) {
    Map<String, Integer> turns = new HashMap<>();
    List<Line> lines = new ArrayList<>();
    for (MessagePart row : rows) {
      String sku = row.text("sku", 100);
      int turn = turns.merge(sku, 1, Integer::sum);
      Money price = row.money("price", currency);
      String title = row.optional("title", 400);
      lines.add(
          new Line(
              turn == 1 ? sku : sku + "#" + turn,
              new Connector.ListingData(sku, sku, "", title.isEmpty() ? sku : title, "", price),
              row.whole("quantity", 1, 100_000),
              0,
              price,
              new Money(0, price.currency()),
              null,
              List.of()));
    }
    return lines;
  }
}
