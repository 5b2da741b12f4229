package dev.ordinator.standins;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/** Makes believable orders of invented buyers, always the same for the same seed. */
public final class OrderGenerator implements AutoCloseable {
  private static final List<String> SERVICES =
      List.of(
          "Home delivery",
          "Home delivery",
          "Home delivery",
          "Standard parcel",
          "Express before noon");

  /** The set that has a suit in it, of which the buyer says the size. */
  static final String WITH_SIZE = "FIRST-YEAR";

  private static final List<String> SIZES = List.of("S", "M", "L", "XL");

  private final List<Product> catalogue;
  private final Shop shop;
  private final WorldClock time;
  private Random random;
  private Buyers buyers;
  private final ScheduledExecutorService clock =
      Executors.newSingleThreadScheduledExecutor(Thread.ofPlatform().daemon().factory());
  private volatile double perMinute;
  private double owed;

  OrderGenerator(List<Product> catalogue, Shop shop, WorldClock time) {
    this.catalogue = catalogue;
    this.time = time;
    this.shop = shop;
    // a shop that is started again goes on, rather than selling the same to the same buyers again
    this.random = new Random(20261124L + shop.orders().size());
    this.buyers = new Buyers(random);
    clock.scheduleWithFixedDelay(this::tick, 1, 1, TimeUnit.SECONDS);
  }

  public double ordersPerMinute() {
    return perMinute;
  }

  public void ordersPerMinute(double rate) {
    perMinute = rate;
  }

  /** Places a believable order. */
  public ShopOrder placeOne(Instant placedAt) {
    synchronized (shop) {
      ShopOrder order = next(shop.nextId(), placedAt);
      shop.place(order);
      return order;
    }
  }

  /**
   * A past of so many orders, busier on weekdays and by day, ending with today's troubles; nobody
   * is told of it.
   */
  void history(Past past) {
    shop.webhooks().muted(() -> make(past));
  }

  private void make(Past past) {
    random = new Random(past.seed());
    buyers = new Buyers(random);
    Instant now = time.now();
    long span = Duration.ofDays(past.days()).toSeconds();
    List<Instant> moments = new ArrayList<>();
    while (moments.size() < past.orders()) {
      Instant at = now.minusSeconds(random.nextLong(span));
      int hour = at.atZone(ZoneOffset.UTC).getHour();
      if (hour >= 6 || random.nextInt(5) == 0) {
        moments.add(at);
      }
    }
    moments.stream().sorted().forEach(this::placeOne);
    new Troubles(catalogue, shop, buyers).place(now);
  }

  private void tick() {
    owed += perMinute / 60;
    while (owed >= 1) {
      owed--;
      placeOne(Instant.now());
    }
  }

  private ShopOrder next(String id, Instant placedAt) {
    Buyers.Buyer buyer = buyers.next();
    List<ShopOrder.Line> lines = lines();
    BigDecimal goods =
        lines.stream()
            .map(l -> new BigDecimal(l.unitPrice()).multiply(BigDecimal.valueOf(l.quantity())))
            .reduce(BigDecimal.ZERO, BigDecimal::add);
    String service = one(SERVICES);
    BigDecimal shipping =
        service.startsWith("Express")
            ? new BigDecimal("12.95")
            : goods.compareTo(new BigDecimal("75")) > 0 ? BigDecimal.ZERO : new BigDecimal("5.95");
    BigDecimal discount =
        random.nextInt(10) == 0
            ? goods.multiply(new BigDecimal("0.05")).setScale(2, RoundingMode.HALF_UP)
            : BigDecimal.ZERO;
    String payment =
        switch (random.nextInt(20)) {
          case 0 -> "on_delivery";
          default -> "paid";
        };
    LocalDate arriveBy =
        random.nextInt(4) == 0
            ? LocalDate.ofInstant(placedAt, ZoneOffset.UTC).plusDays(4 + random.nextInt(6))
            : null;
    return new ShopOrder(
        id,
        1,
        placedAt.toString(),
        "EUR",
        new ShopOrder.Buyer(buyer.name(), buyer.mail(), buyer.phone()),
        new ShopOrder.ShipTo(
            buyer.name(), buyer.street(), buyer.postcode(), buyer.town(), buyer.country()),
        service,
        arriveBy == null ? null : arriveBy.toString(),
        new ShopOrder.Payment(payment, payment.equals("on_delivery") ? "at the door" : "card"),
        shipping.setScale(2, RoundingMode.UNNECESSARY).toPlainString(),
        discount.setScale(2, RoundingMode.UNNECESSARY).toPlainString(),
        goods
            .add(shipping)
            .subtract(discount)
            .setScale(2, RoundingMode.UNNECESSARY)
            .toPlainString(),
        random.nextInt(12) == 0 ? "Please leave it with the neighbours at number 9." : "",
        random.nextInt(15) == 0 ? "Happy birthday! May your bees be gentle." : "",
        lines);
  }

  private List<ShopOrder.Line> lines() {
    int wanted = 1 + weighted(List.of(55, 25, 12, 8));
    List<Product> chosen = new ArrayList<>();
    while (chosen.size() < wanted) {
      // the last few of the catalogue are listings that nobody has matched yet
      Product product = catalogue.get(random.nextInt(catalogue.size() - 3));
      if (!chosen.contains(product)) {
        chosen.add(product);
      }
    }
    List<ShopOrder.Line> lines = new ArrayList<>();
    for (Product p : chosen) {
      lines.add(
          new ShopOrder.Line(
              Integer.toString(lines.size() + 1),
              p.id(),
              p.sku(),
              p.gtin(),
              p.title(),
              1 + weighted(List.of(70, 15, 8, 4, 3)),
              0,
              p.price(),
              "0.00",
              p.sku().equals(WITH_SIZE)
                  ? List.of(new ShopOrder.Wish("Size", one(SIZES), ""))
                  : List.of()));
    }
    return lines;
  }

  private int weighted(List<Integer> weights) {
    int dice = random.nextInt(weights.stream().mapToInt(Integer::intValue).sum());
    for (int i = 0; ; i++) {
      dice -= weights.get(i);
      if (dice < 0) {
        return i;
      }
    }
  }

  private <T> T one(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }

  @Override
  public void close() {
    clock.shutdownNow();
  }
}
