package dev.ordinator.standins;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** Sends what the portal tells by itself: a time, a dot and the body, signed with HMAC-SHA256. */
public final class GuildHooks implements AutoCloseable {
  private final HttpClient http =
      HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(2)).build();
  private final ExecutorService senders = Executors.newVirtualThreadPerTaskExecutor();
  private volatile String address = "";

  /**
   * @param url empty: nobody listens
   */
  public void sendTo(String url) {
    address = url;
  }

  void muted(Runnable work) {
    String to = address;
    address = "";
    try {
      work.run();
    } finally {
      address = to;
    }
  }

  /** Sends soon; returns at once. */
  void send(String body) {
    if (!address.isEmpty()) {
      senders.submit(() -> post(body));
    }
  }

  private void post(String body) {
    String at = Long.toString(Instant.now().getEpochSecond());
    try {
      http.send(
          HttpRequest.newBuilder(URI.create(address))
              .timeout(Duration.ofSeconds(20))
              .header("Content-Type", "application/json")
              .header("X-Guild-Time", at)
              .header("X-Guild-Signature", sign(at, body))
              .POST(HttpRequest.BodyPublishers.ofString(body))
              .build(),
          HttpResponse.BodyHandlers.discarding());
    } catch (IOException nobodyThere) {
      // the order can be fetched as well
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** In hex. */
  public static String sign(String at, String body) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(
          new SecretKeySpec(Guild.SIGNING_SECRET.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
      return HexFormat.of()
          .formatHex(mac.doFinal((at + "." + body).getBytes(StandardCharsets.UTF_8)));
    } catch (GeneralSecurityException e) {
      throw new AssertionError("every JDK has HmacSHA256", e);
    }
  }

  @Override
  public void close() {
    senders.shutdownNow();
  }
}
