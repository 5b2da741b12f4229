package dev.ordinator.channels;

import dev.ordinator.platform.Texts;
import java.net.URI;
import java.net.http.HttpClient;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;
import org.springframework.web.client.RestClientResponseException;
import org.springframework.web.util.UriBuilder;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Our own storefront's API. */
@Component
class WebShop implements Connector {
  private static final int PAGE = 100;

  private final RestClient http;
  private final JsonMapper json;

  WebShop(JsonMapper json) {
    this.json = json;
    JdkClientHttpRequestFactory requests =
        new JdkClientHttpRequestFactory(
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(3)).build());
    requests.setReadTimeout(Duration.ofSeconds(10));
    this.http = RestClient.builder().requestFactory(requests).build();
  }

  private record Shipment(
      String carrier, List<String> trackingNumbers, String trackingUrl, List<Line> lines) {
    private record Line(String lineId, long quantity) {}
  }

  @Override
  public OrderPage orders(Channel channel, String cursor) {
    JsonNode page =
        get(
            channel,
            uri ->
                uri.path("/api/orders")
                    .queryParam("after", cursor)
                    .queryParam("limit", PAGE)
                    .build());
    JsonNode orders = page.path("orders");
    if (!orders.isArray()) {
      throw new ChannelError(channel.name() + " answered without a list of orders");
    }
    List<String> messages = new ArrayList<>();
    orders.forEach(order -> messages.add(json.writeValueAsString(order)));
    return new OrderPage(
        messages, page.path("next").asString(cursor), page.path("more").asBoolean(false));
  }

  @Override
  public List<ListingData> listings(Channel channel) {
    JsonNode page = get(channel, uri -> uri.path("/api/products").build());
    List<ListingData> listings = new ArrayList<>();
    page.path("products")
        .forEach(p ->
            listings.add(
                new ListingData(
                    p.path("id").asString(""),
                    p.path("sku").asString(""),
                    p.path("gtin").asString(""),
                    p.path("title").asString(""))));
    return listings;
  }

  @Override
  public void pushShipment(Channel channel, ShipmentNotice notice) {
    Shipment body =
        new Shipment(
            notice.carrier(),
            notice.trackings(),
            notice.trackingUrl() == null ? "" : notice.trackingUrl(),
            notice.lines().entrySet().stream()
                .map(l -> new Shipment.Line(l.getKey(), l.getValue()))
                .toList());
    asking(
        channel,
        () ->
            http.post()
                .uri(channel.baseUrl() + "/api/orders/{id}/shipments", notice.externalOrderId())
                .header("X-Api-Key", channel.apiKey())
                .header("Idempotency-Key", notice.onceKey())
                .body(body)
                .retrieve()
                .toBodilessEntity());
  }

  private JsonNode get(Channel channel, Function<UriBuilder, URI> path) {
    String body =
        asking(
            channel,
            () ->
                http.mutate()
                    .baseUrl(channel.baseUrl().toString())
                    .build()
                    .get()
                    .uri(path)
                    .header("X-Api-Key", channel.apiKey())
                    .retrieve()
                    .body(String.class));
    try {
      return json.readTree(body == null ? "" : body);
    } catch (JacksonException e) {
      throw new ChannelError(channel.name() + " answered with something that is not JSON");
    }
  }

  private static <T> T asking(Channel channel, Supplier<T> request) {
    try {
      return request.get();
    } catch (RestClientResponseException e) {
      throw new ChannelError(
          "%s answered %s: %s"
              .formatted(
                  channel.name(),
                  e.getStatusCode(),
                  Texts.cut(e.getResponseBodyAsString().replaceAll("\\s+", " "), 200)));
    } catch (RestClientException e) {
      throw new ChannelError(channel.name() + " did not answer: " + Texts.of(e));
    }
  }
}
