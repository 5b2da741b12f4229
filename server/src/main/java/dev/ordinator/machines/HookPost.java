package dev.ordinator.machines;

import dev.ordinator.platform.OutgoingAddresses;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.WebhookSignature;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Posts one message to one webhook, signed as Standard Webhooks says. */
@Component
class HookPost {
  static final String SECRET_PREFIX = "whsec_";
  private static final Duration CONNECT = Duration.ofSeconds(3);
  private static final Duration PATIENCE = Duration.ofSeconds(10);
  private static final int LONGEST_ANSWER = 1000;

  private final HttpClient http =
      HttpClient.newBuilder()
          .connectTimeout(CONNECT)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();
  private final OutgoingAddresses addresses;
  private final Clock clock;

  HookPost(OutgoingAddresses addresses, Clock clock) {
    this.addresses = addresses;
    this.clock = clock;
  }

  /**
   * @param status HTTP; null: no answer came
   */
  record Heard(@Nullable Integer status, String answer) {
    boolean isTaken() {
      return status != null && status / 100 == 2;
    }
  }

  Heard send(String address, String secret, String messageId, String body) {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    String timestamp = Long.toString(clock.instant().getEpochSecond());
    byte[] key = Base64.getDecoder().decode(secret.substring(SECRET_PREFIX.length()));
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(address))
            .timeout(PATIENCE)
            .header("Content-Type", "application/json")
            .header("webhook-id", messageId)
            .header("webhook-timestamp", timestamp)
            .header("webhook-signature", WebhookSignature.sign(key, messageId, timestamp, bytes))
            .POST(HttpRequest.BodyPublishers.ofByteArray(bytes))
            .build();
    try {
      addresses.require(request.uri());
      HttpResponse<InputStream> answer =
          http.send(request, HttpResponse.BodyHandlers.ofInputStream());
      try (InputStream said = answer.body()) {
        return new Heard(
            answer.statusCode(),
            new String(said.readNBytes(LONGEST_ANSWER), StandardCharsets.UTF_8));
      }
    } catch (OutgoingAddresses.Forbidden e) {
      return new Heard(null, Texts.of(e));
    } catch (IOException e) {
      return new Heard(null, Texts.cut("no answer: " + Texts.of(e), LONGEST_ANSWER));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return new Heard(null, "we were stopped while it was told");
    }
  }
}
