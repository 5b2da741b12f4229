package dev.ordinator.standins;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** The orders that every desk knows: those that can't go on by themselves. */
final class Troubles {
  private static final ShopOrder.ShipTo GOOD =
      new ShopOrder.ShipTo("Vera Molenaar", "Bijenhof 4", "3511 LK", "Utrecht", "NL");

  private final List<Product> catalogue;
  private final Shop shop;

  Troubles(List<Product> catalogue, Shop shop) {
    this.catalogue = catalogue;
    this.shop = shop;
  }

  void place(Instant now) {
    for (int i = 0; i < 4; i++) {
      place(
          now.minus(Duration.ofHours(30 - 7 * i)), "QCAGE10", 1 + i, GOOD, "Home delivery", "paid");
    }
    place(now.minus(Duration.ofHours(5)), "BEES-SUIT-KIDS", 1, GOOD, "Home delivery", "paid");
    place(now.minus(Duration.ofHours(8)), "SMOKER-L", 1, GOOD, "Bicycle messenger", "paid");
    place(now.minus(Duration.ofHours(3)), "TOOL-J", 2, GOOD, "Bicycle messenger", "paid");
    place(
        now.minus(Duration.ofHours(4)),
        "SUIT-AIR-M",
        1,
        new ShopOrder.ShipTo("Harm Bos", "Veenweg 8", "", "Zwolle", "NL"),
        "Home delivery",
        "paid");
    for (int i = 0; i < 3; i++) {
      place(now.minus(Duration.ofHours(20 - 6 * i)), "SCALE", 1, GOOD, "Home delivery", "unpaid");
    }
    for (int i = 0; i < 3; i++) {
      place(
          now.minus(Duration.ofHours(26 - 8 * i)),
          "FO-DEEP-WAX-5",
          2,
          GOOD,
          "Home delivery",
          "paid");
    }
    // only their supplier has them, and it does not answer
    for (int i = 0; i < 2; i++) {
      place(now.minus(Duration.ofHours(77 + 23 * i)), "CNDL-TEA", 2, GOOD, "Home delivery", "paid");
    }
    // nobody said which size
    place(
        now.minus(Duration.ofHours(7)), OrderGenerator.WITH_SIZE, 1, GOOD, "Home delivery", "paid");
    place(now.minus(Duration.ofHours(2)), "JAR-500-12", -3, GOOD, "Home delivery", "paid");
  }

  private void place(
      Instant at, String sku, long quantity, ShopOrder.ShipTo to, String service, String payment) {
    Product product = catalogue.stream().filter(p -> p.sku().equals(sku)).findFirst().orElseThrow();
    String total =
        new BigDecimal(product.price())
            .multiply(BigDecimal.valueOf(Math.abs(quantity)))
            .toPlainString();
    shop.place(
        new ShopOrder(
            shop.nextId(),
            1,
            at.toString(),
            "EUR",
            new ShopOrder.Buyer(to.name(), "vera.molenaar@buyer.example", "+31 30 555 0142"),
            to,
            service,
            null,
            new ShopOrder.Payment(payment, payment.equals("paid") ? "card" : "bank transfer"),
            "0.00",
            "0.00",
            total,
            "",
            "",
            List.of(
                new ShopOrder.Line(
                    "1",
                    product.id(),
                    product.sku(),
                    product.gtin(),
                    product.title(),
                    quantity,
                    product.price(),
                    "0.00"))));
  }
}
