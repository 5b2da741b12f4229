package dev.ordinator.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Starts shop, carrier and mailbox, on loopback only. */
public final class StandIns implements AutoCloseable {
  private final Shop shop;
  private final CarrierDesk carrier;
  private final Mailbox mailbox;

  private StandIns(Shop shop, CarrierDesk carrier, Mailbox mailbox) {
    this.shop = shop;
    this.carrier = carrier;
    this.mailbox = mailbox;
  }

  /**
   * @param data where shop and carrier keep what they know between starts; null: nowhere
   * @param hooks the address to which the shop sends its webhooks; empty: none
   */
  public record Ports(
      int shop, int carrier, int smtp, int mail, @Nullable Path data, String hooks) {
    /** Free ports, nothing kept. */
    public static final Ports ANY = new Ports(0, 0, 0, 0, null, "");
  }

  public static StandIns start(Ports ports) throws IOException {
    Mailbox mailbox = new Mailbox(ports.smtp(), ports.mail());
    CarrierDesk carrier = new CarrierDesk(ports.carrier(), ports.data());
    Shop shop = new Shop(ports.shop(), ports.data());
    shop.webhooks().sendTo(ports.hooks());
    return new StandIns(shop, carrier, mailbox);
  }

  public Shop shop() {
    return shop;
  }

  public CarrierDesk carrier() {
    return carrier;
  }

  public Mailbox mailbox() {
    return mailbox;
  }

  @Override
  public void close() {
    shop.close();
    carrier.close();
    mailbox.close();
  }

  public static void main(String[] args) throws IOException {
    Map<String, String> given = new HashMap<>();
    for (String arg : args) {
      int equals = arg.indexOf('=');
      if (!arg.startsWith("--") || equals < 0) {
        throw new IllegalArgumentException("expected --name=value, got " + arg);
      }
      given.put(arg.substring(2, equals), arg.substring(equals + 1));
    }
    StandIns world =
        start(
            new Ports(
                port(given, "shop", 8621),
                port(given, "carrier", 8622),
                port(given, "smtp", 8623),
                port(given, "mail", 8624),
                given.containsKey("data") ? Path.of(given.getOrDefault("data", "")) : null,
                given.getOrDefault("hooks", "")));
    world.shop.generator().ordersPerMinute(Double.parseDouble(given.getOrDefault("rate", "0")));
    Runtime.getRuntime().addShutdownHook(new Thread(world::close));
  }

  private static int port(Map<String, String> given, String name, int otherwise) {
    return Integer.parseInt(given.getOrDefault(name, Integer.toString(otherwise)));
  }
}
