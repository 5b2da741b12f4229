package dev.ordinator.standins;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Executors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A small web server on loopback: one handler for everything, answers as values. */
final class Web implements AutoCloseable {
  static final JsonMapper JSON = JsonMapper.builder().build();

  /** Decides about one request. */
  interface Handler {
    Answer handle(Request request) throws IOException, InterruptedException;
  }

  record Answer(int status, String type, byte[] body, Map<String, String> headers) {
    static Answer json(int status, Object body) {
      return new Answer(status, "application/json", JSON.writeValueAsBytes(body), Map.of());
    }

    static Answer html(String title, String body) {
      return text(
          200,
          "text/html;charset=utf-8",
          """
          <!doctype html><html lang="en"><meta charset="utf-8"><title>%1$s</title>
          <style>body{font:15px/1.5 system-ui,sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;
          color:#22302e;background:#fbfaf6}table{border-collapse:collapse;width:100%%}
          td,th{text-align:left;padding:.3rem .6rem;border-bottom:1px solid #ddd6c8}
          input,select,button{font:inherit;padding:.25rem .5rem}nav a{margin-right:1rem}</style>
          <h1>%1$s</h1>%2$s</html>
          """
              .formatted(title, body));
    }

    static Answer text(int status, String type, String body) {
      return new Answer(status, type, body.getBytes(StandardCharsets.UTF_8), Map.of());
    }

    static Answer seeOther(String where) {
      return new Answer(303, "text/plain", new byte[0], Map.of("Location", where));
    }

    static Answer tooMany(int retryAfterSeconds) {
      return new Answer(
          429,
          "application/json",
          JSON.writeValueAsBytes(Map.of("error", "too many requests")),
          Map.of("Retry-After", Integer.toString(retryAfterSeconds)));
    }

    static Answer notFound() {
      return json(404, Map.of("error", "there is no such thing"));
    }
  }

  /** A request, read whole. */
  record Request(HttpExchange exchange, String method, String path, byte[] body) {
    JsonNode json() {
      return JSON.readTree(body);
    }

    String header(String name) {
      String value = exchange.getRequestHeaders().getFirst(name);
      return value == null ? "" : value;
    }

    String query(String name) {
      String query = exchange.getRequestURI().getRawQuery();
      return pairs(query == null ? "" : query).getOrDefault(name, "");
    }

    Map<String, String> form() {
      return pairs(new String(body, StandardCharsets.UTF_8));
    }

    boolean is(String wantedMethod, String pattern) {
      return method.equals(wantedMethod) && path.matches(pattern);
    }

    /** The path's part at a place, counted from 0. */
    String part(int place) {
      return URLDecoder.decode(path.split("/", -1)[place + 1], StandardCharsets.UTF_8);
    }

    private static Map<String, String> pairs(String text) {
      Map<String, String> pairs = new LinkedHashMap<>();
      for (String pair : text.split("&", -1)) {
        int equals = pair.indexOf('=');
        if (equals > 0) {
          pairs.put(decode(pair.substring(0, equals)), decode(pair.substring(equals + 1)));
        }
      }
      return pairs;
    }

    private static String decode(String text) {
      return URLDecoder.decode(text, StandardCharsets.UTF_8);
    }
  }

  private final HttpServer server;

  Web(int port, Handler handler) throws IOException {
    // answers in two writes would otherwise wait for the other side to confirm the first
    System.setProperty("sun.net.httpserver.nodelay", "true");
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 200);
    server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    server.createContext("/", exchange -> serve(exchange, handler));
    server.start();
  }

  int port() {
    return server.getAddress().getPort();
  }

  static String escape(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }

  @Override
  public void close() {
    server.stop(0);
  }

  private static void serve(HttpExchange exchange, Handler handler) {
    try (exchange) {
      Answer answer;
      try {
        answer =
            handler.handle(
                new Request(
                    exchange,
                    exchange.getRequestMethod(),
                    exchange.getRequestURI().getPath(),
                    exchange.getRequestBody().readAllBytes()));
      } catch (RuntimeException e) {
        answer = Answer.json(400, Map.of("error", String.valueOf(e.getMessage())));
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return;
      }
      exchange.getResponseHeaders().set("Content-Type", answer.type());
      answer.headers().forEach(exchange.getResponseHeaders()::set);
      exchange.sendResponseHeaders(
          answer.status(), answer.body().length == 0 ? -1 : answer.body().length);
      exchange.getResponseBody().write(answer.body());
    } catch (IOException gone) {
      throw new UncheckedIOException(gone);
    }
  }
}
