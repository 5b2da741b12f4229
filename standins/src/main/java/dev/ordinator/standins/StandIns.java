package dev.ordinator.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Starts channels, carrier, mailbox and the rates, on loopback only. */
public final class StandIns implements AutoCloseable {
  private final Shop shop;
  private final CarrierDesk carrier;
  private final Mailbox mailbox;
  private final Market market;
  private final Guild guild;
  private final RateDesk rates;
  private final WorldClock clock = new WorldClock();

  private StandIns(Ports ports) throws IOException {
    mailbox = new Mailbox(ports.smtp(), ports.mail());
    carrier = new CarrierDesk(ports.carrier(), ports.data(), clock);
    shop = new Shop(ports.shop(), ports.data(), clock);
    market = new Market(ports.market(), ports.data(), clock);
    guild = new Guild(ports.guild(), ports.data(), clock);
    rates = new RateDesk(ports.rates(), clock);
    hooksTo(ports.hooks());
  }

  /**
   * @param data where channels and carrier keep what they know between starts; null: nowhere
   * @param hooks the application to which channels send their webhooks; empty: none
   */
  public record Ports(
      int shop,
      int carrier,
      int smtp,
      int mail,
      int market,
      int guild,
      int rates,
      @Nullable Path data,
      String hooks) {
    /** Free ports, nothing kept. */
    public static final Ports ANY = new Ports(0, 0, 0, 0, 0, 0, 0, null, "");
  }

  public static StandIns start(Ports ports) throws IOException {
    return new StandIns(ports);
  }

  /** Ends these, and starts others in their place who know nothing yet, on the same ports. */
  public StandIns anew() throws IOException {
    Ports same =
        new Ports(
            shop.port(),
            carrier.port(),
            mailbox.smtpPort(),
            mailbox.port(),
            market.port(),
            guild.port(),
            rates.port(),
            null,
            "");
    close();
    return start(same);
  }

  /**
   * @param application its address; empty: channels send nothing by themselves
   */
  public void hooksTo(String application) {
    shop.webhooks().sendTo(application.isEmpty() ? "" : application + "/hooks/channels/WEB");
    guild.hooks().sendTo(application.isEmpty() ? "" : application + "/hooks/channels/GUILD");
  }

  /** What time it is for all of them. */
  public WorldClock clock() {
    return clock;
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

  public Market market() {
    return market;
  }

  public Guild guild() {
    return guild;
  }

  public RateDesk rates() {
    return rates;
  }

  @Override
  public void close() {
    shop.close();
    market.close();
    guild.close();
    rates.close();
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
                port(given, "market", 8627),
                port(given, "guild", 8628),
                port(given, "rates", 8629),
                given.containsKey("data") ? Path.of(given.getOrDefault("data", "")) : null,
                given.getOrDefault("hooks", "")));
    world.shop.generator().ordersPerMinute(Double.parseDouble(given.getOrDefault("rate", "0")));
    Runtime.getRuntime().addShutdownHook(new Thread(world::close));
  }

  private static int port(Map<String, String> given, String name, int otherwise) {
    return Integer.parseInt(given.getOrDefault(name, Integer.toString(otherwise)));
  }
}
