package dev.ordinator.core.catalog;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is stocked and sold, as routing sees it.
 *
 * @param weight grams per unit
 * @param volume millilitres per unit
 * @param hazard the hazard class that node and lane must carry; null: none needed
 * @param bannedCountries ISO 3166-1 alpha-2 codes of countries it must not be sent to
 */
public record Item(
    String sku, long weight, long volume, @Nullable String hazard, Set<String> bannedCountries) {

  public Item {
    if (sku.isBlank() || weight < 0 || volume < 0) {
      throw new IllegalArgumentException("an item needs an SKU, weight ≥ 0 and volume ≥ 0: " + sku);
    }
    bannedCountries = Set.copyOf(bannedCountries);
  }
}
