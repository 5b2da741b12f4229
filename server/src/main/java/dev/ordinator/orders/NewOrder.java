package dev.ordinator.orders;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An order as a channel sent it, read and found sound.
 *
 * @param externalId the channel's own id
 * @param revision the channel's count of changes to it
 * @param digest SHA-256 of its content, in hex
 * @param serviceWording the shipping service in the channel's own words
 * @param arriveBy the arrival date asked for
 */
public record NewOrder(
    String externalId,
    long revision,
    String digest,
    Instant placedAt,
    Buyer buyer,
    Address shipTo,
    String serviceWording,
    @Nullable LocalDate arriveBy,
    PaymentState payment,
    String paymentMethod,
    Money shippingCharge,
    Money discount,
    Money total,
    String instructions,
    String giftMessage,
    List<Line> lines) {

  public record Buyer(String name, String email, String phone) {}

  /**
   * @param quantity units, positive
   */
  public record Line(
      String externalId,
      long listingId,
      String title,
      long quantity,
      Money unitPrice,
      Money discount) {}
}
