package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.access.Person;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ListingData;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import dev.ordinator.orders.NewOrder.Wish;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Orders that our own people enter, such as those that come by telephone. */
@RestController
@RequestMapping("/api/intake/by-hand")
@Tag(name = "Intake")
class ByHandApi {
  private static final int MOST_LINES = 200;
  private static final long MOST_UNITS = 100_000;

  private final DSLContext db;
  private final Channels channels;
  private final Intake intake;
  private final Clock clock;

  ByHandApi(DSLContext db, Channels channels, Intake intake, Clock clock) {
    this.db = db;
    this.channels = channels;
    this.intake = intake;
    this.clock = clock;
  }

  /**
   * @param unitPrice minor units, with tax if the channel's prices are; null: the list price
   * @param wish a text to make of it; empty: none
   */
  record HandLine(String sku, long quantity, @Nullable Long unitPrice, String wish) {}

  /**
   * @param once made up by whoever asks: the same again is the same order
   * @param shippingCharge minor units, as is {@code discount}
   */
  record HandOrder(
      String once,
      Buyer buyer,
      Address shipTo,
      String service,
      @Nullable LocalDate arriveBy,
      PaymentState payment,
      long shippingCharge,
      long discount,
      String instructions,
      String giftMessage,
      List<HandLine> lines) {}

  record Entered(long id) {}

  @Operation(summary = "Enter an order by hand; it goes its way like any other")
  @PostMapping
  Entered enter(@RequestBody HandOrder order) {
    Channel channel =
        channels.all().stream()
            .filter(c -> c.kind() == ChannelKind.BY_HAND)
            .findFirst()
            .orElseThrow(() ->
                Problem.conflict("connect a channel of the kind “by hand” first, for its prefix"));
    channels.requireOpen(channel);
    check(order);
    String who = Person.current().displayName();
    List<IncomingOrder.Line> lines = lines(order, channel.currency());
    Money discount = Money.of(order.discount(), channel.currency());
    Money goods =
        lines.stream()
            .map(l -> l.unitPrice().times(l.quantity()))
            .reduce(Money.of(0, channel.currency()), Money::plus);
    require(discount.minor() <= goods.minor(), "discount", "is more than the goods cost");
    Header header =
        new Header(
            order.once(),
            1,
            clock.instant(),
            "",
            "",
            false,
            order.buyer(),
            order.shipTo(),
            null,
            order.service(),
            order.arriveBy(),
            null,
            new Payment(order.payment(), "", List.of(), null),
            Money.of(order.shippingCharge(), channel.currency()),
            discount,
            null,
            channel.terms().pricesWithTax(),
            order.instructions(),
            order.giftMessage());
    intake.take(
        channel, new IncomingOrder(header, false, lines, List.of()), "", "entered by " + who);
    return new Entered(intake.idOf(channel, order.once()).orElseThrow());
  }

  private List<IncomingOrder.Line> lines(HandOrder order, String currency) {
    List<IncomingOrder.Line> lines = new ArrayList<>();
    for (HandLine line : order.lines()) {
      String place = "lines[" + lines.size() + "]";
      require(
          line.quantity() >= 1 && line.quantity() <= MOST_UNITS,
          place + ".quantity",
          "1 to 100,000 units");
      var item =
          db.select(ITEM.SKU, ITEM.NAME, ITEM.LIST_PRICE)
              .from(ITEM)
              .where(ITEM.SKU.eq(line.sku().strip()))
              .fetchOptional()
              .orElseThrow(() ->
                  Problem.invalid(place + ".sku", "no item has the SKU ‘" + line.sku() + "’"));
      long price = line.unitPrice() == null ? item.value3() : line.unitPrice();
      require(price >= 0, place + ".unitPrice", "a price is not negative");
      lines.add(
          new IncomingOrder.Line(
              Integer.toString(lines.size() + 1),
              new ListingData(item.value1(), item.value1(), "", item.value2(), "", null),
              line.quantity(),
              0,
              Money.of(price, currency),
              Money.of(0, currency),
              null,
              line.wish().isBlank() ? List.of() : List.of(new Wish("text", line.wish(), ""))));
    }
    return lines;
  }

  private static void check(HandOrder order) {
    require(order.once().matches("[A-Za-z0-9-]{8,80}"), "once", "8 to 80 letters, digits, dashes");
    require(
        !order.buyer().name().isBlank() && order.buyer().name().length() <= 200,
        "buyer.name",
        "1 to 200 characters");
    require(order.buyer().email().length() <= 200, "buyer.email", "at most 200 characters");
    require(order.buyer().phone().length() <= 40, "buyer.phone", "at most 40 characters");
    List<Address.Problem> problems = order.shipTo().problems();
    if (!problems.isEmpty()) {
      throw Problem.invalid("shipTo." + problems.getFirst().part(), problems.getFirst().message());
    }
    require(
        order.shippingCharge() >= 0 && order.discount() >= 0,
        "shippingCharge",
        "amounts are not negative");
    require(order.instructions().length() <= 1000, "instructions", "at most 1000 characters");
    require(order.giftMessage().length() <= 1000, "giftMessage", "at most 1000 characters");
    require(
        !order.lines().isEmpty() && order.lines().size() <= MOST_LINES, "lines", "1 to 200 lines");
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }
}
