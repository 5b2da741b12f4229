package dev.ordinator.standins;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** What was put up for sale through a stand-in's API, by the merchant's SKU: once each. */
public final class Made {
  private final Map<String, Offer> offers = new LinkedHashMap<>();
  private final String prefix;

  Made(String prefix) {
    this.prefix = prefix;
  }

  /**
   * @param draft buyers don't see it yet
   */
  public record Offer(
      String ref,
      String sku,
      String gtin,
      String title,
      String text,
      List<String> pictures,
      String group,
      String price,
      boolean draft) {}

  public synchronized List<Offer> offers() {
    return List.copyOf(offers.values());
  }

  synchronized void load(@Nullable List<Offer> before) {
    if (before != null) {
      before.forEach(o -> offers.put(o.sku(), o));
    }
  }

  /** New, or instead of the one with that SKU. */
  synchronized Offer put(String sku, JsonNode body) {
    Offer before = offers.get(sku);
    List<String> pictures = new ArrayList<>();
    body.path("pictures").forEach(p -> pictures.add(p.asString()));
    Offer offer =
        new Offer(
            before == null ? prefix + (offers.size() + 1) : before.ref(),
            sku,
            body.path("gtin").asString(""),
            body.path("title").asString(""),
            body.path("text").asString(""),
            pictures,
            body.path("group").asString(""),
            body.path("price").asString("0.00"),
            body.path("draft").asBoolean(false));
    offers.put(sku, offer);
    return offer;
  }
}
