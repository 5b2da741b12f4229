package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What stopped and needs a person: one open snag per cause and subject, however many orders wait.
 */
@Service
public class Snags {
  private final DSLContext db;
  private final OrderStore store;
  private final Orders orders;
  private final Events events;
  private final Clock clock;

  Snags(DSLContext db, OrderStore store, Orders orders, Events events, Clock clock) {
    this.db = db;
    this.store = store;
    this.orders = orders;
    this.events = events;
    this.clock = clock;
  }

  /**
   * What a snag is about, beside the orders that wait for it.
   *
   * @param subject tells it from others of its cause
   */
  public record About(
      SnagCause cause,
      String subject,
      String title,
      String detail,
      @Nullable Long channelId,
      @Nullable Long listingId,
      @Nullable Long itemId,
      @Nullable Long orderId,
      @Nullable Long refusedId,
      @Nullable Long outboxId) {

    public static About of(SnagCause cause, Object subject, String title, String detail) {
      return new About(
          cause, subject.toString(), title, detail, null, null, null, null, null, null);
    }

    public About listing(long channel, long listing) {
      return new About(cause, subject, title, detail, channel, listing, null, null, null, null);
    }

    public About channel(long channel) {
      return new About(cause, subject, title, detail, channel, null, null, null, null, null);
    }

    public About item(long item) {
      return new About(cause, subject, title, detail, null, null, item, null, null, null);
    }

    public About order(long order) {
      return new About(cause, subject, title, detail, null, null, null, order, null, null);
    }

    public About refused(long channel, long refused) {
      return new About(cause, subject, title, detail, channel, null, null, null, refused, null);
    }

    public About outbox(long order, long outbox) {
      return new About(cause, subject, title, detail, null, null, null, order, null, outbox);
    }
  }

  /** Opens a snag, or joins the one that is open for the same subject. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void open(About about, @Nullable Long waitingOrder, String actor) {
    db.insertInto(SNAG)
        .set(SNAG.CAUSE, about.cause().name())
        .set(SNAG.SUBJECT, about.subject())
        .set(SNAG.CHANNEL_ID, about.channelId())
        .set(SNAG.LISTING_ID, about.listingId())
        .set(SNAG.ITEM_ID, about.itemId())
        .set(SNAG.ORDER_ID, about.orderId())
        .set(SNAG.REFUSED_ID, about.refusedId())
        .set(SNAG.OUTBOX_ID, about.outboxId())
        .set(SNAG.TITLE, Texts.cut(about.title(), 400))
        .set(SNAG.DETAIL, Texts.cut(about.detail(), 400))
        .set(SNAG.OPENED_AT, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
    if (waitingOrder == null) {
      return;
    }
    long snag =
        db.select(SNAG.ID)
            .from(SNAG)
            .where(SNAG.OPEN_KEY.eq(about.cause() + ":" + about.subject()))
            .fetchSingle()
            .value1();
    int joined =
        db.insertInto(SNAG_ORDER, SNAG_ORDER.SNAG_ID, SNAG_ORDER.ORDER_ID)
            .values(snag, waitingOrder)
            .onDuplicateKeyIgnore()
            .execute();
    if (joined == 1) {
      store.refreshMarks(List.of(waitingOrder));
      events.record(EventKind.SNAGGED, waitingOrder, null, actor, about.title(), about.detail());
    }
  }

  /** What is the matter with the subject of an open snag is another than it was. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void restate(SnagCause cause, Object subject, String detail) {
    db.update(SNAG)
        .set(SNAG.DETAIL, Texts.cut(detail, 400))
        .where(SNAG.OPEN_KEY.eq(cause + ":" + subject))
        .execute();
  }

  /** Whether a subject has an open snag of a cause. */
  public boolean isOpen(SnagCause cause, Object subject) {
    return db.fetchExists(SNAG, SNAG.OPEN_KEY.eq(cause + ":" + subject));
  }

  /** Closes the open snag of a subject, if there is one, and lets the orders that waited go on. */
  @Transactional
  public void close(SnagCause cause, Object subject, String actor) {
    close(SNAG.OPEN_KEY.eq(cause + ":" + subject), actor);
  }

  /** All subjects of a cause are settled. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void closeAll(SnagCause cause, String actor) {
    close(SNAG.CAUSE.eq(cause.name()).and(SNAG.CLOSED_AT.isNull()), actor);
  }

  /** An order no longer waits for one subject of a cause. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void leave(long orderId, SnagCause cause, Object subject) {
    leave(orderId, SNAG.OPEN_KEY.eq(cause + ":" + subject));
  }

  /** An order goes on by itself: it no longer waits for anything of that cause. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void leave(long orderId, List<SnagCause> causes) {
    leave(
        orderId,
        SNAG.CLOSED_AT.isNull().and(SNAG.CAUSE.in(causes.stream().map(Enum::name).toList())));
  }

  private void leave(long orderId, Condition which) {
    List<Long> snags =
        db.select(SNAG.ID)
            .from(SNAG)
            .join(SNAG_ORDER)
            .on(SNAG_ORDER.SNAG_ID.eq(SNAG.ID))
            .where(SNAG_ORDER.ORDER_ID.eq(orderId))
            .and(which)
            .fetch(SNAG.ID);
    for (Long snag : snags) {
      db.deleteFrom(SNAG_ORDER)
          .where(SNAG_ORDER.SNAG_ID.eq(snag))
          .and(SNAG_ORDER.ORDER_ID.eq(orderId))
          .execute();
      if (!db.fetchExists(SNAG_ORDER, SNAG_ORDER.SNAG_ID.eq(snag))) {
        close(SNAG.ID.eq(snag), "desk");
      }
    }
    store.refreshMarks(List.of(orderId));
  }

  private void close(Condition which, String actor) {
    List<Long> open =
        db.select(SNAG.ID).from(SNAG).where(which).and(SNAG.CLOSED_AT.isNull()).fetch(SNAG.ID);
    for (Long snag : open) {
      List<Long> waiting =
          db.select(SNAG_ORDER.ORDER_ID)
              .from(SNAG_ORDER)
              .where(SNAG_ORDER.SNAG_ID.eq(snag))
              .orderBy(SNAG_ORDER.ORDER_ID)
              .fetch(SNAG_ORDER.ORDER_ID);
      String title =
          db.select(SNAG.TITLE).from(SNAG).where(SNAG.ID.eq(snag)).fetchSingle().value1();
      db.update(SNAG)
          .set(SNAG.CLOSED_AT, clock.instant())
          .set(SNAG.CLOSED_BY, actor)
          .where(SNAG.ID.eq(snag))
          .execute();
      store.refreshMarks(waiting);
      waiting.forEach(
          order -> events.record(EventKind.CLEARED, order, null, actor, "Cleared: " + title, ""));
      orders.wake(waiting);
    }
  }
}
