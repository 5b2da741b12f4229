package dev.ordinator.testing;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** A connection of the kind that calls us. */
public final class MachineConnection {
  private MachineConnection() {}

  /**
   * Connects a machine as a person does: named, and with its defaults.
   *
   * @param others defaults that are otherwise than usual
   */
  public static long connect(Visitor mara, String code, String prefix, Map<String, Object> others) {
    long id =
        mara.post(
                "/api/connecting",
                Map.of(
                    "kind", "MACHINE",
                    "code", code,
                    "name", code,
                    "prefix", prefix,
                    "currency", "EUR"))
            .body()
            .path("id")
            .asLong();
    Map<String, Object> defaults = new HashMap<>();
    defaults.put("prefix", prefix);
    defaults.put("approval", "WHEN_PAID");
    defaults.put("matchBy", "SKU");
    defaults.put("intervalSeconds", 300);
    defaults.put("nodes", List.of());
    defaults.put("pricesWithTax", true);
    defaults.put("discountsWithin", false);
    defaults.put("feeHundredths", 0);
    defaults.put("fixedFee", 0);
    defaults.put("tellsUnits", true);
    defaults.put("tellsNodes", false);
    defaults.put("unknownListings", "HOLD");
    defaults.put("team", "");
    defaults.put("phone", "");
    defaults.put("depot", "");
    defaults.putAll(others);
    mara.change("PUT", "/api/connecting/" + id + "/defaults", defaults);
    mara.post(
        "/api/channels/" + id + "/wordings",
        Map.of("how", "EXACT", "wording", "Standard", "level", "STANDARD"));
    if (!mara.read("/api/channels/" + id).path("setup").isNull()) {
      throw new AssertionError(code + " is not connected");
    }
    return id;
  }

  public static String token(Visitor mara, long channel, List<String> scopes) {
    return mara.post(
            "/api/channels/" + channel + "/tokens", Map.of("name", "till", "scopes", scopes))
        .body()
        .path("secret")
        .asString();
  }
}
