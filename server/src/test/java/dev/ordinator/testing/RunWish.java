package dev.ordinator.testing;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Settings of an allocation run as a person sends them: all that is open, unless said otherwise.
 */
public final class RunWish {
  private final Map<String, Object> scope = new HashMap<>();
  private final Map<String, Object> settings = new HashMap<>();

  public RunWish() {
    for (String none : List.of("nodes", "channels", "customers", "categories", "tags")) {
      scope.put(none, List.of());
    }
    scope.put("leaveWithin", null);
    scope.put("priorityTo", null);
    scope.put("skuFrom", "");
    scope.put("skuTo", "");
    scope.put("expression", "");
    settings.put("scope", scope);
    settings.put("way", "BY_ORDER");
    settings.put("by", List.of("PRIORITY", "AGE"));
    settings.put("share", false);
    settings.put("parts", "AS_SAID");
    settings.put("earmarks", true);
    settings.put("byLot", false);
    settings.put("lotsExcluded", List.of());
    settings.put("leadTime", true);
    settings.put("thenRoute", false);
    settings.put("recordShort", false);
  }

  public RunWish of(String sku) {
    scope.put("skuFrom", sku);
    scope.put("skuTo", sku);
    return this;
  }

  public RunWish where(String expression) {
    scope.put("expression", expression);
    return this;
  }

  public RunWish with(String setting, Object value) {
    settings.put(setting, value);
    return this;
  }

  public Map<String, Object> named(String name) {
    return Map.of("name", name, "settings", settings);
  }
}
