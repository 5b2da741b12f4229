package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.LocalDate;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Whether orders wait for an item, what is sold of it before it can be sent, how long it takes. */
@Component
public class SellingAhead {
  private static final int LONGEST_LEAD = 366;

  private final DSLContext db;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  SellingAhead(DSLContext db, Events events, ApplicationEventPublisher publisher) {
    this.db = db;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * @param mayWait whether orders wait for it when it is short
   * @param outOn the first day on which it is sent, though it is sold before; null: any day
   * @param aheadMost units that may be sold before that day; null: no limit
   * @param leadDays workdays that making it takes once it is begun; 0: it is not made to order
   */
  public record Ahead(
      boolean mayWait, @Nullable LocalDate outOn, @Nullable Long aheadMost, int leadDays) {}

  public Ahead of(long itemId) {
    return db.select(ITEM.MAY_WAIT, ITEM.OUT_ON, ITEM.AHEAD_MOST, ITEM.LEAD_DAYS)
        .from(ITEM)
        .where(ITEM.ID.eq(itemId))
        .fetchOptional(r -> new Ahead(r.value1(), r.value2(), r.value3(), r.value4()))
        .orElseThrow(() -> Problem.notFound("item " + itemId));
  }

  /**
   * @throws Problem if there is no such item, or the numbers make no sense
   */
  @Transactional
  public void set(long itemId, Ahead ahead, String actor) {
    if (ahead.aheadMost() != null && (ahead.aheadMost() < 0 || ahead.outOn() == null)) {
      throw Problem.invalid("aheadMost", "not negative, and only with a day from which it is sent");
    }
    if (ahead.leadDays() < 0 || ahead.leadDays() > LONGEST_LEAD) {
      throw Problem.invalid("leadDays", "0 to %d workdays".formatted(LONGEST_LEAD));
    }
    of(itemId);
    db.update(ITEM)
        .set(ITEM.MAY_WAIT, ahead.mayWait())
        .set(ITEM.OUT_ON, ahead.outOn())
        .set(ITEM.AHEAD_MOST, ahead.aheadMost())
        .set(ITEM.LEAD_DAYS, ahead.leadDays())
        .where(ITEM.ID.eq(itemId))
        .execute();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "Item %d %s%s"
            .formatted(
                itemId,
                ahead.mayWait() ? "may be waited for" : "is not waited for",
                ahead.outOn() == null ? "" : ", and is sent from " + ahead.outOn()),
        "");
    publisher.publishEvent(new StockGrew(itemId, actor));
  }
}
