package dev.ordinator.channels;

import static dev.ordinator.channels.ChannelHttp.Call.encode;

import dev.ordinator.channels.ChannelHttp.Call;
import dev.ordinator.platform.Hmac;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * The wholesale portal's API: a name and a key prove who asks, and what it sends by itself is
 * signed with HMAC-SHA256 over its time and body.
 */
@Component
class WholesalePortal
    implements Connector,
        Connector.OrderSource,
        Connector.ListingSource,
        Connector.QuantitySink,
        Connector.ShipmentSink,
        Connector.CancellationSink,
        Connector.ObjectionSink,
        Connector.RefundSink,
        Connector.WebhookSource {
  private static final Profile PROFILE =
      new Profile(
          List.of(),
          Map.of("confirmed", "ordered", PortalReader.CANCELLED, "cancelled"),
          List.of(),
          true,
          true,
          false);

  private final ChannelHttp http;
  private final Freshness freshness;

  WholesalePortal(ChannelHttp http, Freshness freshness) {
    this.http = http;
    this.freshness = freshness;
  }

  /**
   * @param articles what was delivered instead, by the position's number
   */
  private record Delivery(
      String haulier,
      List<String> colli,
      String tracking,
      List<Position> positions,
      Map<String, String> articles) {}

  private record Cancellation(String reason, List<Position> positions) {}

  private record Objection(String about, String reason) {}

  private record Credit(String reason, String amount, List<Position> positions) {}

  private record Position(String no, long quantity) {}

  private record Availability(List<Level> articles) {}

  private record Level(String article, long quantity) {}

  @Override
  public ChannelKind kind() {
    return ChannelKind.WHOLESALE;
  }

  @Override
  public Profile profile() {
    return PROFILE;
  }

  @Override
  public IncomingOrder read(Channel channel, String message) {
    return PortalReader.read(message);
  }

  @Override
  public String externalId(String message) {
    return Messages.textOf(message, "number");
  }

  @Override
  public OrderPage orders(Channel channel, String cursor) {
    JsonNode page =
        call(channel, "orders", HttpMethod.GET, "/orders?continuation=" + encode(cursor), null);
    return new OrderPage(
        JsonLists.texts(channel, page, "orders"),
        page.path("continuation").asString(cursor),
        !page.path("last").asBoolean(true));
  }

  @Override
  public List<ListingData> listings(Channel channel) {
    JsonNode page = call(channel, "listings", HttpMethod.GET, "/articles", null);
    return JsonLists.of(channel, page, "articles").stream()
        .map(a ->
            new ListingData(
                a.path("article").asString(""),
                a.path("article").asString(""),
                a.path("ean").asString(""),
                a.path("description").asString(""),
                "",
                JsonLists.price(
                    a.path("netPrice").asString(""),
                    a.path("currency").asString(channel.currency()))))
        .toList();
  }

  @Override
  public int largestBatch() {
    return 200;
  }

  @Override
  public void pushQuantities(Channel channel, List<ListedQuantity> quantities) {
    call(
        channel,
        "stock",
        HttpMethod.PUT,
        "/availability",
        new Availability(
            quantities.stream().map(q -> new Level(q.externalId(), q.quantity())).toList()));
  }

  @Override
  public void pushShipment(Channel channel, ShipmentNotice notice) {
    call(
        channel,
        "shipment",
        HttpMethod.PUT,
        path(notice.externalOrderId(), "deliveries", notice.onceKey()),
        new Delivery(
            notice.carrier(),
            notice.trackings(),
            notice.trackingUrl(),
            positions(notice.lines()),
            notice.instead()));
  }

  @Override
  public void pushCancellation(Channel channel, CancellationNotice notice) {
    call(
        channel,
        "cancellation",
        HttpMethod.PUT,
        path(notice.externalOrderId(), "cancellations", notice.onceKey()),
        new Cancellation(notice.reason(), positions(notice.lines())));
  }

  @Override
  public void pushObjection(Channel channel, ObjectionNotice notice) {
    call(
        channel,
        "objection",
        HttpMethod.PUT,
        path(notice.externalOrderId(), "objections", notice.onceKey()),
        new Objection(notice.aboutWord(), notice.reason()));
  }

  @Override
  public void pushRefund(Channel channel, RefundNotice notice) {
    call(
        channel,
        "refund",
        HttpMethod.PUT,
        path(notice.externalOrderId(), "credits", notice.onceKey()),
        new Credit(
            notice.reason(),
            notice.amount().toDecimal().toPlainString(),
            positions(notice.lines())));
  }

  /** Its messages bear no id: the signature, which no other message has, serves as one. */
  @Override
  public Optional<String> verify(Channel channel, WebhookMessage message) {
    String at = message.header("x-guild-time");
    byte[] signed =
        Hmac.sha256(
            channel.credentials().webhookSecret().getBytes(StandardCharsets.UTF_8),
            (at + ".").getBytes(StandardCharsets.UTF_8),
            message.body());
    String given = message.header("x-guild-signature");
    boolean genuine =
        freshness.isFresh(at)
            && MessageDigest.isEqual(
                HexFormat.of().formatHex(signed).getBytes(StandardCharsets.US_ASCII),
                given.getBytes(StandardCharsets.US_ASCII));
    return genuine ? Optional.of(given) : Optional.empty();
  }

  private JsonNode call(
      Channel channel, String purpose, HttpMethod method, String path, @Nullable Object body) {
    return http.call(
        channel,
        new Call(
            purpose, method, path, Map.of("Authorization", channel.credentials().basic()), body));
  }

  /** The key stands in the address: telling it again is putting the same there. */
  private static String path(String order, String what, String onceKey) {
    return "/orders/%s/%s/%s".formatted(encode(order), what, encode(onceKey));
  }

  private static List<Position> positions(Map<String, Long> lines) {
    return lines.entrySet().stream().map(l -> new Position(l.getKey(), l.getValue())).toList();
  }
}
