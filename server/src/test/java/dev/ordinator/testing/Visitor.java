package dev.ordinator.testing;

import dev.ordinator.demo.DemoWorld;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.InetAddress;
import java.net.URI;
import java.net.URLEncoder;
import java.net.UnknownHostException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks to the application as a browser does: with a session and its CSRF token. */
public final class Visitor {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final String address;
  private final CookieManager cookies = new CookieManager();
  private final HttpClient http;

  private Visitor(String address) {
    this(address, HttpClient.newBuilder());
  }

  private Visitor(String address, HttpClient.Builder http) {
    this.address = address;
    this.http = http.cookieHandler(cookies).build();
  }

  /**
   * @param body JSON; a missing node if there was none
   */
  public record Answer(int status, JsonNode body) {}

  /** What is found where nothing is. */
  public static JsonNode nothing() {
    return JSON.missingNode();
  }

  public static Visitor anonymous(String address) {
    return new Visitor(address);
  }

  /**
   * @param from the address of this machine from which they come
   */
  public static Visitor anonymous(String address, String from) {
    return new Visitor(address, HttpClient.newBuilder().localAddress(loopback(from)));
  }

  private static InetAddress loopback(String from) {
    try {
      return InetAddress.getByName(from);
    } catch (UnknownHostException e) {
      throw new UncheckedIOException(e);
    }
  }

  public static Visitor loggedIn(String address, String username) {
    DemoWorld.Login login =
        DemoWorld.LOGINS.stream()
            .filter(l -> l.username().equals(username))
            .findFirst()
            .orElseThrow();
    Visitor visitor = new Visitor(address);
    int status = visitor.logIn(username, login.password());
    if (status != 204) {
      throw new AssertionError(username + " could not log in: " + status);
    }
    return visitor;
  }

  public int logIn(String username, String password) {
    get("/api/setup");
    return send(request("/api/login")
            .header("Content-Type", "application/x-www-form-urlencoded")
            .header("X-XSRF-TOKEN", token())
            .POST(
                BodyPublishers.ofString(
                    "username=" + encode(username) + "&password=" + encode(password))))
        .statusCode();
  }

  public Answer get(String path) {
    return answer(send(request(path).GET()));
  }

  /** The body, of a request that must succeed. */
  public JsonNode read(String path) {
    Answer answer = get(path);
    if (answer.status() != 200) {
      throw new AssertionError(path + ": " + answer);
    }
    return answer.body();
  }

  public Answer post(String path, Object body) {
    return change("POST", path, body);
  }

  public Answer change(String method, String path, Object body) {
    return put(method, path, body, "*");
  }

  /** Puts something in place of what was seen under a tag. */
  public Answer putOver(String seen, String path, Object body) {
    return put("PUT", path, body, seen);
  }

  private Answer put(String method, String path, Object body, String seen) {
    return answer(
        send(
            request(path)
                .header("If-Match", seen)
                .header("Content-Type", "application/json")
                .header("X-XSRF-TOKEN", token())
                .method(method, BodyPublishers.ofString(JSON.writeValueAsString(body)))));
  }

  /** Posts a text of some type, as a person's browser does with a file. */
  public Answer postText(String path, String type, String text) {
    return answer(
        send(
            request(path)
                .header("Content-Type", type)
                .header("X-XSRF-TOKEN", token())
                .POST(BodyPublishers.ofString(text))));
  }

  /** Posts a file. */
  public Answer postBytes(String path, byte[] content) {
    return answer(
        send(
            request(path)
                .header("Content-Type", "application/octet-stream")
                .header("X-XSRF-TOKEN", token())
                .POST(BodyPublishers.ofByteArray(content))));
  }

  public HttpResponse<String> raw(String path) {
    return send(request(path).GET());
  }

  /** Reads server-sent events line by line until the server hangs up. */
  public void listen(String path, Consumer<String> line) {
    try {
      http.send(request(path).GET().build(), HttpResponse.BodyHandlers.ofLines())
          .body()
          .forEach(line);
    } catch (IOException | UncheckedIOException hungUp) {
      // that is how it ends
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** A file, as it comes. */
  public byte[] bytes(String path) throws IOException {
    try {
      return http.send(request(path).GET().build(), HttpResponse.BodyHandlers.ofByteArray()).body();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException(e);
    }
  }

  /** Posts a text as it is, with headers of its own. */
  public int postRaw(String path, String body, Map<String, String> headers) {
    HttpRequest.Builder request = request(path).POST(BodyPublishers.ofString(body));
    headers.forEach(request::header);
    return send(request).statusCode();
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(address + path));
  }

  private HttpResponse<String> send(HttpRequest.Builder request) {
    try {
      return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  static Answer answer(HttpResponse<String> response) {
    String body = response.body();
    boolean json = body.startsWith("{") || body.startsWith("[");
    return new Answer(response.statusCode(), json ? JSON.readTree(body) : JSON.missingNode());
  }

  private String token() {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals("XSRF-TOKEN"))
        .map(HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }

  private static String encode(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }
}
