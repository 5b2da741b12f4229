package dev.ordinator.core.catalog;

import dev.ordinator.core.money.Shares;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What of a kit's price each of its components bears. In minor units of one currency.
 *
 * @param parts by SKU, for all of its units
 * @param discount what the kit costs less than its components; negative if it costs more
 */
public record KitPrice(Map<String, Long> parts, long discount) {

  /** How a kit's price comes to its components. */
  public enum Way {
    /** In proportion to their list prices; no discount is left. */
    BY_LIST_PRICE,
    /** Each at its list price, and one discount for the kit. */
    LIST_PRICES
  }

  /**
   * Splits a price by largest remainder, or sets the list prices against it; Σ parts − discount =
   * price either way.
   *
   * @param price of all the kits together
   * @param units by SKU, in all the kits together
   * @param listPrice of one unit, by SKU
   */
  public static KitPrice of(
      Way way, long price, Map<String, Long> units, Map<String, Long> listPrice) {
    long[] list =
        units.entrySet().stream()
            .mapToLong(
                u -> Math.multiplyExact(listPrice.getOrDefault(u.getKey(), 0L), u.getValue()))
            .toArray();
    long[] shares = way == Way.LIST_PRICES ? list : Shares.split(price, list);
    Map<String, Long> parts = new LinkedHashMap<>();
    long sum = 0;
    for (String sku : units.keySet()) {
      long share = shares[parts.size()];
      parts.put(sku, share);
      sum = Math.addExact(sum, share);
    }
    return new KitPrice(parts, sum - price);
  }
}
