package dev.ordinator.testing;

import dev.ordinator.standins.ShopOrder;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;

/** Orders to place in the shop. */
public final class Sample {
  public static final ShopOrder.ShipTo HOME =
      new ShopOrder.ShipTo("Ilse Verbruggen", "Lindepad 12", "1012 AB", "Amsterdam", "NL");

  private Sample() {}

  /** One line of a smoker, paid, to Amsterdam. */
  public static ShopOrder order(String id) {
    return order(id, "SMOKER-L", 1, HOME, "paid", "Home delivery");
  }

  public static ShopOrder order(String id, String sku, long quantity) {
    return order(id, sku, quantity, HOME, "paid", "Home delivery");
  }

  public static ShopOrder order(
      String id, String sku, long quantity, ShopOrder.ShipTo to, String payment, String service) {
    return new ShopOrder(
        id,
        1,
        Instant.now().toString(),
        "EUR",
        new ShopOrder.Buyer(to.name(), "buyer-" + id + "@buyer.example", "+31 20 555 0101"),
        to,
        service,
        null,
        new ShopOrder.Payment(payment, "card"),
        "0.00",
        "0.00",
        new BigDecimal("10.00").multiply(BigDecimal.valueOf(Math.abs(quantity))).toPlainString(),
        "",
        "",
        List.of(
            new ShopOrder.Line(
                "1", "listing-" + sku, sku, "", "Listing of " + sku, quantity, "10.00", "0.00")));
  }

  /** To be collected at a node, by its code. */
  public static ShopOrder collected(String id, String sku, long quantity, String node) {
    return order(id, sku, quantity).collectedAt(node);
  }
}
