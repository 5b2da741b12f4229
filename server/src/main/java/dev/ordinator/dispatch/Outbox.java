package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.OUTBOX;

import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoop;
import dev.ordinator.platform.WorkLoops;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What others have yet to be told, written in the transaction of what it tells of and delivered
 * afterwards, with growing pauses. Delivered at least once; each message carries a key by which its
 * receiver can tell a repeat.
 */
@Service
public class Outbox {
  private static final int ATTEMPTS = 8;

  private final DSLContext db;
  private final Transactions transactions;
  private final Orders orders;
  private final Snags snags;
  private final Events events;
  private final Clock clock;
  private final OrdinatorSettings settings;
  private final Map<Kind, Delivery> deliveries;
  private final WorkLoop loop;

  Outbox(
      DSLContext db,
      Transactions transactions,
      Orders orders,
      Snags snags,
      Events events,
      Clock clock,
      OrdinatorSettings settings,
      List<Delivery> deliveries,
      WorkLoops loops) {
    this.db = db;
    this.transactions = transactions;
    this.orders = orders;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
    this.deliveries =
        deliveries.stream().collect(Collectors.toMap(Delivery::kind, Function.identity()));
    this.loop = loops.add("outbox", this::deliverOne);
  }

  /** Whom a message is for. */
  public enum Kind {
    WRITE_BACK,
    MAIL
  }

  /**
   * @param onceKey the same for every attempt
   */
  public record Message(
      long id, Kind kind, String onceKey, long orderId, long consignmentId, int attempt) {}

  /** Delivers messages of one kind. */
  public interface Delivery {
    Kind kind();

    /**
     * Delivers, or throws with a message that says what was wrong.
     *
     * @return a sentence for the order's timeline
     */
    String deliver(Message message);

    EventKind told();
  }

  /**
   * Notes that channel and buyer are to be told of a hand-over; nothing for a listen-only channel.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void tellShipped(OrderHead order, Head consignment) {
    for (Kind kind : Kind.values()) {
      boolean nobody = kind == Kind.MAIL && order.email().isBlank();
      db.insertInto(OUTBOX)
          .set(OUTBOX.KIND, kind.name())
          .set(OUTBOX.ONCE_KEY, kind + ":" + consignment.number() + ":shipped")
          .set(OUTBOX.ORDER_ID, order.id())
          .set(OUTBOX.CONSIGNMENT_ID, consignment.id())
          .set(OUTBOX.STATE, !order.writesBack() || nobody ? "SKIPPED" : "PENDING")
          .set(OUTBOX.DUE_AT, clock.instant())
          .execute();
    }
    if (!order.writesBack()) {
      events.record(
          EventKind.NOT_TOLD,
          order.id(),
          consignment.id(),
          "desk",
          "Neither channel nor buyer was told",
          "the connection only listens");
    }
  }

  void nudge() {
    loop.nudge();
  }

  /** A person has a message that was given up tried again. */
  public void tryAgain(long id, String actor) {
    transactions.run(() -> {
      int revived =
          db.update(OUTBOX)
              .set(OUTBOX.STATE, "PENDING")
              .set(OUTBOX.ATTEMPTS, 0)
              .set(OUTBOX.DUE_AT, clock.instant())
              .where(OUTBOX.ID.eq(id))
              .and(OUTBOX.STATE.eq("DEAD"))
              .execute();
      if (revived == 0) {
        throw Problem.conflict("that message is not waiting for a person");
      }
      snags.close(SnagCause.NOT_TOLD, id, actor);
    });
    nudge();
  }

  /** Delivers one message, if one is due; false if none is. */
  public boolean deliverOne() {
    Optional<Message> claimed = transactions.get(this::claim);
    claimed.ifPresent(message -> {
      Delivery delivery = delivery(message.kind());
      try {
        String sentence = delivery.deliver(message);
        transactions.run(() -> delivered(message, delivery.told(), sentence));
      } catch (RuntimeException e) {
        transactions.run(() -> failed(message, Texts.cut(Texts.of(e), 400)));
      }
    });
    return claimed.isPresent();
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
                OUTBOX.ATTEMPTS)
            .from(OUTBOX)
            .where(OUTBOX.STATE.eq("PENDING"))
            .and(OUTBOX.DUE_AT.le(now))
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
                    r.value6() + 1));
    next.ifPresent(m ->
        db.update(OUTBOX)
            .set(OUTBOX.DUE_AT, now.plus(settings.outboxLease()))
            .set(OUTBOX.ATTEMPTS, m.attempt())
            .where(OUTBOX.ID.eq(m.id()))
            .execute());
    return next;
  }

  private void delivered(Message message, EventKind kind, String sentence) {
    orders.lock(message.orderId());
    int first =
        db.update(OUTBOX)
            .set(OUTBOX.STATE, "DONE")
            .set(OUTBOX.DONE_AT, clock.instant())
            .setNull(OUTBOX.LAST_ERROR)
            .where(OUTBOX.ID.eq(message.id()))
            .and(OUTBOX.STATE.eq("PENDING"))
            .execute();
    if (first == 1) {
      events.record(kind, message.orderId(), message.consignmentId(), "desk", sentence, "");
    }
  }

  private void failed(Message message, String error) {
    OrderHead order = orders.lock(message.orderId());
    boolean giveUp = message.attempt() >= ATTEMPTS;
    Duration pause = settings.outboxPause().multipliedBy(1L << (message.attempt() - 1));
    db.update(OUTBOX)
        .set(OUTBOX.STATE, giveUp ? "DEAD" : "PENDING")
        .set(OUTBOX.DUE_AT, clock.instant().plus(pause))
        .set(OUTBOX.LAST_ERROR, error)
        .where(OUTBOX.ID.eq(message.id()))
        .execute();
    if (giveUp) {
      String whom = message.kind() == Kind.MAIL ? "The buyer" : "The channel";
      snags.open(
          Snags.About.of(
                  SnagCause.NOT_TOLD,
                  message.id(),
                  whom + " could not be told that " + order.number() + " was shipped",
                  error)
              .outbox(order.id(), message.id()),
          order.id(),
          "desk");
    }
  }

  private Delivery delivery(Kind kind) {
    Delivery delivery = deliveries.get(kind);
    if (delivery == null) {
      throw new IllegalStateException("nothing delivers " + kind);
    }
    return delivery;
  }
}
