package dev.ordinator.standins;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * The demo marketplace: country sites, orders that are paid later, prices that contain tax of which
 * it says nothing, a fixed list of carriers, a depot of its own. Spoken to with OAuth 2 client
 * credentials whose tokens expire; it allows only so many requests a second.
 */
public final class Market implements AutoCloseable {
  public static final String CLIENT_ID = "brackenholt";
  public static final String CLIENT_SECRET = "demo-market-secret";
  private static final int PER_SECOND = 40;
  private static final int FIRST_REF = 30_001;

  /** The only carriers whose parcels it follows. */
  public static final List<String> CARRIERS = List.of("Heron", "Dunlin International", "Oxbow");

  private final Map<String, MarketOrder> orders = new LinkedHashMap<>();
  private final List<Product> offers = MarketOrders.offers();
  private final Map<String, Instant> tokens = new ConcurrentHashMap<>();
  private final Told told = new Told();
  private final Made made = new Made("KO-NEW-");
  private final Faults faults = new Faults();
  private final Limiter limiter = new Limiter(PER_SECOND);
  private final MarketOrders generator;
  private final Kept kept;
  private final Web web;
  private volatile Duration tokenLife = Duration.ofMinutes(10);
  private int tokensGiven;
  private Instant lastUpdate = Instant.EPOCH;

  private record State(
      List<MarketOrder> orders, Told.State told, @Nullable List<Made.Offer> made) {}

  Market(int port, @Nullable Path data, WorldClock clock) throws IOException {
    kept = new Kept(data, "market.json", this::state);
    State before = kept.read(State.class);
    if (before != null) {
      before.orders().forEach(o -> orders.put(o.orderRef(), o));
      told.load(before.told());
      made.load(before.made());
    }
    generator = new MarketOrders(offers, this, clock);
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

  public Made made() {
    return made;
  }

  public MarketOrders generator() {
    return generator;
  }

  public synchronized List<MarketOrder> orders() {
    return List.copyOf(orders.values());
  }

  synchronized String nextRef(String site) {
    return "K-" + site + "-" + (FIRST_REF + orders.size());
  }

  /** Takes an order, new or changed. */
  public synchronized void place(MarketOrder order) {
    orders.put(order.orderRef(), order.at(tick(order)));
    kept.changed();
  }

  /** Tokens given from now on live so long, and those that are out end at once. */
  public void tokensLive(Duration life) {
    tokenLife = life;
    tokens.clear();
  }

  public synchronized int tokensGiven() {
    return tokensGiven;
  }

  @Override
  public void close() {
    web.close();
    kept.close();
  }

  /** No two changes at the same instant; a past that is made up keeps its own times. */
  private Instant tick(MarketOrder order) {
    Instant at = Instant.parse(order.updated());
    lastUpdate = at.isAfter(lastUpdate) ? at : lastUpdate.plusMillis(1);
    return lastUpdate;
  }

  private Web.Answer handle(Web.Request request) throws IOException, InterruptedException {
    if (request.is("POST", "/oauth/token")) {
      return token(request);
    }
    if (request.is("POST", "/history")) {
      generator.history(Past.of(request.json()));
      return Web.Answer.json(200, Map.of("orders", orders.size()));
    }
    if (request.is("GET", "/")) {
      return page();
    }
    if (!isAllowed(request)) {
      return Web.Answer.json(401, Map.of("error", "the token is unknown or has expired"));
    }
    if (!limiter.admits()) {
      return Web.Answer.tooMany(1);
    }
    return faults.apply(this::api, request);
  }

  private boolean isAllowed(Web.Request request) {
    String given = request.header("Authorization").replaceFirst("^Bearer ", "");
    return tokens.getOrDefault(given, Instant.EPOCH).isAfter(Instant.now());
  }

  private synchronized Web.Answer token(Web.Request request) {
    String expected =
        "Basic "
            + Base64.getEncoder()
                .encodeToString((CLIENT_ID + ":" + CLIENT_SECRET).getBytes(StandardCharsets.UTF_8));
    if (!request.header("Authorization").equals(expected)
        || !request.form().getOrDefault("grant_type", "").equals("client_credentials")) {
      return Web.Answer.json(401, Map.of("error", "invalid_client"));
    }
    String token = UUID.randomUUID().toString();
    tokens.put(token, Instant.now().plus(tokenLife));
    tokensGiven++;
    return Web.Answer.json(
        200,
        Map.of("access_token", token, "token_type", "Bearer", "expires_in", tokenLife.toSeconds()));
  }

  private synchronized Web.Answer api(Web.Request request) {
    if (request.is("GET", "/v1/orders")) {
      return changed(request);
    }
    if (request.is("GET", "/v1/offers")) {
      return Web.Answer.json(
          200,
          Map.of(
              "offers",
              Stream.concat(
                      offers.stream().map(Market::offer), made.offers().stream().map(Market::offer))
                  .toList()));
    }
    if (request.is("PUT", "/v1/offers/by-sku/[^/]+")) {
      Made.Offer offer = made.put(request.part(3), request.json());
      kept.changed();
      return Web.Answer.json(200, Map.of("offerRef", offer.ref()));
    }
    if (request.is("GET", "/v1/carriers")) {
      return Web.Answer.json(200, Map.of("carriers", CARRIERS));
    }
    if (request.is("PUT", "/v1/offers/stock")) {
      Map<String, Long> levels = new LinkedHashMap<>();
      request
          .json()
          .path("stock")
          .forEach(l -> levels.put(l.path("offerRef").asString(), l.path("count").asLong()));
      told.stocked(levels);
      kept.changed();
      return Web.Answer.json(200, Map.of("accepted", levels.size()));
    }
    if (request.is("POST", "/v1/orders/[^/]+/(dispatches|cancellations|objections|refunds)")) {
      return tell(request.part(2), request.part(3), request.json());
    }
    return Web.Answer.notFound();
  }

  /** Page by page, oldest change first; pages shift when something changes in between. */
  private Web.Answer changed(Web.Request request) {
    Instant since =
        request.query("updatedSince").isEmpty()
            ? Instant.EPOCH
            : Instant.parse(request.query("updatedSince"));
    int page = Math.max(1, number(request.query("page"), 1));
    int size = Math.min(100, number(request.query("size"), 50));
    List<MarketOrder> all =
        orders.values().stream()
            .filter(o -> !Instant.parse(o.updated()).isBefore(since))
            .sorted(Comparator.comparing(o -> Instant.parse(o.updated())))
            .toList();
    int from = Math.min(all.size(), (page - 1) * size);
    return Web.Answer.json(
        200,
        Map.of(
            "page",
            page,
            "pages",
            (all.size() + size - 1) / size,
            "orders",
            all.subList(from, Math.min(all.size(), from + size))));
  }

  private Web.Answer tell(String ref, String what, JsonNode body) {
    if (!orders.containsKey(ref)) {
      return Web.Answer.json(404, Map.of("error", "no order " + ref));
    }
    Map<String, Long> units = new LinkedHashMap<>();
    body.path("items")
        .forEach(i -> units.put(i.path("itemRef").asString(), i.path("count").asLong()));
    String key = body.path("requestId").asString("");
    if (what.equals("cancellations")) {
      told.cancelled(new Told.Cancellation(key, ref, units));
    } else if (what.equals("objections")) {
      told.objected(
          new Told.Objection(
              key, ref, body.path("about").asString(""), body.path("reason").asString("")));
    } else if (what.equals("refunds")) {
      told.refunded(new Told.Refund(key, ref, body.path("amount").asString(""), units));
    } else {
      String carrier = body.path("carrier").asString("");
      if (!CARRIERS.contains(carrier)) {
        return Web.Answer.json(
            422, Map.of("error", "carrier '" + carrier + "' is not on the list"));
      }
      List<String> parcels = new ArrayList<>();
      body.path("parcels").forEach(p -> parcels.add(p.asString()));
      Map<String, String> other = new LinkedHashMap<>();
      body.path("otherGoods")
          .forEach(g -> other.put(g.path("itemRef").asString(), g.path("sku").asString()));
      told.shipped(new Told.Shipment(key, ref, carrier, parcels, "", units, other));
    }
    kept.changed();
    return Web.Answer.json(200, Map.of("ok", true));
  }

  private Web.Answer page() {
    StringBuilder rows =
        new StringBuilder("<table><tr><th>Order<th>Site<th>State<th>Total<th>Told</tr>");
    orders().reversed().stream()
        .limit(100)
        .forEach(o ->
            rows.append(
                "<tr><td>%s<td>%s<td>%s<td>%s %s<td>%s</tr>"
                    .formatted(
                        o.orderRef(),
                        o.site(),
                        o.state(),
                        o.grandTotal(),
                        o.currency(),
                        Web.escape(told.shipmentsOf(o.orderRef()).toString()))));
    return Web.Answer.html("Kestrel Market", rows + "</table>");
  }

  private static Map<String, Object> offer(Product p) {
    return Map.of(
        "offerRef", p.id(),
        "merchantSku", p.sku(),
        "ean", p.gtin(),
        "name", p.title(),
        "price", Map.of("amount", p.price(), "currency", "EUR"),
        "pictures", List.of("https://pictures.kestrel.example/" + p.id() + ".jpg"),
        "sites", Set.of("NL", "DE", "FR"));
  }

  private static Map<String, Object> offer(Made.Offer o) {
    return Map.of(
        "offerRef", o.ref(),
        "merchantSku", o.sku(),
        "ean", o.gtin(),
        "name", o.title(),
        "group", o.group(),
        "pictures", o.pictures(),
        "draft", o.draft(),
        "price", Map.of("amount", o.price(), "currency", "EUR"));
  }

  private static int number(String text, int otherwise) {
    return text.isEmpty() ? otherwise : Integer.parseInt(text);
  }

  private synchronized Object state() {
    return new State(List.copyOf(orders.values()), told.state(), made.offers());
  }
}
