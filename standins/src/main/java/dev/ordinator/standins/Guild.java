package dev.ordinator.standins;

import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * The demo wholesale portal: large orders of clubs and dealers, in their own currency, without tax
 * in the prices, with discounts in per cent, paid in 30 days. Spoken to with a name and a key; what
 * it sends by itself is signed.
 */
public final class Guild implements AutoCloseable {
  public static final String NAME = "brackenholt";
  public static final String KEY = "demo-guild-key";
  public static final String SIGNING_SECRET = "demo-guild-signing";
  private static final int FIRST_NUMBER = 7_001;
  private static final int PAGE = 25;

  private final List<Product> articles =
      Product.catalogue().stream().filter(p -> !p.gtin().isEmpty()).toList();
  private final Map<String, GuildOrder> orders = new LinkedHashMap<>();
  private final List<String> changes = new ArrayList<>();
  private final Told told = new Told();
  private final Faults faults = new Faults();
  private final Limiter limiter = new Limiter(40);
  private final GuildHooks hooks = new GuildHooks();
  private Random random;
  private final WorldClock clock;
  private final Kept kept;
  private final Web web;

  private record State(List<GuildOrder> orders, List<String> changes, Told.State told) {}

  Guild(int port, @Nullable Path data, WorldClock clock) throws IOException {
    this.clock = clock;
    kept = new Kept(data, "guild.json", this::state);
    State before = kept.read(State.class);
    if (before != null) {
      before.orders().forEach(o -> orders.put(o.number(), o));
      changes.addAll(before.changes());
      told.load(before.told());
    }
    random = new Random(20261126L + orders.size());
    web = new Web(port, this::handle);
  }

  public int port() {
    return web.port();
  }

  public String url() {
    return "http://127.0.0.1:" + web.port();
  }

  public Faults faults() {
    return faults;
  }

  public Told told() {
    return told;
  }

  public GuildHooks hooks() {
    return hooks;
  }

  public synchronized List<GuildOrder> orders() {
    return List.copyOf(orders.values());
  }

  /** Takes an order, new or changed, and tells who listens. */
  public synchronized void place(GuildOrder order) {
    orders.put(order.number(), order);
    changes.add(order.number());
    kept.changed();
    hooks.send(Web.JSON.writeValueAsString(order));
  }

  /** An order of one article. */
  public GuildOrder of(String number, String sku, long quantity, String currency, Instant at) {
    Product article = articles.stream().filter(a -> a.sku().equals(sku)).findFirst().orElseThrow();
    return order(number, currency, at, List.of(position(10, article, quantity)));
  }

  @Override
  public void close() {
    hooks.close();
    web.close();
    kept.close();
  }

  private Web.Answer handle(Web.Request request) throws IOException, InterruptedException {
    if (request.is("POST", "/history")) {
      history(Past.of(request.json()));
      return Web.Answer.json(200, Map.of("orders", orders.size()));
    }
    if (request.is("GET", "/")) {
      return page();
    }
    String expected =
        "Basic "
            + Base64.getEncoder()
                .encodeToString((NAME + ":" + KEY).getBytes(StandardCharsets.UTF_8));
    if (!request.header("Authorization").equals(expected)) {
      return Web.Answer.json(401, Map.of("message", "name or key is wrong"));
    }
    return limiter.admits() ? faults.apply(this::api, request) : Web.Answer.tooMany(1);
  }

  private synchronized Web.Answer api(Web.Request request) {
    if (request.is("GET", "/orders")) {
      return changed(request.query("continuation"));
    }
    if (request.is("GET", "/articles")) {
      return Web.Answer.json(
          200,
          Map.of(
              "articles",
              articles.stream()
                  .map(a ->
                      Map.of(
                          "article", a.sku(),
                          "ean", a.gtin(),
                          "description", a.title(),
                          "netPrice", net(a),
                          "currency", "EUR"))
                  .toList()));
    }
    if (request.is("PUT", "/availability")) {
      Map<String, Long> levels = new LinkedHashMap<>();
      request
          .json()
          .path("articles")
          .forEach(l -> levels.put(l.path("article").asString(), l.path("quantity").asLong()));
      told.stocked(levels);
      kept.changed();
      return Web.Answer.json(200, Map.of());
    }
    if (request.is("PUT", "/orders/[^/]+/(deliveries|cancellations|objections|credits)/[^/]+")) {
      return tell(request.part(1), request.part(2), request.part(3), request.json());
    }
    return Web.Answer.notFound();
  }

  private Web.Answer changed(String continuation) {
    int from =
        continuation.isEmpty()
            ? 0
            : Integer.parseInt(
                new String(Base64.getUrlDecoder().decode(continuation), StandardCharsets.UTF_8));
    int to = Math.min(changes.size(), from + PAGE);
    return Web.Answer.json(
        200,
        Map.of(
            "orders",
            changes.subList(Math.min(from, to), to).stream().map(orders::get).toList(),
            "continuation",
            Base64.getUrlEncoder()
                .encodeToString(Integer.toString(to).getBytes(StandardCharsets.UTF_8)),
            "last",
            to == changes.size()));
  }

  /** The key stands in the address: putting it again is the same. */
  private Web.Answer tell(String number, String what, String key, JsonNode body) {
    if (!orders.containsKey(number)) {
      return Web.Answer.json(404, Map.of("message", "no order " + number));
    }
    Map<String, Long> units = new LinkedHashMap<>();
    body.path("positions")
        .forEach(p -> units.put(p.path("no").asString(), p.path("quantity").asLong()));
    if (what.equals("cancellations")) {
      told.cancelled(new Told.Cancellation(key, number, units));
    } else if (what.equals("objections")) {
      told.objected(
          new Told.Objection(
              key, number, body.path("about").asString(""), body.path("reason").asString("")));
    } else if (what.equals("credits")) {
      told.refunded(new Told.Refund(key, number, body.path("amount").asString(""), units));
    } else {
      List<String> trackings = new ArrayList<>();
      body.path("colli").forEach(c -> trackings.add(c.asString()));
      Map<String, String> articles = new LinkedHashMap<>();
      body.path("articles")
          .properties()
          .forEach(a -> articles.put(a.getKey(), a.getValue().asString()));
      told.shipped(
          new Told.Shipment(
              key,
              number,
              body.path("haulier").asString(""),
              trackings,
              body.path("tracking").asString(""),
              units,
              articles));
    }
    kept.changed();
    return Web.Answer.json(200, Map.of());
  }

  /** Every third order is in francs. */
  private void history(Past past) {
    random = new Random(past.seed());
    Instant now = clock.now();
    List<Instant> moments = new ArrayList<>();
    for (int i = 0; i < past.orders(); i++) {
      moments.add(now.minusSeconds(random.nextLong(Duration.ofDays(past.days()).toSeconds())));
    }
    hooks.muted(() ->
        moments.stream()
            .sorted()
            .forEach(at -> {
              List<GuildOrder.Position> positions = new ArrayList<>();
              for (int i = 1; i <= 2 + random.nextInt(5); i++) {
                Product article = articles.get(random.nextInt(articles.size()));
                positions.add(position(10 * i, article, 2 + random.nextInt(5)));
              }
              String currency = orders.size() % 3 == 0 ? "CHF" : "EUR";
              place(order("G-" + (FIRST_NUMBER + orders.size()), currency, at, positions));
            }));
  }

  private GuildOrder order(
      String number, String currency, Instant at, List<GuildOrder.Position> positions) {
    BigDecimal net =
        positions.stream()
            .map(p ->
                new BigDecimal(p.netPrice())
                    .multiply(BigDecimal.valueOf(p.quantity()))
                    .multiply(
                        BigDecimal.valueOf(100)
                            .subtract(new BigDecimal(p.discountPercent()))
                            .movePointLeft(2))
                    .setScale(2, RoundingMode.HALF_UP))
            .reduce(BigDecimal.ZERO, BigDecimal::add);
    GuildOrder.Party party =
        currency.equals("CHF")
            ? new GuildOrder.Party(
                "Imkerverein Säntis", "Regula Hug", "kasse@saentis.example", "+41 71 555 01 20")
            : new GuildOrder.Party(
                "Imkerverein Ulm", "Jörg Lindner", "kasse@ulm.example", "+49 731 555 0140");
    GuildOrder.Place place =
        currency.equals("CHF")
            ? new GuildOrder.Place("Imkerverein Säntis", "Kirchgasse 3", "9050", "Appenzell", "CH")
            : new GuildOrder.Place("Imkerverein Ulm", "Donauweg 18", "89073", "Ulm", "DE");
    LocalDate placed = LocalDate.ofInstant(at, ZoneOffset.UTC);
    return new GuildOrder(
        number,
        0,
        placed.toString(),
        at.toString(),
        "confirmed",
        party,
        place,
        place,
        currency,
        30,
        placed.plusDays(12).toString(),
        "Delivery to the door",
        positions,
        net.compareTo(new BigDecimal("500")) > 0 ? "2" : "0",
        "35.00",
        "");
  }

  private GuildOrder.Position position(int no, Product article, long quantity) {
    return new GuildOrder.Position(
        Integer.toString(no),
        article.sku(),
        article.gtin(),
        article.title(),
        quantity,
        0,
        net(article),
        quantity > 3 ? "5" : "0",
        "0.00");
  }

  /** Two thirds of the shop's price, without tax. */
  private static String net(Product article) {
    return new BigDecimal(article.price())
        .multiply(new BigDecimal("0.66"))
        .setScale(2, RoundingMode.HALF_UP)
        .toPlainString();
  }

  private Web.Answer page() {
    StringBuilder rows = new StringBuilder("<table><tr><th>Order<th>Status<th>Party<th>Told</tr>");
    orders().reversed().stream()
        .limit(100)
        .forEach(o ->
            rows.append(
                "<tr><td>%s<td>%s<td>%s<td>%s</tr>"
                    .formatted(
                        o.number(),
                        o.status(),
                        Web.escape(o.party().company()),
                        Web.escape(told.shipmentsOf(o.number()).toString()))));
    return Web.Answer.html("Apiary Guild", rows + "</table>");
  }

  private synchronized Object state() {
    return new State(List.copyOf(orders.values()), List.copyOf(changes), told.state());
  }
}
