package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Puts messages for others into the outbox, in the transaction of what they tell of. */
@Service
public class OutboxPosts {
  private final DSLContext db;
  private final Snags snags;
  private final Events events;
  private final Clock clock;

  OutboxPosts(DSLContext db, Snags snags, Events events, Clock clock) {
    this.db = db;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
  }

  /**
   * Notes that a channel or buyer is to be told. Where a channel is not written to, or its buyers
   * get no such mails, that is all, and the timeline says so.
   *
   * @param onceKey the same is noted only once
   * @param body what to tell, where it does not stand in the database
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void post(
      Kind kind,
      OrderHead order,
      @Nullable Long consignmentId,
      String onceKey,
      @Nullable String body) {
    boolean toBuyer = kind == Kind.MAIL || kind == Kind.BUYER;
    Optional<String> hindered = toBuyer ? unmailed(kind, order) : untold(order);
    db.insertInto(OUTBOX)
        .set(OUTBOX.KIND, kind.name())
        .set(OUTBOX.ONCE_KEY, onceKey)
        .set(OUTBOX.ORDER_ID, order.id())
        .set(OUTBOX.CONSIGNMENT_ID, consignmentId)
        .set(OUTBOX.CHANNEL_ID, toBuyer ? null : order.channelId())
        .set(OUTBOX.BODY, body)
        .set(OUTBOX.STATE, hindered.isPresent() ? "SKIPPED" : "PENDING")
        .set(OUTBOX.DUE_AT, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
    hindered.ifPresent(why ->
        events.record(
            EventKind.NOT_TOLD,
            order.id(),
            consignmentId,
            "desk",
            toBuyer ? "The buyer was not told" : "The channel was not told",
            why));
  }

  private static Optional<String> untold(OrderHead order) {
    return order.writesBack() ? Optional.empty() : Optional.of("the connection only listens");
  }

  /**
   * Why an order's buyer gets no mails of a kind; empty if nothing is in the way.
   *
   * @param kind {@link Kind#MAIL} or {@link Kind#BUYER}
   */
  public Optional<String> unmailed(Kind kind, OrderHead order) {
    if (order.email().isBlank()) {
      return Optional.of("there is no mail address");
    }
    boolean wanted =
        db.fetchExists(
            CHANNEL,
            CHANNEL
                .ID
                .eq(order.channelId())
                .and(kind == Kind.MAIL ? CHANNEL.MAIL_SENT : CHANNEL.MAIL_WAITING));
    return wanted ? Optional.empty() : Optional.of("its channel’s buyers get no such mails");
  }

  /**
   * Notes that somebody whom rules name is to be told of an order.
   *
   * @param to a mail address
   * @param rules the names of the rules
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void postNotice(OrderHead order, String to, String rules) {
    db.insertInto(OUTBOX)
        .set(OUTBOX.KIND, Kind.NOTICE.name())
        .set(OUTBOX.ONCE_KEY, Kind.NOTICE + ":" + UUID.randomUUID())
        .set(OUTBOX.ORDER_ID, order.id())
        .set(OUTBOX.BODY, to + "\n" + rules)
        .set(OUTBOX.STATE, "PENDING")
        .set(OUTBOX.DUE_AT, clock.instant())
        .execute();
  }

  /** Notes that channel and buyer are to be told of a hand-over. */
  @Transactional(propagation = Propagation.MANDATORY)
  void postShipped(OrderHead order, Head consignment) {
    for (Kind kind : new Kind[] {Kind.WRITE_BACK, Kind.MAIL}) {
      post(kind, order, consignment.id(), kind + ":" + consignment.number() + ":shipped", null);
    }
  }

  /** Notes that the carrier is to be told that a consignment’s labels are not used. */
  @Transactional(propagation = Propagation.MANDATORY)
  void postVoid(Head consignment) {
    db.select(PARCEL.TRACKING)
        .from(PARCEL)
        .where(PARCEL.CONSIGNMENT_ID.eq(consignment.id()))
        .forEach(r -> postVoid(consignment, r.value1()));
  }

  /** Notes that the carrier is to be told that one label of a consignment is not used. */
  @Transactional(propagation = Propagation.MANDATORY)
  void postVoid(Head consignment, String tracking) {
    db.insertInto(OUTBOX)
        .set(OUTBOX.KIND, Kind.VOID_LABEL.name())
        .set(OUTBOX.ONCE_KEY, Kind.VOID_LABEL + ":" + consignment.number() + ":" + tracking)
        .set(OUTBOX.ORDER_ID, consignment.orderId())
        .set(OUTBOX.CONSIGNMENT_ID, consignment.id())
        .set(OUTBOX.BODY, tracking)
        .set(OUTBOX.STATE, "PENDING")
        .set(OUTBOX.DUE_AT, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
  }

  /** Notes that a buyer is to be told that something waits to be collected. */
  @Transactional(propagation = Propagation.MANDATORY)
  void postReady(OrderHead order, Head consignment) {
    post(
        Kind.MAIL,
        order,
        consignment.id(),
        Kind.MAIL + ":" + consignment.number() + ":ready",
        null);
  }

  /** Notes that a channel is to be told that its buyer has come: the buyer knows. */
  @Transactional(propagation = Propagation.MANDATORY)
  void postCollected(OrderHead order, Head consignment) {
    Kind kind = Kind.WRITE_BACK;
    post(kind, order, consignment.id(), kind + ":" + consignment.number() + ":shipped", null);
  }

  /** What waited for a person to say something about a channel is tried again. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void reviveWaiting(long channelId) {
    db.update(OUTBOX)
        .set(OUTBOX.STATE, "PENDING")
        .set(OUTBOX.ATTEMPTS, 0)
        .set(OUTBOX.DUE_AT, clock.instant())
        .where(OUTBOX.CHANNEL_ID.eq(channelId))
        .and(OUTBOX.STATE.eq("WAITING"))
        .execute();
  }

  /**
   * Sends what was not sent to a channel while it only listened: that consignments left.
   *
   * @return how many messages are under way now
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public int sendSkipped(long channelId) {
    return db.update(OUTBOX)
        .set(OUTBOX.STATE, "PENDING")
        .set(OUTBOX.ATTEMPTS, 0)
        .set(OUTBOX.DUE_AT, clock.instant())
        .where(OUTBOX.CHANNEL_ID.eq(channelId))
        .and(OUTBOX.KIND.eq(Kind.WRITE_BACK.name()))
        .and(OUTBOX.STATE.eq("SKIPPED"))
        .execute();
  }

  /**
   * What nobody was told of is not told any more.
   *
   * @return false if it was told, or is being told
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean takeBack(String onceKey) {
    Long id =
        db.select(OUTBOX.ID)
            .from(OUTBOX)
            .where(OUTBOX.ONCE_KEY.eq(onceKey))
            .and(OUTBOX.STATE.in("SKIPPED", "DEAD"))
            .forUpdate()
            .fetchOne(OUTBOX.ID);
    if (id == null) {
      return false;
    }
    db.update(OUTBOX).set(OUTBOX.STATE, "SKIPPED").where(OUTBOX.ID.eq(id)).execute();
    snags.close(SnagCause.NOT_TOLD, id, "desk");
    return true;
  }

  /** A person has a message that was given up tried again. */
  @Transactional
  public void tryAgain(long id, String actor) {
    revive(id, "PENDING", actor);
  }

  /** A person has told it in another way, or says that it need not be told. */
  @Transactional
  public void settleByHand(long id, String actor) {
    revive(id, "SETTLED", actor);
    db.select(OUTBOX.ORDER_ID)
        .from(OUTBOX)
        .where(OUTBOX.ID.eq(id))
        .fetchOptional(OUTBOX.ORDER_ID)
        .ifPresent(order ->
            events.record(EventKind.NOTE, order, actor, "Settled by hand: nothing more is told"));
  }

  private void revive(long id, String state, String actor) {
    int revived =
        db.update(OUTBOX)
            .set(OUTBOX.STATE, state)
            .set(OUTBOX.ATTEMPTS, 0)
            .set(OUTBOX.DUE_AT, clock.instant())
            .where(OUTBOX.ID.eq(id))
            .and(OUTBOX.STATE.eq("DEAD"))
            .execute();
    if (revived == 0) {
      throw Problem.conflict("that message is not waiting for a person");
    }
    snags.close(SnagCause.NOT_TOLD, id, actor);
  }
}
