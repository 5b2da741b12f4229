package dev.ordinator.testing;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Mailbox.Mail;
import dev.ordinator.stock.StockLedger;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Short items, and those who wait for them, as the manager sees them. */
public final class ShortWorld {
  private final OwnWorld here;

  public ShortWorld(OwnWorld here) {
    this.here = here;
  }

  public void terms(
      boolean mayWait,
      String ifNot,
      @Nullable Boolean inPart,
      boolean mayReplace,
      @Nullable Integer cancelAfter) {
    terms(mayWait, ifNot, inPart, mayReplace, cancelAfter, null);
  }

  /**
   * @param freeHeld hours on hold after which what an order holds is free
   */
  public void terms(
      boolean mayWait,
      String ifNot,
      @Nullable Boolean inPart,
      boolean mayReplace,
      @Nullable Integer cancelAfter,
      @Nullable Integer freeHeld) {
    Map<String, Object> terms = new HashMap<>();
    terms.put("mayWait", mayWait);
    terms.put("ifNot", ifNot);
    terms.put("inPart", inPart);
    terms.put("mayReplace", mayReplace);
    terms.put("cancelAfter", cancelAfter);
    terms.put("warnBefore", 3);
    terms.put("answerWithin", 5);
    terms.put("noAnswer", "WAIT");
    terms.put("freeHeld", freeHeld);
    long web =
        here.world()
            .db()
            .select(CHANNEL.ID)
            .from(CHANNEL)
            .where(CHANNEL.CODE.eq("WEB"))
            .fetchSingle()
            .value1();
    assertThat(here.mara().change("PUT", "/api/channels/" + web + "/short", terms).status())
        .isEqualTo(204);
  }

  public void pauseRouting() {
    Map<String, Object> everywhere = new HashMap<>();
    everywhere.put("channel", null);
    everywhere.put("reason", "a run first");
    here.mara().post("/api/routing/pauses", everywhere);
  }

  public void resumeRouting() {
    here.mara()
        .read("/api/routing/pauses")
        .forEach(p ->
            here.mara().change("DELETE", "/api/routing/pauses/" + p.path("id").asLong(), Map.of()));
  }

  public void waits(String id, String sku, long units) {
    here.world().shop().place(Sample.order(id, sku, units));
    here.awaitMark(id, "waiting for stock");
  }

  public Map<String, Object> orders(String... ids) {
    return Map.of("orders", List.of(ids).stream().map(this::orderId).toList());
  }

  public @Nullable JsonNode breaking(String id) {
    return here.mara()
        .read("/api/backorders/promises")
        .valueStream()
        .filter(b -> b.path("orderNumber").asString().equals(number(id)))
        .findFirst()
        .orElse(null);
  }

  public String awaitPromise(String id) {
    await(id + " has a promise").until(() -> !sheet(id).path("promises").isEmpty());
    return sheet(id).path("promises").get(0).path("arrivesOn").asString();
  }

  /** The link in the letter that asks a buyer, without its host. */
  public String linkFor(String id) {
    await("the letter came").until(() -> letters(id).findAny().isPresent());
    String text = letters(id).findFirst().orElseThrow().text();
    return text.substring(text.indexOf("/answer/")).split("\\s", 2)[0];
  }

  private Stream<Mail> letters(String id) {
    return here.world().standIns().mailbox().mails().stream()
        .filter(m -> m.to().contains("buyer-" + id) && m.text().contains("/answer/"));
  }

  /** A page as somebody sees it who is not logged in. */
  public HttpResponse<String> visit(String path) {
    return send(HttpRequest.newBuilder(URI.create(here.world().address() + path)).GET());
  }

  public HttpResponse<String> fill(String path, String form) {
    return send(
        HttpRequest.newBuilder(URI.create(here.world().address() + path))
            .header("Content-Type", "application/x-www-form-urlencoded")
            .POST(BodyPublishers.ofString(form)));
  }

  private static HttpResponse<String> send(HttpRequest.Builder request) {
    try (HttpClient http = HttpClient.newHttpClient()) {
      return http.send(request.build(), BodyHandlers.ofString());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  public List<JsonNode> queue(long item) {
    return here.mara().read("/api/backorders/items/" + item).path("queue").valueStream().toList();
  }

  public JsonNode row(long item, String id) {
    return queue(item).stream()
        .filter(r -> r.path("orderNumber").asString().equals(number(id)))
        .findFirst()
        .orElseGet(() -> Visitor.nothing());
  }

  public long id(long item, String order) {
    return row(item, order).path("id").asLong();
  }

  public @Nullable String ready(long item, String id) {
    JsonNode ready = row(item, id).path("readyOn");
    return ready.isString() ? ready.asString() : null;
  }

  public String number(String id) {
    return here.order(id).path("number").asString();
  }

  public long orderId(String id) {
    return here.order(id).path("id").asLong();
  }

  public JsonNode sheet(String id) {
    return here.mara().read("/api/orders/" + orderId(id));
  }

  public String timeline(String id) {
    return sheet(id).path("timeline").toString();
  }

  public String snags(String id) {
    return sheet(id).path("snags").toString();
  }

  public String marks(String id) {
    return here.order(id).path("marks").toString();
  }

  public long available(String sku) {
    return here.item(sku).path("available").asLong();
  }

  /** A day, so many from the merchant's today. */
  public String day(int fromToday) {
    return LocalDate.now(ZoneId.of("Europe/Amsterdam")).plusDays(fromToday).toString();
  }

  public long expect(long item, long units, int days) {
    Map<String, Object> wish = new HashMap<>();
    wish.put("nodeId", node());
    wish.put("supplier", "Oakum Joinery");
    wish.put("number", "OJ-7");
    wish.put("quantity", units);
    wish.put("due", day(days));
    wish.put("confidence", 100);
    wish.put("slipDays", 0);
    here.mara().post("/api/stock/items/" + item + "/expected", wish);
    return here.mara()
        .read("/api/stock/items/" + item + "/expected")
        .path("expected")
        .get(0)
        .path("id")
        .asLong();
  }

  public void receive(long item, long units) {
    here.mara()
        .post(
            "/api/stock/items/" + item + "/adjustments",
            Map.of("nodeId", node(), "reason", "RECEIPT", "change", units, "note", ""));
  }

  /** The item has so many at Stillwater, and none elsewhere. */
  public long stocked(String sku, long units) {
    here.world().scrapAll(sku);
    long id =
        here.world().db().select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
    if (units > 0) {
      here.world()
          .bean(StockLedger.class)
          .adjust(id, node(), units, StockLedger.Reason.RECEIPT, "test", "");
    }
    return id;
  }

  public long node() {
    return here.world()
        .db()
        .select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq("STW"))
        .fetchSingle()
        .value1();
  }
}
