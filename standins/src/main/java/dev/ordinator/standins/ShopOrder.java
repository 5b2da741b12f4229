package dev.ordinator.standins;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** An order as the shop keeps it, and as it tells others of it. Amounts are decimals as text. */
public record ShopOrder(
    String id,
    long revision,
    String placedAt,
    String currency,
    Buyer buyer,
    ShipTo shipTo,
    @Nullable String shippingService,
    @Nullable String arriveBy,
    Payment payment,
    String shippingCharge,
    String discount,
    String total,
    String instructions,
    String giftMessage,
    List<Line> lines) {

  public record Buyer(String name, String email, String phone) {}

  public record ShipTo(
      String name, String street, String postcode, String city, @Nullable String country) {}

  public record Payment(String state, String method) {}

  public record Line(
      String id,
      String productId,
      String sku,
      String gtin,
      String title,
      long quantity,
      String unitPrice,
      String discount) {}

  ShopOrder paid() {
    return new ShopOrder(
        id,
        revision + 1,
        placedAt,
        currency,
        buyer,
        shipTo,
        shippingService,
        arriveBy,
        new Payment("paid", payment.method()),
        shippingCharge,
        discount,
        total,
        instructions,
        giftMessage,
        lines);
  }
}
