package dev.ordinator.channels;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** An order message that could be read; its products are not looked up yet. */
record IncomingOrder(
    String externalId,
    long revision,
    Instant placedAt,
    NewOrder.Buyer buyer,
    Address shipTo,
    String service,
    @Nullable LocalDate arriveBy,
    PaymentState payment,
    String paymentMethod,
    Money shippingCharge,
    Money discount,
    Money total,
    String instructions,
    String giftMessage,
    List<Line> lines) {

  record Line(
      String externalId,
      Connector.ListingData listing,
      long quantity,
      Money unitPrice,
      Money discount) {}

  /** What must not change without a person seeing it: all but payment and revision. */
  record Content(
      Address shipTo,
      String service,
      @Nullable LocalDate arriveBy,
      Money total,
      String instructions,
      String giftMessage,
      List<Line> lines) {}

  Content content() {
    return new Content(shipTo, service, arriveBy, total, instructions, giftMessage, lines);
  }
}
