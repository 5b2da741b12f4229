package dev.ordinator.standins;

import static dev.ordinator.standins.Web.escape;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** The demo carriers' common desk: labels, tracking that advances with time, voiding. */
public final class CarrierDesk implements AutoCloseable {
  public static final String API_KEY = "demo-carrier-key";
  private static final int FIRST_TRACKING = 4_000_001;
  private static final List<String> PLACES =
      List.of("the sender", "the sorting hall", "the depot", "the door");
  private static final List<String> CODES = List.of("ACCEPTED", "MOVING", "OUT", "DELIVERED");
  private static final List<Integer> AFTER = List.of(0, 1, 3, 5);

  private final Map<String, Parcel> byKey = new LinkedHashMap<>();
  private final Map<String, Scan> mishaps = new HashMap<>();
  private final Faults faults = new Faults();
  private final Kept kept;
  private final Web web;
  private final WorldClock clock;
  private Duration pace = Duration.ofSeconds(60);
  private int labelRequests;

  /**
   * @param collectedAt when it was first asked for; until then it lies where it was packed
   * @param paceSeconds how long a stretch of its way takes
   */
  public record Parcel(
      String onceKey,
      String tracking,
      String carrier,
      String service,
      String reference,
      String to,
      String label,
      @Nullable String collectedAt,
      long paceSeconds,
      boolean voided) {

    Parcel collected(Instant at) {
      return new Parcel(
          onceKey,
          tracking,
          carrier,
          service,
          reference,
          to,
          label,
          at.toString(),
          paceSeconds,
          voided);
    }

    Parcel paced(long seconds) {
      return new Parcel(
          onceKey, tracking, carrier, service, reference, to, label, collectedAt, seconds, voided);
    }

    Parcel asVoid() {
      return new Parcel(
          onceKey,
          tracking,
          carrier,
          service,
          reference,
          to,
          label,
          collectedAt,
          paceSeconds,
          true);
    }
  }

  private record State(List<Parcel> parcels) {}

  private record Scan(String code, String place, String at) {}

  CarrierDesk(int port, @Nullable Path data, WorldClock clock) throws IOException {
    this.clock = clock;
    kept = new Kept(data, "carrier.json", () -> new State(parcels()));
    State before = kept.read(State.class);
    if (before != null) {
      before.parcels().forEach(p -> byKey.put(p.onceKey(), p));
    }
    web = new Web(port, this::handle);
  }

  public int port() {
    return web.port();
  }

  public String url() {
    return "http://127.0.0.1:" + port();
  }

  public Faults faults() {
    return faults;
  }

  /** How long a stretch of the way takes, for parcels labelled from now on. */
  public synchronized void pace(Duration stretch) {
    pace = stretch;
  }

  /** How long a stretch of the way takes, for all parcels there are. */
  public synchronized void paceAll(Duration stretch) {
    parcels().forEach(p -> put(p.paced(stretch.toSeconds())));
  }

  public synchronized List<Parcel> parcels() {
    return List.copyOf(byKey.values());
  }

  /** Something befalls a parcel now, after which nothing more is heard of it. */
  public synchronized void mishap(String tracking, String code) {
    mishaps.put(tracking, new Scan(code, "the depot", clock.now().toString()));
  }

  /** How often a label was asked for, repeats included. */
  public synchronized int labelRequests() {
    return labelRequests;
  }

  @Override
  public void close() {
    web.close();
    kept.close();
  }

  private Web.Answer handle(Web.Request request) throws IOException, InterruptedException {
    if (request.path().startsWith("/api/")) {
      if (!request.header("X-Api-Key").equals(API_KEY)) {
        return Web.Answer.json(401, Map.of("error", "wrong key"));
      }
      return faults.apply(this::api, request);
    }
    return pages(request);
  }

  private synchronized Web.Answer api(Web.Request request) {
    if (request.is("POST", "/api/labels")) {
      return label(request.header("Idempotency-Key"), request.json());
    }
    if (request.is("GET", "/api/tracking/[^/]+")) {
      return tracking(request.part(2));
    }
    if (request.is("POST", "/api/labels/[^/]+/void")) {
      return withParcel(
          request.part(2),
          p -> {
            put(p.asVoid());
            return Web.Answer.json(200, Map.of("voided", true));
          });
    }
    if (request.is("POST", "/api/labels/[^/]+/pace")) {
      return withParcel(
          request.part(2),
          p -> {
            JsonNode way = request.json();
            Parcel paced = p.paced(way.path("seconds").asLong(60));
            String collectedAt = way.path("collectedAt").asString("");
            put(collectedAt.isEmpty() ? paced : paced.collected(Instant.parse(collectedAt)));
            return Web.Answer.json(200, Map.of("ok", true));
          });
    }
    if (request.is("GET", "/api/rates")) {
      return Web.Answer.json(
          200, Map.of("rates", List.of(Map.of("service", "STD", "upTo", 2000, "price", "4.20"))));
    }
    return Web.Answer.notFound();
  }

  private Web.Answer label(String key, JsonNode wanted) {
    labelRequests++;
    if (key.isEmpty()) {
      return Web.Answer.json(400, Map.of("error", "an Idempotency-Key is wanted"));
    }
    Parcel parcel = byKey.get(key);
    if (parcel == null) {
      String tracking =
          wanted.path("carrier").asString("X").charAt(0) + "P" + (FIRST_TRACKING + byKey.size());
      JsonNode to = wanted.path("to");
      parcel =
          new Parcel(
              key,
              tracking,
              wanted.path("carrier").asString(""),
              wanted.path("service").asString(""),
              wanted.path("reference").asString(""),
              to.path("city").asString("") + ", " + to.path("country").asString(""),
              Base64.getEncoder().encodeToString(LabelPaper.pdf(tracking, wanted)),
              null,
              pace.toSeconds(),
              false);
      put(parcel);
    }
    return Web.Answer.json(200, Map.of("tracking", parcel.tracking(), "pdf", parcel.label()));
  }

  private Web.Answer tracking(String number) {
    return withParcel(
        number,
        p -> {
          Parcel collected = p;
          if (p.collectedAt() == null) {
            collected = p.collected(clock.now());
            put(collected);
          }
          return Web.Answer.json(200, Map.of("scans", scans(collected, clock.now())));
        });
  }

  private List<Scan> scans(Parcel parcel, Instant now) {
    List<Scan> scans = new ArrayList<>();
    if (parcel.collectedAt() == null) {
      return scans;
    }
    Instant start = Instant.parse(parcel.collectedAt());
    Scan mishap = mishaps.get(parcel.tracking());
    for (int i = 0; i < CODES.size(); i++) {
      Instant at = start.plusSeconds(AFTER.get(i) * parcel.paceSeconds());
      if (!at.isAfter(mishap == null ? now : Instant.parse(mishap.at()))) {
        scans.add(new Scan(CODES.get(i), i == 3 ? parcel.to() : PLACES.get(i), at.toString()));
      }
    }
    if (mishap != null) {
      scans.add(mishap);
    }
    return scans;
  }

  private Web.Answer withParcel(String tracking, Function<Parcel, Web.Answer> then) {
    return byKey.values().stream()
        .filter(p -> p.tracking().equals(tracking))
        .findFirst()
        .map(then)
        .orElseGet(Web.Answer::notFound);
  }

  private void put(Parcel parcel) {
    byKey.put(parcel.onceKey(), parcel);
    kept.changed();
  }

  private synchronized Web.Answer pages(Web.Request request) {
    if (request.is("GET", "/")) {
      return Web.Answer.html(
          "Carriers’ desk",
          "<table><tr><th>Tracking<th>Carrier<th>Service<th>Reference<th>To<th>Now</tr>"
              + parcels().reversed().stream()
                  .limit(100)
                  .map(p ->
                      "<tr><td><a href='/track/%1$s'>%1$s</a><td>%2$s<td>%3$s<td>%4$s<td>%5$s<td>%6$s</tr>"
                          .formatted(
                              p.tracking(),
                              escape(p.carrier()),
                              escape(p.service()),
                              escape(p.reference()),
                              escape(p.to()),
                              status(p)))
                  .collect(Collectors.joining())
              + "</table>");
    }
    if (request.is("GET", "/track/[^/]+")) {
      return withParcel(
          request.part(1),
          p ->
              Web.Answer.html(
                  "Parcel " + p.tracking(),
                  "<table>"
                      + scans(p, clock.now()).stream()
                          .map(s ->
                              "<tr><td>%s<td>%s<td>%s</tr>"
                                  .formatted(s.at(), s.code(), escape(s.place())))
                          .collect(Collectors.joining())
                      + "</table>"));
    }
    return Web.Answer.notFound();
  }

  private String status(Parcel parcel) {
    List<Scan> scans = scans(parcel, clock.now());
    return parcel.voided() ? "void" : scans.isEmpty() ? "labelled" : scans.getLast().code();
  }
}
