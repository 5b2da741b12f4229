package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ITEM_TAG;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.SUBSTITUTE;

import dev.ordinator.platform.EntityTag;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import java.util.List;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What people say of an item: how it is tracked and counted, sold ahead, tried first, replaced,
 * tagged, kept back. Who changes it has seen it as it is, or hears that it is otherwise.
 */
@Component
class ItemSettings {
  private final DSLContext db;
  private final Transactions transactions;

  ItemSettings(DSLContext db, Transactions transactions) {
    this.db = db;
    this.transactions = transactions;
  }

  /**
   * All of them, as rows of the database.
   *
   * @param limits by node: what it keeps back, and what is too much there
   */
  private record Content(
      List<Object> item,
      List<String> tags,
      List<List<Object>> substitutes,
      List<List<Object>> limits) {}

  /**
   * A tag of the settings as they are (RFC 9110, section 8.8.3).
   *
   * @throws Problem if there is no such item
   */
  String tag(long itemId) {
    return EntityTag.of(content(itemId));
  }

  /**
   * Changes them, unless they are others now than were seen.
   *
   * @param seen the tag that came with them; null: who writes does not say what they saw
   * @throws Problem 412 if they were changed since
   */
  <T> T change(long itemId, @Nullable String seen, Supplier<T> change) {
    return transactions.get(() -> {
      db.select(ITEM.ID).from(ITEM).where(ITEM.ID.eq(itemId)).forUpdate().fetch();
      EntityTag.require(seen, content(itemId));
      return change.get();
    });
  }

  /** The same for a change that gives nothing. */
  void run(long itemId, @Nullable String seen, Runnable change) {
    change(
        itemId,
        seen,
        () -> {
          change.run();
          return itemId;
        });
  }

  private Content content(long itemId) {
    List<Object> item =
        db.select(
                ITEM.ENDED,
                ITEM.HOME_NODE_ID,
                ITEM.MAY_WAIT,
                ITEM.OUT_ON,
                ITEM.AHEAD_MOST,
                ITEM.LEAD_DAYS,
                ITEM.COUNTED,
                ITEM.TRACKED,
                ITEM.PICK,
                ITEM.ONE_LOT,
                ITEM.MIN_LIFE)
            .from(ITEM)
            .where(ITEM.ID.eq(itemId))
            .fetchOptional(Record::intoList)
            .orElseThrow(() -> Problem.notFound("item " + itemId));
    return new Content(
        item,
        db.select(ITEM_TAG.TAG)
            .from(ITEM_TAG)
            .where(ITEM_TAG.ITEM_ID.eq(itemId))
            .orderBy(ITEM_TAG.TAG)
            .fetch(ITEM_TAG.TAG),
        db.selectFrom(SUBSTITUTE)
            .where(SUBSTITUTE.ITEM_ID.eq(itemId))
            .orderBy(SUBSTITUTE.PLACE)
            .fetch(Record::intoList),
        db.select(STOCK_LEVEL.NODE_ID, STOCK_LEVEL.SAFETY, STOCK_LEVEL.MOST)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.SAFETY.ne(0L).or(STOCK_LEVEL.MOST.isNotNull()))
            .orderBy(STOCK_LEVEL.NODE_ID)
            .fetch(Record::intoList));
  }
}
