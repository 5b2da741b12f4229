package dev.ordinator.channels;

import static dev.ordinator.channels.ChannelHttp.Call.encode;

import dev.ordinator.channels.ChannelHttp.Call;
import dev.ordinator.platform.WebhookSignature;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Our own storefront's API: a key proves who asks, and what it sends by itself is signed after the
 * Standard Webhooks specification.
 */
@Component
class WebShop
    implements Connector,
        Connector.OrderSource,
        Connector.ListingSource,
        Connector.ListingSink,
        Connector.QuantitySink,
        Connector.ShipmentSink,
        Connector.CancellationSink,
        Connector.ObjectionSink,
        Connector.RefundSink,
        Connector.WebhookSource {
  private static final int PAGE = 100;
  private static final Profile PROFILE =
      new Profile(
          List.of(),
          Map.of("open", "placed", ShopReader.CANCELLED, "cancelled by the buyer"),
          List.of(),
          false,
          true,
          true);

  private final ChannelHttp http;
  private final Freshness freshness;

  WebShop(ChannelHttp http, Freshness freshness) {
    this.http = http;
    this.freshness = freshness;
  }

  private record Shipment(
      String carrier,
      List<String> trackingNumbers,
      String trackingUrl,
      List<Units> lines,
      List<Replaced> replaced) {}

  private record Replaced(String lineId, String sku) {}

  private record Cancellation(String reason, List<Units> lines) {}

  private record Objection(String about, String reason) {}

  private record Refund(String reason, String amount, List<Units> lines) {}

  private record Units(String lineId, long quantity) {}

  private record Stock(List<Level> levels) {}

  private record Level(String productId, long quantity) {}

  @Override
  public ChannelKind kind() {
    return ChannelKind.WEB_SHOP;
  }

  @Override
  public Profile profile() {
    return PROFILE;
  }

  @Override
  public IncomingOrder read(Channel channel, String message) {
    return ShopReader.read(channel, message);
  }

  @Override
  public String externalId(String message) {
    return Messages.textOf(message, "id");
  }

  @Override
  public OrderPage orders(Channel channel, String cursor) {
    JsonNode page =
        http.call(
            channel,
            Call.get(
                "orders",
                "/api/orders?after=%s&limit=%d".formatted(encode(cursor), PAGE),
                key(channel)));
    return new OrderPage(
        JsonLists.texts(channel, page, "orders"),
        page.path("next").asString(cursor),
        page.path("more").asBoolean(false));
  }

  @Override
  public List<ListingData> listings(Channel channel) {
    JsonNode page = http.call(channel, Call.get("listings", "/api/products", key(channel)));
    List<ListingData> listings = new ArrayList<>();
    JsonLists.of(channel, page, "products")
        .forEach(p ->
            listings.add(
                new ListingData(
                    p.path("id").asString(""),
                    p.path("sku").asString(""),
                    p.path("gtin").asString(""),
                    p.path("title").asString(""),
                    p.path("family").asString(""),
                    JsonLists.price(p.path("price").asString(""), channel.currency()),
                    JsonLists.texts(p.path("pictures")),
                    !p.path("draft").asBoolean(false))));
    return listings;
  }

  @Override
  public String pushListing(Channel channel, ListingDraft draft) {
    JsonNode made =
        http.call(
            channel,
            new Call(
                "listing",
                HttpMethod.PUT,
                "/api/products/by-sku/" + encode(draft.sku()),
                key(channel),
                OfferBody.of(draft)));
    return made.path("id").asString("");
  }

  @Override
  public int largestBatch() {
    return 500;
  }

  @Override
  public void pushQuantities(Channel channel, List<ListedQuantity> quantities) {
    put(
        channel,
        "stock",
        HttpMethod.PUT,
        "/api/stock",
        null,
        new Stock(quantities.stream().map(q -> new Level(q.externalId(), q.quantity())).toList()));
  }

  @Override
  public void pushShipment(Channel channel, ShipmentNotice notice) {
    put(
        channel,
        "shipment",
        HttpMethod.POST,
        "/api/orders/" + encode(notice.externalOrderId()) + "/shipments",
        notice.onceKey(),
        new Shipment(
            notice.carrier(),
            notice.trackings(),
            notice.trackingUrl(),
            units(notice.lines()),
            notice.instead().entrySet().stream()
                .map(l -> new Replaced(l.getKey(), l.getValue()))
                .toList()));
  }

  @Override
  public void pushCancellation(Channel channel, CancellationNotice notice) {
    put(
        channel,
        "cancellation",
        HttpMethod.POST,
        "/api/orders/" + encode(notice.externalOrderId()) + "/cancellations",
        notice.onceKey(),
        new Cancellation(notice.reason(), units(notice.lines())));
  }

  @Override
  public void pushObjection(Channel channel, ObjectionNotice notice) {
    put(
        channel,
        "objection",
        HttpMethod.POST,
        "/api/orders/" + encode(notice.externalOrderId()) + "/objections",
        notice.onceKey(),
        new Objection(notice.aboutWord(), notice.reason()));
  }

  @Override
  public void pushRefund(Channel channel, RefundNotice notice) {
    put(
        channel,
        "refund",
        HttpMethod.POST,
        "/api/orders/" + encode(notice.externalOrderId()) + "/refunds",
        notice.onceKey(),
        new Refund(
            notice.reason(), notice.amount().toDecimal().toPlainString(), units(notice.lines())));
  }

  @Override
  public Optional<String> verify(Channel channel, WebhookMessage message) {
    String id = message.header("webhook-id");
    String at = message.header("webhook-timestamp");
    boolean genuine =
        freshness.isFresh(at)
            && WebhookSignature.isRight(
                channel.credentials().webhookSecret(),
                id,
                at,
                message.body(),
                message.header("webhook-signature"));
    return genuine && !id.isEmpty() ? Optional.of(id + "." + at) : Optional.empty();
  }

  private void put(
      Channel channel,
      String purpose,
      HttpMethod method,
      String path,
      @Nullable String onceKey,
      Object body) {
    Map<String, String> headers = new HashMap<>(key(channel));
    if (onceKey != null) {
      headers.put("Idempotency-Key", onceKey);
    }
    http.call(channel, new Call(purpose, method, path, headers, body));
  }

  private static Map<String, String> key(Channel channel) {
    return Map.of("X-Api-Key", channel.credentials().secret());
  }

  private static List<Units> units(Map<String, Long> lines) {
    return lines.entrySet().stream().map(l -> new Units(l.getKey(), l.getValue())).toList();
  }
}
