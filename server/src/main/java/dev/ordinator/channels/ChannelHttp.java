package dev.ordinator.channels;

import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.platform.OutgoingAddresses;
import dev.ordinator.platform.Texts;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.client.JdkClientHttpRequestFactory;
import org.springframework.stereotype.Component;
import org.springframework.util.MultiValueMap;
import org.springframework.web.client.RestClient;
import org.springframework.web.client.RestClientException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks to channels, and keeps a log of what was said. */
@Component
class ChannelHttp {
  private static final Duration CONNECT = Duration.ofSeconds(3);
  private static final Duration READ = Duration.ofSeconds(10);
  private static final Duration LONGEST_BREAK = Duration.ofHours(1);
  private static final int LARGEST = 32 * 1024 * 1024;

  private final RestClient http;
  private final JsonMapper json;
  private final ExchangeLog log;
  private final OutgoingAddresses addresses;

  ChannelHttp(JsonMapper json, ExchangeLog log, OutgoingAddresses addresses) {
    this.json = json;
    this.addresses = addresses;
    this.log = log;
    JdkClientHttpRequestFactory requests =
        new JdkClientHttpRequestFactory(
            HttpClient.newBuilder()
                .connectTimeout(CONNECT)
                .followRedirects(HttpClient.Redirect.NEVER)
                .build());
    requests.setReadTimeout(READ);
    this.http = RestClient.builder().requestFactory(requests).build();
  }

  /**
   * A request.
   *
   * @param purpose for the log, in a word or two
   * @param path with its query, to be put behind the channel's address
   * @param headers among them what proves who we are; they are not logged
   * @param body sent as JSON, or as a form if it is a {@link MultiValueMap}; null: none
   */
  record Call(
      String purpose,
      HttpMethod method,
      String path,
      Map<String, String> headers,
      @Nullable Object body) {

    static Call get(String purpose, String path, Map<String, String> headers) {
      return new Call(purpose, HttpMethod.GET, path, headers, null);
    }

    /** A way to write one value into an address. */
    static String encode(String value) {
      return URLEncoder.encode(value, StandardCharsets.UTF_8).replace("+", "%20");
    }
  }

  private record Heard(HttpStatusCode status, String retryAfter, String body) {}

  /**
   * @return the answer's JSON; a missing node if there was none
   * @throws ChannelError if the answer is not a success, or not JSON
   */
  JsonNode call(Channel channel, Call call) {
    return call(channel, call, heard -> heard);
  }

  /** As {@link #call}, for an answer that holds a secret: of a success only that is logged. */
  JsonNode callForSecret(Channel channel, Call call) {
    return call(channel, call, heard -> "(not kept: it holds a secret)");
  }

  private JsonNode call(Channel channel, Call call, UnaryOperator<String> logged) {
    String sent =
        call.body() == null || call.body() instanceof MultiValueMap
            ? ""
            : json.writeValueAsString(call.body());
    long begun = System.nanoTime();
    Heard heard;
    try {
      addresses.require(channel.baseUrl());
      heard = exchange(channel, call, sent);
    } catch (OutgoingAddresses.Forbidden e) {
      log.note(channel, call, sent, null, Texts.of(e), begun);
      throw ChannelError.refused(channel.name() + " is not spoken to: " + Texts.of(e));
    } catch (RestClientException e) {
      log.note(channel, call, sent, null, Texts.of(e), begun);
      throw ChannelError.passing(channel.name() + " did not answer: " + Texts.of(e));
    }
    boolean failed = heard.status().isError();
    log.note(
        channel,
        call,
        sent,
        heard.status().value(),
        failed ? heard.body() : logged.apply(heard.body()),
        begun);
    if (failed) {
      throw error(channel, heard);
    }
    try {
      return heard.body().isEmpty() ? json.missingNode() : json.readTree(heard.body());
    } catch (JacksonException e) {
      throw ChannelError.passing(channel.name() + " answered with something that is not JSON");
    }
  }

  private Heard exchange(Channel channel, Call call, String sent) {
    RestClient.RequestBodySpec request =
        http.method(call.method()).uri(URI.create(channel.baseUrl() + call.path()));
    call.headers().forEach(request::header);
    if (call.body() instanceof MultiValueMap<?, ?> form) {
      request.contentType(MediaType.APPLICATION_FORM_URLENCODED).body(form);
    } else if (call.body() != null) {
      request.contentType(MediaType.APPLICATION_JSON).body(sent);
    }
    return request.exchange((asked, answer) -> {
      byte[] body = answer.getBody().readNBytes(LARGEST);
      String retryAfter = answer.getHeaders().getFirst("Retry-After");
      return new Heard(
          answer.getStatusCode(),
          retryAfter == null ? "" : retryAfter,
          new String(body, StandardCharsets.UTF_8));
    });
  }

  private static ChannelError error(Channel channel, Heard heard) {
    int status = heard.status().value();
    String said =
        "%s answered %d: %s"
            .formatted(
                channel.name(), status, Texts.cut(heard.body().replaceAll("\\s+", " "), 200));
    if (status == 429 || status == 503) {
      return heard.retryAfter().matches("\\d{1,6}")
          ? ChannelError.busy(said, pause(Long.parseLong(heard.retryAfter())))
          : ChannelError.passing(said);
    }
    if (status == 401 || status == 403) {
      return ChannelError.notLetIn(said);
    }
    boolean understood = heard.status().is4xxClientError() && status != 408;
    return understood ? ChannelError.refused(said) : ChannelError.passing(said);
  }

  private static Duration pause(long seconds) {
    Duration asked = Duration.ofSeconds(Math.max(1, seconds));
    return asked.compareTo(LONGEST_BREAK) > 0 ? LONGEST_BREAK : asked;
  }
}
