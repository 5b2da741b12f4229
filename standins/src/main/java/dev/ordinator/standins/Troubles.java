package dev.ordinator.standins;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** The orders that every desk knows: those that can't go on by themselves. */
final class Troubles {
  private final List<Product> catalogue;
  private final Shop shop;
  private final Buyers buyers;
  private final Set<String> names = new HashSet<>();

  Troubles(List<Product> catalogue, Shop shop, Buyers buyers) {
    this.catalogue = catalogue;
    this.shop = shop;
    this.buyers = buyers;
  }

  void place(Instant now) {
    for (int i = 0; i < 4; i++) {
      place(
          now.minus(Duration.ofHours(30 - 7 * i)), "QCAGE10", 1 + i, true, "Home delivery", "paid");
    }
    place(now.minus(Duration.ofHours(5)), "BEES-SUIT-KIDS", 1, true, "Home delivery", "paid");
    place(now.minus(Duration.ofHours(8)), "SMOKER-L", 1, true, "Bicycle messenger", "paid");
    place(now.minus(Duration.ofHours(3)), "TOOL-J", 2, true, "Bicycle messenger", "paid");
    place(now.minus(Duration.ofHours(4)), "SUIT-AIR-M", 1, false, "Home delivery", "paid");
    for (int i = 0; i < 3; i++) {
      place(now.minus(Duration.ofHours(20 - 6 * i)), "SCALE", 1, true, "Home delivery", "unpaid");
    }
    for (int i = 0; i < 3; i++) {
      place(
          now.minus(Duration.ofHours(26 - 8 * i)),
          "FO-DEEP-WAX-5",
          2,
          true,
          "Home delivery",
          "paid");
    }
    // sold now, sent in spring
    place(now.minus(Duration.ofHours(50)), "CAGE-10", 2, true, "Home delivery", "paid");
    // only stores have it
    place(now.minus(Duration.ofHours(28)), "SUIT-AIR-L", 1, true, "Home delivery", "paid");
    // only their supplier has them, and it does not answer
    for (int i = 0; i < 2; i++) {
      place(now.minus(Duration.ofHours(77 + 23 * i)), "CNDL-TEA", 2, true, "Home delivery", "paid");
    }
    // nobody said which size
    place(
        now.minus(Duration.ofHours(7)), OrderGenerator.WITH_SIZE, 1, true, "Home delivery", "paid");
    place(now.minus(Duration.ofHours(2)), "JAR-500-12", -3, true, "Home delivery", "paid");
  }

  /** No two of them are the same buyer's. */
  private Buyers.Buyer somebodyElse() {
    Buyers.Buyer buyer = buyers.from("NL");
    while (!names.add(buyer.name())) {
      buyer = buyers.from("NL");
    }
    return buyer;
  }

  /**
   * @param reachable whether the address is whole: without a postcode it is not
   */
  private void place(
      Instant at, String sku, long quantity, boolean reachable, String service, String payment) {
    Buyers.Buyer buyer = somebodyElse();
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
            new ShopOrder.Buyer(buyer.name(), buyer.mail(), buyer.phone()),
            new ShopOrder.ShipTo(
                buyer.name(),
                buyer.street(),
                reachable ? buyer.postcode() : "",
                buyer.town(),
                buyer.country()),
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
