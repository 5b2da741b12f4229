package dev.ordinator.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** The demo web shop: catalogue, orders, an API with a key, webhooks, and pages to look at. */
public final class Shop implements AutoCloseable {
  public static final String API_KEY = "demo-shop-key";
  public static final String WEBHOOK_SECRET = "demo-webhook-secret";
  private static final int FIRST_ID = 20_001;

  private final List<Product> catalogue = Product.catalogue();
  private final Map<String, ShopOrder> orders = new LinkedHashMap<>();
  private final List<String> changes = new ArrayList<>();
  private final Told told = new Told();
  private final Made made = new Made("P-NEW-");
  private final Faults faults = new Faults();
  private final Webhooks webhooks = new Webhooks();
  private final ShopPages pages = new ShopPages(this);
  private final OrderGenerator generator;
  private final Kept kept;
  private final Web web;
  private final WorldClock clock;

  private record State(
      List<ShopOrder> orders,
      List<String> changes,
      Told.State told,
      @Nullable List<Made.Offer> made) {}

  Shop(int port, @Nullable Path data, WorldClock clock) throws IOException {
    this.clock = clock;
    kept = new Kept(data, "shop.json", this::state);
    State before = kept.read(State.class);
    if (before != null) {
      before.orders().forEach(o -> orders.put(o.id(), o));
      changes.addAll(before.changes());
      told.load(before.told());
      made.load(before.made());
    }
    generator = new OrderGenerator(catalogue, this, clock);
    web = new Web(port, this::handle);
  }

  public int port() {
    return web.port();
  }

  public String url() {
    return "http://127.0.0.1:" + port();
  }

  public Faults faults() {
    return faults;
  }

  public Webhooks webhooks() {
    return webhooks;
  }

  public OrderGenerator generator() {
    return generator;
  }

  /** Takes an order, whatever it says, and tells who listens. */
  public synchronized void place(ShopOrder order) {
    orders.put(order.id(), order);
    changes.add(order.id());
    kept.changed();
    webhooks.send(Web.JSON.writeValueAsString(order));
  }

  /** A buyer or the shop changes an order. */
  public synchronized void change(String id, UnaryOperator<ShopOrder> how) {
    ShopOrder order = orders.get(id);
    if (order != null) {
      place(how.apply(order));
    }
  }

  /** The buyer's payment comes in. */
  public synchronized void pay(String id) {
    change(id, order -> order.payment().state().equals("paid") ? order : order.paid());
  }

  public synchronized String nextId() {
    return "S" + (FIRST_ID + orders.size());
  }

  public synchronized List<ShopOrder> orders() {
    return List.copyOf(orders.values());
  }

  public Made made() {
    return made;
  }

  public Told told() {
    return told;
  }

  List<Product> catalogue() {
    return catalogue;
  }

  @Override
  public void close() {
    generator.close();
    webhooks.close();
    web.close();
    kept.close();
  }

  private Web.Answer handle(Web.Request request) throws IOException, InterruptedException {
    if (request.path().startsWith("/api/")) {
      if (!request.header("X-Api-Key").equals(API_KEY)) {
        return Web.Answer.json(401, Map.of("error", "wrong key"));
      }
      return faults.apply(this::api, request);
    }
    if (request.is("POST", "/clock")) {
      setClock(request.json().path("now").asString(""));
      return Web.Answer.json(200, Map.of("now", clock.now().toString()));
    }
    return pages.handle(request);
  }

  /**
   * @param now empty: the real time
   */
  private void setClock(String now) {
    if (now.isEmpty()) {
      clock.goOn();
    } else {
      clock.standAt(Instant.parse(now));
    }
  }

  private synchronized Web.Answer api(Web.Request request) {
    if (request.is("GET", "/api/products")) {
      return Web.Answer.json(
          200,
          Map.of(
              "products",
              Stream.concat(catalogue.stream(), made.offers().stream().map(Shop::product))
                  .toList()));
    }
    if (request.is("PUT", "/api/products/by-sku/[^/]+")) {
      Made.Offer offer = made.put(request.part(3), request.json());
      kept.changed();
      return Web.Answer.json(200, Map.of("id", offer.ref()));
    }
    if (request.is("GET", "/api/orders")) {
      return changedOrders(request.query("after"), request.query("limit"));
    }
    if (request.is("POST", "/api/orders/[^/]+/shipments")) {
      return tell(request, this::ship);
    }
    if (request.is("POST", "/api/orders/[^/]+/cancellations")) {
      return tell(request, this::cancel);
    }
    if (request.is("POST", "/api/orders/[^/]+/objections")) {
      return tell(request, this::object);
    }
    if (request.is("POST", "/api/orders/[^/]+/refunds")) {
      return tell(request, this::refund);
    }
    if (request.is("PUT", "/api/stock")) {
      Map<String, Long> levels = new LinkedHashMap<>();
      request
          .json()
          .path("levels")
          .forEach(l -> levels.put(l.path("productId").asString(), l.path("quantity").asLong()));
      told.stocked(levels);
      kept.changed();
      return Web.Answer.json(200, Map.of("ok", true));
    }
    return Web.Answer.notFound();
  }

  private static Map<String, Object> product(Made.Offer o) {
    return Map.of(
        "id", o.ref(),
        "sku", o.sku(),
        "gtin", o.gtin(),
        "title", o.title(),
        "family", o.group(),
        "pictures", o.pictures(),
        "draft", o.draft(),
        "price", o.price());
  }

  private Web.Answer changedOrders(String after, String limit) {
    int from = after.isEmpty() ? 0 : Integer.parseInt(after);
    int to = Math.min(changes.size(), from + (limit.isEmpty() ? 100 : Integer.parseInt(limit)));
    List<ShopOrder> page =
        changes.subList(Math.min(from, to), to).stream().distinct().map(orders::get).toList();
    return Web.Answer.json(
        200, Map.of("orders", page, "next", Integer.toString(to), "more", to < changes.size()));
  }

  private Web.Answer tell(Web.Request request, BiConsumer<String, Web.Request> note) {
    String orderId = request.part(2);
    if (!orders.containsKey(orderId)) {
      return Web.Answer.json(404, Map.of("error", "no order " + orderId));
    }
    note.accept(orderId, request);
    kept.changed();
    return Web.Answer.json(200, Map.of("ok", true));
  }

  private void ship(String orderId, Web.Request request) {
    JsonNode body = request.json();
    List<String> trackings = new ArrayList<>();
    body.path("trackingNumbers").forEach(t -> trackings.add(t.asString()));
    Map<String, String> replaced = new LinkedHashMap<>();
    body.path("replaced")
        .forEach(r -> replaced.put(r.path("lineId").asString(), r.path("sku").asString()));
    told.shipped(
        new Told.Shipment(
            request.header("Idempotency-Key"),
            orderId,
            body.path("carrier").asString(""),
            trackings,
            body.path("trackingUrl").asString(""),
            units(body),
            replaced));
  }

  private void cancel(String orderId, Web.Request request) {
    told.cancelled(
        new Told.Cancellation(request.header("Idempotency-Key"), orderId, units(request.json())));
  }

  private void object(String orderId, Web.Request request) {
    JsonNode body = request.json();
    told.objected(
        new Told.Objection(
            request.header("Idempotency-Key"),
            orderId,
            body.path("about").asString(""),
            body.path("reason").asString("")));
  }

  private void refund(String orderId, Web.Request request) {
    JsonNode body = request.json();
    told.refunded(
        new Told.Refund(
            request.header("Idempotency-Key"),
            orderId,
            body.path("amount").asString(""),
            units(body)));
  }

  private static Map<String, Long> units(JsonNode body) {
    Map<String, Long> units = new LinkedHashMap<>();
    body.path("lines")
        .forEach(l -> units.put(l.path("lineId").asString(), l.path("quantity").asLong()));
    return units;
  }

  private synchronized Object state() {
    return new State(
        List.copyOf(orders.values()), List.copyOf(changes), told.state(), made.offers());
  }

  static String now() {
    return Instant.now().toString();
  }
}
