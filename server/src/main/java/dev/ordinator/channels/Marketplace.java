package dev.ordinator.channels;

import static dev.ordinator.channels.ChannelHttp.Call.encode;

import dev.ordinator.channels.ChannelHttp.Call;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * The marketplace's API, spoken to with OAuth 2 client credentials. It pages by number over a list
 * that moves while it is read: an order that changes goes to the end, and all behind it shift. So
 * pages are not counted through: each request begins at the time of the last change seen, and
 * repeats are told by their version.
 */
@Component
class Marketplace
    implements Connector,
        Connector.OrderSource,
        Connector.ListingSource,
        Connector.CarrierSource,
        Connector.ListingSink,
        Connector.QuantitySink,
        Connector.ShipmentSink,
        Connector.CancellationSink,
        Connector.ObjectionSink,
        Connector.RefundSink {
  private static final String TOKEN_PATH = "/oauth/token";
  private static final int PAGE = 50;
  private static final Profile PROFILE = profileOf();

  private final ChannelHttp http;
  private final OAuthTokens tokens;

  Marketplace(ChannelHttp http, OAuthTokens tokens) {
    this.http = http;
    this.tokens = tokens;
  }

  private record Dispatch(
      String requestId,
      String carrier,
      List<String> parcels,
      List<Item> items,
      List<OtherGoods> otherGoods) {}

  private record OtherGoods(String itemRef, String sku) {}

  private record Cancellation(String requestId, String reason, List<Item> items) {}

  private record Objection(String requestId, String about, String reason) {}

  private record Refund(String requestId, String reason, String amount, List<Item> items) {}

  private record Item(String itemRef, long count) {}

  private record Stock(List<Level> stock) {}

  private record Level(String offerRef, long count) {}

  private static Profile profileOf() {
    Map<String, String> states = new LinkedHashMap<>();
    states.put("basket", "in a basket, not paid yet");
    states.put("offer_accepted", "a price was agreed, payment follows");
    states.put("ready", "paid, to be sent");
    states.put("sent", "sent");
    states.put(MarketReader.VOID, "cancelled");
    return new Profile(
        List.of("NL", "DE", "FR", "UK"),
        states,
        List.of("offer_accepted", "ready", "sent"),
        true,
        false,
        true);
  }

  @Override
  public ChannelKind kind() {
    return ChannelKind.MARKETPLACE;
  }

  @Override
  public Profile profile() {
    return PROFILE;
  }

  @Override
  public IncomingOrder read(Channel channel, String message) {
    return MarketReader.read(message);
  }

  @Override
  public String externalId(String message) {
    return Messages.textOf(message, "orderRef");
  }

  /** The cursor is the time of the last change seen, and a page if all of one has that time. */
  @Override
  public OrderPage orders(Channel channel, String cursor) {
    String since = cursor.isEmpty() ? "" : cursor.split("#", 2)[0];
    int number = cursor.contains("#") ? Integer.parseInt(cursor.split("#", 2)[1]) : 1;
    JsonNode page =
        call(
            channel,
            "orders",
            HttpMethod.GET,
            "/v1/orders?updatedSince=%s&page=%d&size=%d".formatted(encode(since), number, PAGE),
            null);
    List<JsonNode> orders = JsonLists.of(channel, page, "orders");
    String last = orders.isEmpty() ? since : later(since, orders.getLast().path("updated"));
    boolean full = orders.size() == PAGE;
    String next = full && last.equals(since) ? since + "#" + (number + 1) : last;
    return new OrderPage(orders.stream().map(JsonNode::toString).toList(), next, full);
  }

  @Override
  public List<ListingData> listings(Channel channel) {
    JsonNode page = call(channel, "listings", HttpMethod.GET, "/v1/offers", null);
    return JsonLists.of(channel, page, "offers").stream()
        .map(o ->
            new ListingData(
                o.path("offerRef").asString(""),
                o.path("merchantSku").asString(""),
                o.path("ean").asString(""),
                o.path("name").asString(""),
                o.path("group").asString(""),
                JsonLists.price(
                    o.path("price").path("amount").asString(""),
                    o.path("price").path("currency").asString(channel.currency())),
                JsonLists.texts(o.path("pictures")),
                !o.path("draft").asBoolean(false)))
        .toList();
  }

  @Override
  public String pushListing(Channel channel, ListingDraft draft) {
    JsonNode made =
        call(
            channel,
            "listing",
            HttpMethod.PUT,
            "/v1/offers/by-sku/" + encode(draft.sku()),
            OfferBody.of(draft));
    return made.path("offerRef").asString("");
  }

  @Override
  public List<String> carriers(Channel channel) {
    JsonNode page = call(channel, "carriers", HttpMethod.GET, "/v1/carriers", null);
    return JsonLists.of(channel, page, "carriers").stream().map(c -> c.asString("")).toList();
  }

  @Override
  public int largestBatch() {
    return 100;
  }

  @Override
  public void pushQuantities(Channel channel, List<ListedQuantity> quantities) {
    call(
        channel,
        "stock",
        HttpMethod.PUT,
        "/v1/offers/stock",
        new Stock(quantities.stream().map(q -> new Level(q.externalId(), q.quantity())).toList()));
  }

  @Override
  public void pushShipment(Channel channel, ShipmentNotice notice) {
    call(
        channel,
        "shipment",
        HttpMethod.POST,
        "/v1/orders/" + encode(notice.externalOrderId()) + "/dispatches",
        new Dispatch(
            notice.onceKey(),
            notice.carrier(),
            notice.trackings(),
            items(notice.lines()),
            notice.instead().entrySet().stream()
                .map(l -> new OtherGoods(l.getKey(), l.getValue()))
                .toList()));
  }

  @Override
  public void pushCancellation(Channel channel, CancellationNotice notice) {
    call(
        channel,
        "cancellation",
        HttpMethod.POST,
        "/v1/orders/" + encode(notice.externalOrderId()) + "/cancellations",
        new Cancellation(notice.onceKey(), notice.reason(), items(notice.lines())));
  }

  @Override
  public void pushObjection(Channel channel, ObjectionNotice notice) {
    call(
        channel,
        "objection",
        HttpMethod.POST,
        "/v1/orders/" + encode(notice.externalOrderId()) + "/objections",
        new Objection(notice.onceKey(), notice.aboutWord(), notice.reason()));
  }

  @Override
  public void pushRefund(Channel channel, RefundNotice notice) {
    call(
        channel,
        "refund",
        HttpMethod.POST,
        "/v1/orders/" + encode(notice.externalOrderId()) + "/refunds",
        new Refund(
            notice.onceKey(),
            notice.reason(),
            notice.amount().toDecimal().toPlainString(),
            items(notice.lines())));
  }

  /** A token may end in the middle of anything: then another is asked for, once. */
  private JsonNode call(
      Channel channel, String purpose, HttpMethod method, String path, @Nullable Object body) {
    try {
      return http.call(channel, new Call(purpose, method, path, bearer(channel), body));
    } catch (ChannelError e) {
      if (!e.isNotLetIn()) {
        throw e;
      }
      tokens.forget(channel);
      return http.call(channel, new Call(purpose, method, path, bearer(channel), body));
    }
  }

  private Map<String, String> bearer(Channel channel) {
    return Map.of("Authorization", "Bearer " + tokens.token(channel, TOKEN_PATH));
  }

  /** The later of two times; what is no time never moves the cursor. */
  private static String later(String since, JsonNode updated) {
    try {
      Instant last = Instant.parse(updated.asString(""));
      return since.isEmpty() || last.isAfter(Instant.parse(since)) ? last.toString() : since;
    } catch (DateTimeException e) {
      return since;
    }
  }

  private static List<Item> items(Map<String, Long> lines) {
    return lines.entrySet().stream().map(l -> new Item(l.getKey(), l.getValue())).toList();
  }
}
