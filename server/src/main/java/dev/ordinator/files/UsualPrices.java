package dev.ordinator.files;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.core.money.Money;
import dev.ordinator.platform.OrdinatorSettings;
import java.util.Collection;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What items cost as a rule, to see what is far from it. */
@Component
class UsualPrices {
  private static final int FAR = 10;

  private final DSLContext db;
  private final OrdinatorSettings settings;

  UsualPrices(DSLContext db, OrdinatorSettings settings) {
    this.db = db;
    this.settings = settings;
  }

  /** List prices by SKU, of items that have one. */
  Map<String, Money> of(Collection<String> skus) {
    return db.select(ITEM.SKU, ITEM.LIST_PRICE)
        .from(ITEM)
        .where(ITEM.SKU.in(skus))
        .and(ITEM.LIST_PRICE.gt(0L))
        .fetchMap(ITEM.SKU, r -> Money.of(r.get(ITEM.LIST_PRICE), settings.baseCurrency()));
  }

  /** Ten times as much or as little; prices of other currencies are not compared. */
  static boolean isFarFrom(Money price, Money usual) {
    return price.currency().equals(usual.currency())
        && (price.minor() >= FAR * usual.minor()
            || price.minor() > 0 && price.minor() * FAR <= usual.minor());
  }
}
