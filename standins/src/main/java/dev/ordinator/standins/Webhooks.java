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
import java.util.Base64;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** Sends signed webhooks after the Standard Webhooks specification, with faults on demand. */
public final class Webhooks implements AutoCloseable {
  private static final int TRIES = 5;
  private static final int AT_ONCE = 16;

  private final HttpClient http =
      HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(2)).build();
  private final ExecutorService senders = Executors.newVirtualThreadPerTaskExecutor();
  private final Semaphore slots = new Semaphore(AT_ONCE);
  private final Random random = new Random(20261124);
  private volatile String address = "";
  private volatile int twicePercent;
  private volatile int shuffledPercent;
  private volatile int failingPercent;

  /**
   * @param url empty: nobody listens
   */
  public void sendTo(String url) {
    address = url;
  }

  /** How many percent are sent twice, held back behind later ones, or garbled the first time. */
  public void faults(int twice, int shuffled, int failing) {
    twicePercent = twice;
    shuffledPercent = shuffled;
    failingPercent = failing;
  }

  /** Does something that nobody is told of. */
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
  public void send(String body) {
    if (address.isEmpty()) {
      return;
    }
    int dice;
    int delay;
    boolean failing;
    synchronized (random) {
      dice = random.nextInt(100);
      delay = random.nextInt(100) < shuffledPercent ? 100 + random.nextInt(1_500) : 0;
      failing = random.nextInt(100) < failingPercent;
    }
    String id = "msg_" + UUID.randomUUID();
    senders.submit(() -> deliver(id, body, delay, failing));
    if (dice < twicePercent) {
      // half of the repeats are the same message, half the same order in another one
      String again = dice % 2 == 0 ? id : "msg_" + UUID.randomUUID();
      senders.submit(() -> deliver(again, body, delay / 2, false));
    }
  }

  private void deliver(String id, String body, int delay, boolean failFirst) {
    try {
      Thread.sleep(delay);
      slots.acquire();
      try {
        if (failFirst) {
          post(id, body.substring(0, body.length() / 2), body);
        }
        for (int attempt = 1; attempt <= TRIES && post(id, body, body) >= 300; attempt++) {
          Thread.sleep(200L * attempt);
        }
      } finally {
        slots.release();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /**
   * @return the status; 599 if there was no answer
   */
  private int post(String id, String sent, String signed) throws InterruptedException {
    String timestamp = Long.toString(Instant.now().getEpochSecond());
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(address))
            .timeout(Duration.ofSeconds(20))
            .header("Content-Type", "application/json")
            .header("webhook-id", id)
            .header("webhook-timestamp", timestamp)
            .header("webhook-signature", "v1," + signature(id + "." + timestamp + "." + signed))
            .POST(HttpRequest.BodyPublishers.ofString(sent))
            .build();
    try {
      return http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
    } catch (IOException nobodyThere) {
      return 599;
    }
  }

  private static String signature(String content) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(
          new SecretKeySpec(Shop.WEBHOOK_SECRET.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
      return Base64.getEncoder()
          .encodeToString(mac.doFinal(content.getBytes(StandardCharsets.UTF_8)));
    } catch (GeneralSecurityException e) {
      throw new AssertionError("every JDK has HmacSHA256", e);
    }
  }

  @Override
  public void close() {
    senders.shutdownNow();
  }
}
