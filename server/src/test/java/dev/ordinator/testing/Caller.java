package dev.ordinator.testing;

import dev.ordinator.testing.Visitor.Answer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;

/** A machine that calls the application with its token. */
public final class Caller {
  private final String address;
  private final String token;
  private final HttpClient http = HttpClient.newHttpClient();

  public Caller(String address, String token) {
    this.address = address;
    this.token = token;
  }

  public Answer get(String path) {
    return send(request(path).GET());
  }

  /**
   * @param key its Idempotency-Key
   */
  public Answer post(String path, String key, String body) {
    return send(request(path).header("Idempotency-Key", key).POST(BodyPublishers.ofString(body)));
  }

  public Answer change(String method, String path, String body) {
    return send(request(path).method(method, BodyPublishers.ofString(body)));
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(address + path))
        .header("Authorization", "Bearer " + token)
        .header("Content-Type", "application/json");
  }

  private Answer send(HttpRequest.Builder request) {
    try {
      return Visitor.answer(http.send(request.build(), BodyHandlers.ofString()));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }
}
