package dev.ordinator.channels;

import dev.ordinator.channels.ChannelHttp.Call;
import dev.ordinator.channels.Connector.ChannelError;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.http.HttpMethod;
import org.springframework.stereotype.Component;
import org.springframework.util.LinkedMultiValueMap;
import tools.jackson.databind.JsonNode;

/** Access tokens by the client credentials grant (RFC 6749, section 4.4), one per connection. */
@Component
class OAuthTokens {
  private static final Duration MARGIN = Duration.ofSeconds(10);

  private final ChannelHttp http;
  private final Clock clock;
  private final Map<Long, Token> tokens = new ConcurrentHashMap<>();

  OAuthTokens(ChannelHttp http, Clock clock) {
    this.http = http;
    this.clock = clock;
  }

  /**
   * @param shown what it was given for, at {@code to}: what is shown now may not be let in
   */
  private record Token(String value, Instant until, Channel.Credentials shown, URI to) {
    boolean isFor(Channel channel) {
      return shown.equals(channel.credentials()) && to.equals(channel.baseUrl());
    }

    @Override
    public String toString() {
      return "Token until " + until;
    }
  }

  /** A token that lives a while yet. */
  String token(Channel channel, String path) {
    Token known = tokens.get(channel.id());
    if (known != null && known.isFor(channel) && known.until().isAfter(clock.instant())) {
      return known.value();
    }
    Token fresh = ask(channel, path);
    tokens.put(channel.id(), fresh);
    return fresh.value();
  }

  /** The channel no longer takes the token, whatever it said of its life. */
  void forget(Channel channel) {
    tokens.remove(channel.id());
  }

  private Token ask(Channel channel, String path) {
    LinkedMultiValueMap<String, String> form = new LinkedMultiValueMap<>();
    form.add("grant_type", "client_credentials");
    JsonNode answer =
        http.callForSecret(
            channel,
            new Call(
                "token",
                HttpMethod.POST,
                path,
                Map.of("Authorization", channel.credentials().basic()),
                form));
    String value = answer.path("access_token").asString("");
    if (value.isEmpty()) {
      throw ChannelError.passing(channel.name() + " gave no access token");
    }
    Duration life = Duration.ofSeconds(answer.path("expires_in").asLong(60));
    Duration margin = life.compareTo(MARGIN.multipliedBy(2)) > 0 ? MARGIN : Duration.ZERO;
    return new Token(
        value, clock.instant().plus(life).minus(margin), channel.credentials(), channel.baseUrl());
  }
}
