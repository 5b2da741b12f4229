package dev.ordinator.core.rules;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What desk rules can see of an order's goods. Units that were cancelled are not among them; kits
 * that are apart are seen as their components.
 *
 * @param weight grams, all units together
 * @param tags of the items
 * @param homes codes of the nodes at which the items are at home
 * @param suppliers codes of the suppliers that offer any of the items
 * @param available units, at all nodes together, of the item of which least can be had; null: it
 *     was not looked at
 * @param stockedAt codes of the nodes that have all of it
 */
public record GoodsFacts(
    long weight,
    long units,
    long lines,
    Set<String> skus,
    Set<String> gtins,
    Set<String> categories,
    Set<String> tags,
    Set<String> homes,
    Set<String> suppliers,
    @Nullable Long available,
    Set<String> stockedAt) {
  public static final GoodsFacts NOTHING =
      new GoodsFacts(
          0, 0, 0, Set.of(), Set.of(), Set.of(), Set.of(), Set.of(), Set.of(), null, Set.of());

  public GoodsFacts {
    skus = Set.copyOf(skus);
    gtins = Set.copyOf(gtins);
    categories = Set.copyOf(categories);
    tags = Set.copyOf(tags);
    homes = Set.copyOf(homes);
    suppliers = Set.copyOf(suppliers);
    stockedAt = Set.copyOf(stockedAt);
  }

  /** The same with what there is of it in stock. */
  public GoodsFacts stocked(Stock stock) {
    return new GoodsFacts(
        weight,
        units,
        lines,
        skus,
        gtins,
        categories,
        tags,
        homes,
        suppliers,
        stock.available(),
        stock.stockedAt());
  }

  /**
   * What there is of an order's goods.
   *
   * @param available units of the item of which least can be had
   * @param stockedAt codes of the nodes that have all of it
   */
  public record Stock(long available, Set<String> stockedAt) {}
}
