package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ITEM_TAG;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Words by which people sort items, and rules ask for them. */
@Service
class ItemTags {
  private static final int MOST = 20;
  private static final int LONGEST = 40;

  private final DSLContext db;
  private final Events events;

  ItemTags(DSLContext db, Events events) {
    this.db = db;
    this.events = events;
  }

  /** By the alphabet. */
  List<String> of(long itemId) {
    return db.select(ITEM_TAG.TAG)
        .from(ITEM_TAG)
        .where(ITEM_TAG.ITEM_ID.eq(itemId))
        .orderBy(ITEM_TAG.TAG)
        .fetch(ITEM_TAG.TAG);
  }

  /**
   * Those before are forgotten.
   *
   * @throws Problem if there is no such item, or they are too many or too long
   */
  @Transactional
  void set(long itemId, List<String> tags, String actor) {
    List<String> its =
        tags.stream().map(t -> t.strip().toLowerCase(Locale.ROOT)).distinct().sorted().toList();
    if (its.size() > MOST || its.stream().anyMatch(t -> t.isEmpty() || t.length() > LONGEST)) {
      throw Problem.invalid("", "at most %d tags of 1 to %d characters".formatted(MOST, LONGEST));
    }
    String sku =
        db.select(ITEM.SKU)
            .from(ITEM)
            .where(ITEM.ID.eq(itemId))
            .fetchOptional(ITEM.SKU)
            .orElseThrow(() -> Problem.notFound("item " + itemId));
    db.deleteFrom(ITEM_TAG).where(ITEM_TAG.ITEM_ID.eq(itemId)).execute();
    its.forEach(tag ->
        db.insertInto(ITEM_TAG).set(ITEM_TAG.ITEM_ID, itemId).set(ITEM_TAG.TAG, tag).execute());
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        its.isEmpty()
            ? sku + " has no tags any more"
            : "%s is tagged %s".formatted(sku, String.join(", ", its)),
        "");
  }
}
