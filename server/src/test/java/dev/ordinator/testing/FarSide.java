package dev.ordinator.testing;

import dev.ordinator.standins.Faults;
import dev.ordinator.standins.Guild;
import dev.ordinator.standins.GuildOrder;
import dev.ordinator.standins.Market;
import dev.ordinator.standins.MarketOrder;
import dev.ordinator.standins.Shop;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.standins.Told;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/**
 * The other side of a connection, as the connector test kit drives it: every connector must have
 * one. Orders are for one line of {@link #SKU}.
 */
public interface FarSide {
  String SKU = "SMOKER-L";

  /** The connection's code. */
  String code();

  void place(String id, long units);

  /** The order's units are changed; it becomes a newer version of itself. */
  void change(String id, long units);

  void cancel(String id);

  /**
   * What proves who we are ends now, and is short-lived from now on; where there is such a thing.
   */
  void expire();

  Faults faults();

  Told told();

  /** The revision of an order that was never changed. */
  long firstRevision();

  /** As a message names units, so that a test can spoil them. */
  String unitsField();

  static List<FarSide> all(TestWorld world) {
    return List.of(
        new ShopSide(world.shop()),
        new MarketSide(world.standIns().market()),
        new GuildSide(world.standIns().guild()));
  }

  /** The web shop. */
  record ShopSide(Shop shop) implements FarSide {
    @Override
    public String code() {
      return "WEB";
    }

    @Override
    public void place(String id, long units) {
      shop.place(Sample.order(id, SKU, units));
    }

    @Override
    public void change(String id, long units) {
      shop.change(id, o -> o.withLines(List.of(line(o, units))));
    }

    @Override
    public void cancel(String id) {
      shop.change(id, ShopOrder::cancelled);
    }

    @Override
    public void expire() {
      // a key does not end
    }

    @Override
    public Faults faults() {
      return shop.faults();
    }

    @Override
    public Told told() {
      return shop.told();
    }

    @Override
    public long firstRevision() {
      return 1;
    }

    @Override
    public String unitsField() {
      return "quantity";
    }

    private static ShopOrder.Line line(ShopOrder order, long units) {
      ShopOrder.Line l = order.lines().getFirst();
      return new ShopOrder.Line(
          l.id(), l.productId(), l.sku(), l.gtin(), l.title(), units, l.unitPrice(), l.discount());
    }
  }

  /** The marketplace. */
  record MarketSide(Market market) implements FarSide {
    @Override
    public String code() {
      return "MARKET";
    }

    @Override
    public void place(String id, long units) {
      market.place(market.generator().of(id, "NL", SKU, units));
    }

    @Override
    public void change(String id, long units) {
      MarketOrder.Item i = order(id).items().getFirst();
      market.place(
          order(id)
              .withItems(
                  List.of(
                      new MarketOrder.Item(
                          i.itemRef(),
                          i.offerRef(),
                          i.merchantSku(),
                          i.ean(),
                          i.name(),
                          units,
                          0,
                          i.price(),
                          i.reduction()))));
    }

    @Override
    public void cancel(String id) {
      market.place(order(id).inState("void"));
    }

    @Override
    public void expire() {
      market.tokensLive(Duration.ofSeconds(1));
    }

    @Override
    public Faults faults() {
      return market.faults();
    }

    @Override
    public Told told() {
      return market.told();
    }

    @Override
    public long firstRevision() {
      return 1;
    }

    @Override
    public String unitsField() {
      return "count";
    }

    private MarketOrder order(String id) {
      return market.orders().stream()
          .filter(o -> o.orderRef().equals(id))
          .findFirst()
          .orElseThrow();
    }
  }

  /** The wholesale portal. */
  record GuildSide(Guild guild) implements FarSide {
    @Override
    public String code() {
      return "GUILD";
    }

    @Override
    public void place(String id, long units) {
      guild.place(guild.of(id, SKU, units, "EUR", Instant.now()));
    }

    @Override
    public void change(String id, long units) {
      GuildOrder.Position p = order(id).positions().getFirst();
      guild.place(
          order(id)
              .withPositions(
                  List.of(
                      new GuildOrder.Position(
                          p.no(),
                          p.article(),
                          p.ean(),
                          p.description(),
                          units,
                          0,
                          p.netPrice(),
                          p.discountPercent(),
                          p.tax()))));
    }

    @Override
    public void cancel(String id) {
      guild.place(order(id).cancelled());
    }

    @Override
    public void expire() {
      // a key does not end
    }

    @Override
    public Faults faults() {
      return guild.faults();
    }

    @Override
    public Told told() {
      return guild.told();
    }

    @Override
    public long firstRevision() {
      return 0;
    }

    @Override
    public String unitsField() {
      return "quantity";
    }

    private GuildOrder order(String id) {
      return guild.orders().stream().filter(o -> o.number().equals(id)).findFirst().orElseThrow();
    }
  }
}
