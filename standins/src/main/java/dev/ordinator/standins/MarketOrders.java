package dev.ordinator.standins;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Makes believable marketplace orders, the same for the same seed. */
public final class MarketOrders {
  private static final List<String> SITES = List.of("NL", "DE", "FR", "UK");
  private static final BigDecimal POUNDS = new BigDecimal("0.86");

  private static final int UNMATCHED = 2;

  private final List<Product> offers;
  private final Market market;
  private final WorldClock time;
  private Random random;
  private Buyers buyers;

  MarketOrders(List<Product> offers, Market market, WorldClock time) {
    this.time = time;
    this.offers = offers;
    this.market = market;
    this.random = new Random(20261125L + market.orders().size());
    this.buyers = new Buyers(random);
  }

  /** What is not too bulky, a little dearer, and at the end two that nobody has matched yet. */
  static List<Product> offers() {
    List<Product> offers = new ArrayList<>();
    for (Product p : Product.catalogue().stream().filter(p -> !p.gtin().isEmpty()).toList()) {
      if (!p.sku().startsWith("HB-")) {
        String price =
            new BigDecimal(p.price())
                .multiply(new BigDecimal("1.08"))
                .setScale(2, RoundingMode.HALF_UP)
                .toPlainString();
        offers.add(new Product("KM-" + p.id().substring(1), p.sku(), p.gtin(), p.title(), price));
      }
    }
    offers.add(
        new Product("KM-9001", "BRACKEN-CANDLE-3", "", "Beeswax candles, set of three", "14.50"));
    offers.add(new Product("KM-9002", "SMOKER_L", "", "Smoker, large, with guard", "41.90"));
    return offers;
  }

  /** Places a believable order. */
  public MarketOrder placeOne(Instant at) {
    synchronized (market) {
      int dice = random.nextInt(100);
      String state = dice < 3 ? "basket" : dice < 7 ? "offer_accepted" : "ready";
      MarketOrder order = order(SITES.get(random.nextInt(SITES.size())), state, dice >= 75, at);
      market.place(order);
      return order;
    }
  }

  /**
   * An order of one item to a buyer of a site's country.
   *
   * @param sku of an offer
   */
  public MarketOrder of(String ref, String site, String sku, long count) {
    Product offer = offers.stream().filter(o -> o.sku().equals(sku)).findFirst().orElseThrow();
    return order(ref, site, "ready", false, Instant.now(), List.of(item(1, offer, count, site)));
  }

  /** A past of so many orders; what the depot fulfils was sent the next day. */
  void history(Past past) {
    random = new Random(past.seed());
    buyers = new Buyers(random);
    Instant now = time.now();
    long span = Duration.ofDays(past.days()).toSeconds();
    List<Instant> moments = new ArrayList<>();
    for (int i = 0; i < past.orders(); i++) {
      moments.add(now.minusSeconds(random.nextLong(span)));
    }
    moments.stream()
        .sorted()
        .forEach(at -> {
          MarketOrder order = placeOne(at);
          Instant sent = at.plus(Duration.ofHours(20));
          if (order.fulfilment().equals("depot") && sent.isBefore(now)) {
            market.place(order.sentFromDepot("KD" + order.orderRef().substring(5), sent));
          }
        });
    Product unmatched = offers.getLast();
    for (int i = 0; i < 3; i++) {
      Instant at = now.minus(Duration.ofHours(9 - 2 * i));
      String site = SITES.get(i);
      market.place(
          order(
              market.nextRef(site),
              site,
              "ready",
              false,
              at,
              List.of(item(1, unmatched, 1 + i, site))));
    }
  }

  private MarketOrder order(String site, String state, boolean depot, Instant at) {
    List<MarketOrder.Item> items = new ArrayList<>();
    for (int i = 0; i <= random.nextInt(2); i++) {
      items.add(
          item(
              i + 1,
              offers.get(random.nextInt(offers.size() - UNMATCHED)),
              1 + random.nextInt(2),
              site));
    }
    return order(market.nextRef(site), site, state, depot && state.equals("ready"), at, items);
  }

  private MarketOrder order(
      String ref,
      String site,
      String state,
      boolean depot,
      Instant at,
      List<MarketOrder.Item> items) {
    Buyers.Buyer buyer = buyers.from(site.equals("UK") ? "GB" : site);
    BigDecimal goods =
        items.stream()
            .map(i -> new BigDecimal(i.price()).multiply(BigDecimal.valueOf(i.count())))
            .reduce(BigDecimal.ZERO, BigDecimal::add);
    BigDecimal shipping =
        goods.compareTo(new BigDecimal("50")) > 0 ? BigDecimal.ZERO : new BigDecimal("4.50");
    return new MarketOrder(
        ref,
        site,
        state,
        1,
        at.toString(),
        at.toString(),
        site.equals("UK") ? "GBP" : "EUR",
        new MarketOrder.Customer(buyer.name(), buyer.mail(), ""),
        new MarketOrder.Address(
            buyer.name(), buyer.street(), buyer.postcode(), buyer.town(), buyer.country()),
        new MarketOrder.Delivery(
            random.nextInt(6) == 0 ? "Kestrel Fast" : "Kestrel Standard", null),
        depot ? "depot" : "merchant",
        items,
        shipping.setScale(2, RoundingMode.UNNECESSARY).toPlainString(),
        "0.00",
        goods.add(shipping).setScale(2, RoundingMode.UNNECESSARY).toPlainString(),
        state.equals("ready") ? "wallet" : "",
        List.of());
  }

  private static MarketOrder.Item item(int ref, Product offer, long count, String site) {
    BigDecimal price = new BigDecimal(offer.price());
    if (site.equals("UK")) {
      price = price.multiply(POUNDS).setScale(2, RoundingMode.HALF_UP);
    }
    return new MarketOrder.Item(
        Integer.toString(ref),
        offer.id(),
        offer.sku(),
        offer.gtin(),
        offer.title(),
        count,
        0,
        price.toPlainString(),
        "0.00");
  }
}
