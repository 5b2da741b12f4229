package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.OUTBOX;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkHealth;
import dev.ordinator.platform.WorkLoop;
import dev.ordinator.platform.WorkLoops;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * What others have yet to be told, written in the transaction of what it tells of and delivered
 * afterwards, with growing pauses. Delivered at least once; each message carries a key by which its
 * receiver can tell a repeat. A channel is told of an order in the order in which things happened,
 * and is spoken to by one loop at a time, so that one that hangs keeps no other waiting.
 */
@Service
public class Outbox {
  private static final int ATTEMPTS = 8;
  private static final int LOOPS = 4;

  private final DSLContext db;
  private final Transactions transactions;
  private final Orders orders;
  private final Snags snags;
  private final Events events;
  private final Clock clock;
  private final OrdinatorSettings settings;
  private final WorkHealth health;
  private final Map<Kind, Delivery> deliveries;
  private final List<WorkLoop> loops = new ArrayList<>();

  Outbox(
      DSLContext db,
      Transactions transactions,
      Orders orders,
      Snags snags,
      Events events,
      Clock clock,
      OrdinatorSettings settings,
      WorkHealth health,
      List<Delivery> deliveries,
      WorkLoops workLoops) {
    this.db = db;
    this.transactions = transactions;
    this.orders = orders;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
    this.health = health;
    this.deliveries =
        deliveries.stream().collect(Collectors.toMap(Delivery::kind, Function.identity()));
    for (int i = 1; i <= LOOPS; i++) {
      loops.add(workLoops.add("outbox-" + i, this::deliverOne, this::oldestDue));
    }
  }

  /** What is told, and whom. */
  public enum Kind {
    /** The channel, of a shipment. */
    WRITE_BACK,
    /** The channel, that units will not come. */
    CANCELLATION,
    /** The channel, that what it asked for is not followed. */
    OBJECTION,
    /** The channel, what is to be paid back. */
    REFUND,
    /** The buyer, of a parcel. */
    MAIL,
    /** The buyer, of an order that waits. */
    BUYER,
    /** Somebody whom a rule names. */
    NOTICE,
    /** The carrier, that a label is not used. */
    VOID_LABEL
  }

  /**
   * @param onceKey the same for every attempt
   * @param body what to tell, where it does not stand in the database; else empty
   */
  public record Message(
      long id,
      Kind kind,
      String onceKey,
      long orderId,
      @Nullable Long consignmentId,
      String body,
      int attempt) {}

  /** Delivers messages of one kind. */
  public interface Delivery {
    Kind kind();

    /**
     * Delivers, or throws with a message that says what was wrong.
     *
     * @return a sentence for the order's timeline
     * @throws Undelivered if the other side did not take it
     * @throws WaitsForPerson if a person has to say something first
     */
    String deliver(Message message);

    EventKind told();
  }

  /** The other side did not take it. */
  public static final class Undelivered extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final boolean forGood;
    private final @Nullable Duration retryAfter;

    private Undelivered(String message, boolean forGood, @Nullable Duration retryAfter) {
      super(message);
      this.forGood = forGood;
      this.retryAfter = retryAfter;
    }

    /** Trying the same again is no use. */
    public static Undelivered forGood(String message) {
      return new Undelivered(message, true, null);
    }

    /**
     * @param retryAfter as the other side asked; null: it did not ask
     */
    public static Undelivered forNow(String message, @Nullable Duration retryAfter) {
      return new Undelivered(message, false, retryAfter);
    }
  }

  /** Something has to be said by a person before it can be told. */
  public static final class WaitsForPerson extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final transient Snags.About about;

    public WaitsForPerson(Snags.About about) {
      super(about.title());
      this.about = about;
    }
  }

  /** Says that there may be something to deliver. Call it after the commit that made it. */
  public void nudge() {
    loops.forEach(WorkLoop::nudge);
  }

  /** Delivers one message, if one is due; false if none is. */
  public boolean deliverOne() {
    Optional<Message> claimed = transactions.get(this::claim);
    claimed.ifPresent(message -> {
      Delivery delivery = delivery(message.kind());
      try {
        String sentence = delivery.deliver(message);
        transactions.run(() -> delivered(message, delivery.told(), sentence));
        health.succeeded(work(message.kind()));
      } catch (WaitsForPerson e) {
        transactions.run(() -> waits(message, e.about));
      } catch (Undelivered e) {
        if (!e.forGood) {
          health.failed(work(message.kind()), e);
        }
        transactions.run(() -> failed(message, Texts.of(e), e.forGood, e.retryAfter));
      } catch (Throwable e) { // an Error, too: the message would be tried for ever
        health.failed(work(message.kind()), e);
        transactions.run(() -> failed(message, Texts.of(e), false, null));
      }
    });
    return claimed.isPresent();
  }

  private static String work(Kind kind) {
    return switch (kind) {
      case WRITE_BACK, CANCELLATION, OBJECTION, REFUND -> "Telling channels";
      case MAIL, BUYER, NOTICE -> "Sending mail";
      case VOID_LABEL -> "Telling carriers";
    };
  }

  private @Nullable Instant oldestDue() {
    return db.select(min(OUTBOX.DUE_AT))
        .from(OUTBOX)
        .where(OUTBOX.STATE.eq("PENDING"))
        .and(OUTBOX.DUE_AT.le(clock.instant()))
        .fetchSingle()
        .value1();
  }

  /** Takes the next message for a while; if this instance dies, another tries after the lease. */
  private Optional<Message> claim() {
    Instant now = clock.instant();
    Optional<Message> next =
        db.select(
                OUTBOX.ID,
                OUTBOX.KIND,
                OUTBOX.ONCE_KEY,
                OUTBOX.ORDER_ID,
                OUTBOX.CONSIGNMENT_ID,
                OUTBOX.BODY,
                OUTBOX.ATTEMPTS)
            .from(OUTBOX)
            .where(OUTBOX.STATE.eq("PENDING"))
            .and(OUTBOX.DUE_AT.le(now))
            .and(isItsTurn(now))
            .orderBy(OUTBOX.DUE_AT)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOptional(r ->
                new Message(
                    r.value1(),
                    Kind.valueOf(r.value2()),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6() == null ? "" : r.value6(),
                    r.value7() + 1));
    next.ifPresent(m -> {
      Instant lease = now.plus(settings.outboxLease());
      db.update(OUTBOX)
          .set(OUTBOX.DUE_AT, lease)
          .set(OUTBOX.CLAIMED_UNTIL, lease)
          .set(OUTBOX.ATTEMPTS, m.attempt())
          .where(OUTBOX.ID.eq(m.id()))
          .execute();
    });
    return next;
  }

  /**
   * Nobody speaks to its channel now, and nothing earlier of its order is still to be told there.
   */
  private static Condition isItsTurn(Instant now) {
    var other = OUTBOX.as("other");
    return OUTBOX
        .CHANNEL_ID
        .isNull()
        .or(
            notExists(
                    selectOne()
                        .from(other)
                        .where(other.CHANNEL_ID.eq(OUTBOX.CHANNEL_ID))
                        .and(other.STATE.eq("PENDING"))
                        .and(other.CLAIMED_UNTIL.gt(now)))
                .and(
                    notExists(
                        selectOne()
                            .from(other)
                            .where(other.ORDER_ID.eq(OUTBOX.ORDER_ID))
                            .and(other.CHANNEL_ID.isNotNull())
                            .and(other.STATE.in("PENDING", "WAITING"))
                            .and(other.ID.lt(OUTBOX.ID)))));
  }

  private void delivered(Message message, EventKind kind, String sentence) {
    orders.lock(message.orderId());
    int first =
        db.update(OUTBOX)
            .set(OUTBOX.STATE, "DONE")
            .set(OUTBOX.DONE_AT, clock.instant())
            .setNull(OUTBOX.LAST_ERROR)
            .setNull(OUTBOX.CLAIMED_UNTIL)
            .where(OUTBOX.ID.eq(message.id()))
            .and(OUTBOX.STATE.eq("PENDING"))
            .execute();
    if (first == 1) {
      events.record(kind, message.orderId(), message.consignmentId(), "desk", sentence, "");
    }
  }

  private void waits(Message message, Snags.About about) {
    orders.lock(message.orderId());
    db.update(OUTBOX)
        .set(OUTBOX.STATE, "WAITING")
        .set(OUTBOX.LAST_ERROR, Texts.cut(about.title(), 400))
        .setNull(OUTBOX.CLAIMED_UNTIL)
        .where(OUTBOX.ID.eq(message.id()))
        .execute();
    snags.open(about, message.orderId(), "desk");
  }

  private void failed(
      Message message, String error, boolean forGood, @Nullable Duration retryAfter) {
    OrderHead order = orders.lock(message.orderId());
    boolean giveUp = forGood || message.attempt() >= ATTEMPTS;
    Duration pause = settings.outboxPause().multipliedBy(1L << (message.attempt() - 1));
    if (retryAfter != null && retryAfter.compareTo(pause) > 0) {
      pause = retryAfter;
    }
    db.update(OUTBOX)
        .set(OUTBOX.STATE, giveUp ? "DEAD" : "PENDING")
        .set(OUTBOX.DUE_AT, clock.instant().plus(pause))
        .set(OUTBOX.LAST_ERROR, Texts.cut(error, 400))
        .setNull(OUTBOX.CLAIMED_UNTIL)
        .where(OUTBOX.ID.eq(message.id()))
        .execute();
    if (giveUp) {
      snags.open(
          Snags.About.of(
                  SnagCause.NOT_TOLD,
                  message.id(),
                  untold(message.kind(), order.number()),
                  Texts.cut(error, 300))
              .outbox(order.id(), message.id()),
          order.id(),
          "desk");
    }
  }

  private static String untold(Kind kind, String number) {
    return switch (kind) {
      case WRITE_BACK -> "The channel could not be told that " + number + " was shipped";
      case CANCELLATION -> "The channel could not be told that " + number + " was cancelled";
      case OBJECTION -> "The channel could not be told that " + number + " stays as it was";
      case REFUND -> "The channel could not be told to pay back for " + number;
      case MAIL -> "The buyer could not be told that " + number + " was sent, or is ready";
      case BUYER -> "The buyer of " + number + " could not be told of the wait";
      case VOID_LABEL -> "A label of " + number + " is not used, and still valid";
      case NOTICE -> "Somebody whom a rule names could not be told of " + number;
    };
  }

  private Delivery delivery(Kind kind) {
    Delivery delivery = deliveries.get(kind);
    if (delivery == null) {
      throw new IllegalStateException("nothing delivers " + kind);
    }
    return delivery;
  }
}
