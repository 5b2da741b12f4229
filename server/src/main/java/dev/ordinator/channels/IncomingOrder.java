package dev.ordinator.channels;

import dev.ordinator.core.limits.Limits;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.NewOrder.Header;
import java.math.BigInteger;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * An order message that could be read; its products are not looked up yet.
 *
 * @param parcels what the channel's own depot has sent
 */
public record IncomingOrder(
    Header header, boolean cancelled, List<Line> lines, List<DepotParcel> parcels) {

  /**
   * @param quantity units ordered, {@code cancelled} of them no longer wanted
   * @param tax as the channel computed it; null: it sends none
   */
  public record Line(
      String externalId,
      Connector.ListingData listing,
      long quantity,
      long cancelled,
      Money unitPrice,
      Money discount,
      @Nullable Money tax,
      List<NewOrder.Wish> wishes) {}

  /**
   * @param line the channel's id of the line
   */
  public record Sent(String line, long quantity) {}

  public record DepotParcel(String tracking, String carrier, List<Sent> units) {}

  /**
   * @throws MessagePart.Unreadable if lines can't be told apart, or are worth more than can be
   *     added up
   */
  public IncomingOrder {
    lines = List.copyOf(lines);
    header = isPaidTooLittle(header, lines) ? header.unpaid() : header;
    parcels = List.copyOf(parcels);
    Set<String> ids = new HashSet<>();
    BigInteger goods = BigInteger.ZERO;
    for (Line line : lines) {
      if (!ids.add(line.externalId())) {
        throw new MessagePart.Unreadable(
            "lines", "two of them have the id ‘" + line.externalId() + "’");
      }
      goods =
          goods.add(
              BigInteger.valueOf(line.unitPrice().minor())
                  .multiply(BigInteger.valueOf(line.quantity())));
    }
    if (goods.compareTo(BigInteger.valueOf(Limits.MOST_MINOR)) > 0) {
      throw new MessagePart.Unreadable("lines", "cost more than is believed: too large a sum");
    }
  }

  /**
   * Whether a channel calls an order paid with tenders that don't cover it: then its payment is
   * awaited still. Each amount of its may be a minor unit off by rounding.
   */
  private static boolean isPaidTooLittle(Header header, List<Line> lines) {
    NewOrder.Payment payment = header.payment();
    if (payment.state() != PaymentState.PAID || payment.tenders().isEmpty()) {
      return false;
    }
    BigInteger costs =
        lines.stream()
            .map(l ->
                BigInteger.valueOf(l.unitPrice().minor())
                    .multiply(BigInteger.valueOf(l.quantity() - l.cancelled()))
                    .subtract(BigInteger.valueOf(l.discount().minor())))
            .reduce(BigInteger.ZERO, BigInteger::add)
            .add(BigInteger.valueOf(header.shippingCharge().minor()))
            .subtract(BigInteger.valueOf(header.discount().minor()));
    BigInteger paid =
        payment.tenders().stream()
            .map(t -> BigInteger.valueOf(t.amount().minor()))
            .reduce(BigInteger.valueOf(lines.size() + 1L), BigInteger::add);
    return paid.compareTo(costs) < 0;
  }

  /** What must not change without being seen: all but payment, state and revision. */
  public OrderContent content() {
    return new OrderContent(
        header.shipTo(),
        header.service(),
        header.arriveBy(),
        header.pickUpNode(),
        header.instructions(),
        header.giftMessage(),
        Objects.toString(header.total(), ""),
        lines.stream()
            .map(l ->
                new OrderContent.Line(
                    l.externalId(),
                    l.listing().externalId(),
                    l.listing().title(),
                    l.quantity() - l.cancelled(),
                    l.unitPrice().toString(),
                    l.wishes().stream()
                        .map(w -> w.name() + ": " + w.text() + w.file())
                        .collect(Collectors.joining("; ")),
                    l.discount().toString()))
            .toList(),
        new OrderContent.Account(
            header.buyer().name(),
            header.buyer().email(),
            header.buyer().phone(),
            header.billTo() == null
                ? ""
                : header.billTo().name() + ", " + OrderContent.words(header.billTo()),
            header.shippingCharge().toString(),
            header.discount().toString(),
            header.discount().currency().getCurrencyCode()));
  }
}
