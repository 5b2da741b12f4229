package dev.ordinator.testing;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;

/** Somebody's webhook: hears what is posted to it, and answers as told. */
public final class Ear implements AutoCloseable {
  private final HttpServer server;
  private final List<Heard> heard = new CopyOnWriteArrayList<>();
  private final AtomicInteger failures = new AtomicInteger();
  private volatile int failure = 500;

  public record Heard(String id, String timestamp, String signature, String body) {}

  public Ear() throws IOException {
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    server.createContext("/", this::hear);
    server.start();
  }

  public String address() {
    return "http://127.0.0.1:" + server.getAddress().getPort() + "/heard";
  }

  public List<Heard> heard() {
    return List.copyOf(heard);
  }

  /** Answers the next so many with a status; what it hears meanwhile counts as heard. */
  public void fail(int times, int status) {
    failure = status;
    failures.set(times);
  }

  private void hear(HttpExchange exchange) throws IOException {
    try (exchange) {
      var headers = exchange.getRequestHeaders();
      heard.add(
          new Heard(
              headers.getFirst("webhook-id"),
              headers.getFirst("webhook-timestamp"),
              headers.getFirst("webhook-signature"),
              new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8)));
      boolean fails = failures.getAndUpdate(n -> Math.max(0, n - 1)) > 0;
      exchange.sendResponseHeaders(fails ? failure : 204, -1);
    }
  }

  @Override
  public void close() {
    server.stop(0);
  }
}
