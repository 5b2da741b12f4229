package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.SUBSTITUTE;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Which items may be sent instead of which. */
@Component
public class Substitutes {
  private static final int MOST = 20;

  private final DSLContext db;
  private final Events events;

  Substitutes(DSLContext db, Events events) {
    this.db = db;
    this.events = events;
  }

  /** How dear it may be at list price; buyers pay what they ordered for, in any case. */
  public enum Price {
    ANY,
    /** Just as dear as what was ordered. */
    SAME,
    /** Less dear than what was ordered. */
    CHEAPER,
    /** No more than what was ordered. */
    NO_DEARER,
    /** More by some per cent at most. */
    UP_TO
  }

  /**
   * An item that may be sent instead.
   *
   * @param listPrice in minor units of the base currency
   * @param percent for {@link Price#UP_TO}
   */
  public record Substitute(
      long itemId, String sku, String name, long listPrice, Price price, int percent) {

    /** Whether it may stand in for something at a list price, in the same minor units. */
    public boolean fits(long orderedPrice) {
      return switch (price) {
        case ANY -> true;
        case SAME -> listPrice == orderedPrice;
        case CHEAPER -> listPrice < orderedPrice;
        case NO_DEARER -> listPrice <= orderedPrice;
        case UP_TO -> listPrice * 100 <= orderedPrice * (100L + percent);
      };
    }
  }

  /** One that is to be allowed. */
  record Wish(String sku, Price price, int percent) {}

  /** By item, which is tried first in front. */
  public Map<Long, List<Substitute>> of(Collection<Long> itemIds) {
    return db.select(
            SUBSTITUTE.ITEM_ID,
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            ITEM.LIST_PRICE,
            SUBSTITUTE.PRICE,
            SUBSTITUTE.PERCENT)
        .from(SUBSTITUTE)
        .join(ITEM)
        .on(ITEM.ID.eq(SUBSTITUTE.OTHER_ID))
        .where(SUBSTITUTE.ITEM_ID.in(itemIds))
        .orderBy(SUBSTITUTE.PLACE)
        .fetchGroups(
            SUBSTITUTE.ITEM_ID,
            r ->
                new Substitute(
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    Price.valueOf(r.value6()),
                    r.value7()));
  }

  /**
   * Says which may be sent instead of an item, the first of them first; those before are forgotten.
   *
   * @throws Problem if an item is not there, or named twice
   */
  @Transactional
  void set(long itemId, List<Wish> wishes, String actor) {
    if (wishes.size() > MOST) {
      throw Problem.invalid("", "at most " + MOST);
    }
    db.deleteFrom(SUBSTITUTE).where(SUBSTITUTE.ITEM_ID.eq(itemId)).execute();
    Set<Long> named = new HashSet<>();
    for (int place = 0; place < wishes.size(); place++) {
      Wish wish = wishes.get(place);
      String field = "[%d].sku".formatted(place);
      long other =
          db.select(ITEM.ID)
              .from(ITEM)
              .where(ITEM.SKU.eq(wish.sku().strip()))
              .fetchOptional(ITEM.ID)
              .orElseThrow(
                  () -> Problem.invalid(field, "no item has the SKU ‘" + wish.sku() + "’"));
      if (other == itemId || !named.add(other)) {
        throw Problem.invalid(field, wish.sku() + " is named twice");
      }
      if (wish.percent() < 0 || wish.percent() > 1000) {
        throw Problem.invalid("[%d].percent".formatted(place), "0 to 1000 %");
      }
      db.insertInto(SUBSTITUTE)
          .set(SUBSTITUTE.ITEM_ID, itemId)
          .set(SUBSTITUTE.OTHER_ID, other)
          .set(SUBSTITUTE.PLACE, place)
          .set(SUBSTITUTE.PRICE, wish.price().name())
          .set(SUBSTITUTE.PERCENT, wish.percent())
          .execute();
    }
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "Of item %d, %d may be sent instead".formatted(itemId, wishes.size()),
        "");
  }
}
