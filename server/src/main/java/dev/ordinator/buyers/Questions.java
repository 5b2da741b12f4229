package dev.ordinator.buyers;

import static dev.ordinator.schema.Tables.BUYER_QUESTION;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static java.util.Objects.requireNonNullElse;
import static org.jooq.impl.DSL.concat;
import static org.jooq.impl.DSL.val;
import static org.jooq.impl.SQLDataType.VARCHAR;

import dev.ordinator.backorders.Lacking;
import dev.ordinator.backorders.Substitution;
import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.channels.ShortTerms;
import dev.ordinator.channels.ShortTerms.NoAnswer;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Outbox.Kind;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderPromises;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.schema.tables.records.BuyerQuestionRecord;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * What buyers are told and asked when a promise can't be kept. Each is asked one thing at a time;
 * who does not answer has said what the channel's terms say that silence means.
 */
@Service
class Questions {
  private final DSLContext db;
  private final Orders orders;
  private final OrderPromises promises;
  private final ShortTerms terms;
  private final Lacking lacking;
  private final Cancellations cancellations;
  private final Substitution substitution;
  private final OutboxPosts outbox;
  private final Events events;
  private final JsonMapper json;
  private final Clock clock;

  Questions(
      DSLContext db,
      Orders orders,
      OrderPromises promises,
      ShortTerms terms,
      Lacking lacking,
      Cancellations cancellations,
      Substitution substitution,
      OutboxPosts outbox,
      Events events,
      JsonMapper json,
      Clock clock) {
    this.db = db;
    this.orders = orders;
    this.promises = promises;
    this.terms = terms;
    this.lacking = lacking;
    this.cancellations = cancellations;
    this.substitution = substitution;
    this.outbox = outbox;
    this.events = events;
    this.json = json;
    this.clock = clock;
  }

  /** What a buyer can say. */
  enum Answer {
    WAIT,
    REPLACE,
    CANCEL
  }

  /**
   * A letter to a buyer.
   *
   * @param questionId null: nothing is asked
   * @param until the day of arrival; null: nobody can say
   * @param cancelledOn the day on which it is cancelled unless it came; null: it is not
   */
  record Letter(
      @Nullable Long questionId, @Nullable LocalDate until, @Nullable LocalDate cancelledOn) {}

  private record Dates(@Nullable LocalDate promisedOn, @Nullable LocalDate expectedOn) {}

  /**
   * Promises the day that is to be expected now, and tells the buyer.
   *
   * @throws Problem if the order does not wait, or nobody can say when it arrives
   */
  @Transactional
  void tell(long orderId, String actor) {
    OrderHead order = waiting(orderId);
    LocalDate until = dates(orderId).expectedOn();
    if (until == null) {
      throw Problem.conflict("nobody can say when " + order.number() + " arrives: ask the buyer");
    }
    promises.renew(orderId, until, actor);
    events.record(EventKind.WAITING, orderId, actor, "Promised anew: arrives " + Texts.day(until));
    post(order, "told:" + until, new Letter(null, until, null));
  }

  /**
   * Asks the buyer to wait, take something else, or cancel.
   *
   * @throws Problem if the order does not wait, or its buyer is asked already
   */
  @Transactional
  void ask(long orderId, String actor) {
    OrderHead order = waiting(orderId);
    if (db.fetchExists(BUYER_QUESTION, BUYER_QUESTION.OPEN_KEY.eq(orderId))) {
      throw Problem.conflict("the buyer of " + order.number() + " is asked already");
    }
    outbox
        .unmailed(Kind.BUYER, order)
        .ifPresent(why -> {
          throw Problem.conflict(
              "the buyer of %s can’t be asked by mail: %s".formatted(order.number(), why));
        });
    Instant now = clock.instant();
    Dates dates = dates(orderId);
    long id =
        db.insertInto(BUYER_QUESTION)
            .set(BUYER_QUESTION.ORDER_ID, orderId)
            .set(BUYER_QUESTION.ASKED_AT, now)
            .set(BUYER_QUESTION.ASKED_BY, actor)
            .set(BUYER_QUESTION.WAS_ON, dates.promisedOn())
            .set(BUYER_QUESTION.OFFERED_ON, dates.expectedOn())
            .set(
                BUYER_QUESTION.DUE_AT,
                now.plus(Duration.ofDays(terms.of(order.channelId()).answerWithin())))
            .returningResult(BUYER_QUESTION.ID)
            .fetchSingle()
            .value1();
    events.record(EventKind.WAITING, orderId, actor, "The buyer is asked whether to wait");
    post(order, "asked:" + id, new Letter(id, dates.expectedOn(), null));
  }

  /**
   * What a buyer sees of a question.
   *
   * @param lines what is missing
   * @param until the day that is offered; null: nobody can say
   * @param instead what would be sent instead; empty: nothing can be
   * @param answered what was said; null: nothing yet
   * @param cancelled the order has been cancelled meanwhile
   * @param moot nothing is missing of it any more
   */
  record Asked(
      String number,
      List<String> lines,
      @Nullable LocalDate until,
      List<String> instead,
      @Nullable Answer answered,
      boolean cancelled,
      boolean moot) {}

  Asked of(long id) {
    BuyerQuestionRecord question = question(id);
    long order = question.getOrderId();
    Map<Long, Long> units = lacking.units(order, Set.of());
    return new Asked(
        orders.head(order).number(),
        orders.lines(order).stream()
            .filter(line -> units.containsKey(line.id()))
            .map(line -> units.get(line.id()) + " × " + line.title())
            .toList(),
        question.getOfferedOn(),
        substitution.offered(order),
        question.getAnswer() == null ? null : Answer.valueOf(question.getAnswer()),
        orders.head(order).stage() == Stage.CANCELLED,
        units.isEmpty());
  }

  /**
   * A buyer says what is wanted; only the first word counts.
   *
   * @return false if something had been said already
   */
  @Transactional
  boolean answer(long id, Answer answer) {
    OrderHead order = orders.lock(question(id).getOrderId());
    if (!order.waiting() || lacking.units(order.id(), Set.of()).isEmpty()) {
      close(id, null, "MOOT");
      return false;
    }
    if (!close(id, answer, "BUYER")) {
      return false;
    }
    follow(order, id, answer, order.buyerName());
    return true;
  }

  /** Nobody answered in time: it is done as the channel's terms say. */
  @Transactional
  void silence(long id) {
    OrderHead order = orders.lock(question(id).getOrderId());
    if (!order.waiting()) {
      close(id, null, "MOOT");
      return;
    }
    Answer answer =
        terms.of(order.channelId()).noAnswer() == NoAnswer.CANCEL ? Answer.CANCEL : Answer.WAIT;
    if (close(id, answer, "SILENCE")) {
      follow(order, id, answer, "no answer in time");
    }
  }

  /** Questions whose time is over: they were sent, and the buyer had all the days to answer. */
  List<Long> due() {
    Instant now = clock.instant();
    return db
        .select(BUYER_QUESTION.ID, BUYER_QUESTION.ASKED_AT, BUYER_QUESTION.DUE_AT, OUTBOX.DONE_AT)
        .from(BUYER_QUESTION)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BUYER_QUESTION.ORDER_ID))
        .join(OUTBOX)
        .on(
            OUTBOX.ONCE_KEY.eq(
                concat(
                    val(Kind.BUYER + ":"),
                    SALES_ORDER.NUMBER,
                    val(":asked:"),
                    BUYER_QUESTION.ID.cast(VARCHAR(20)))))
        .where(BUYER_QUESTION.ANSWERED_AT.isNull())
        .and(BUYER_QUESTION.DUE_AT.le(now))
        .and(OUTBOX.STATE.eq("DONE"))
        .stream()
        .filter(r -> !r.value4().plus(Duration.between(r.value2(), r.value3())).isAfter(now))
        .map(r -> r.value1())
        .toList();
  }

  private void follow(OrderHead order, long id, Answer answer, String actor) {
    switch (answer) {
      case WAIT -> {
        LocalDate until = question(id).getOfferedOn();
        if (until != null) {
          promises.renew(order.id(), until, actor);
        }
        events.record(EventKind.WAITING, order.id(), actor, "The buyer waits");
      }
      case REPLACE -> {
        events.record(EventKind.WAITING, order.id(), actor, "The buyer takes something else");
        substitution.replace(order, actor);
      }
      case CANCEL -> {
        Map<Long, Long> units = lacking.units(order.id(), Set.of());
        if (!units.isEmpty()) {
          cancellations.part(order, units, "the buyer did not want to wait", actor);
        }
      }
    }
  }

  private boolean close(long id, @Nullable Answer answer, String by) {
    return db.update(BUYER_QUESTION)
            .set(BUYER_QUESTION.ANSWER, answer == null ? null : answer.name())
            .set(BUYER_QUESTION.ANSWERED, by)
            .set(BUYER_QUESTION.ANSWERED_AT, clock.instant())
            .where(BUYER_QUESTION.ID.eq(id))
            .and(BUYER_QUESTION.ANSWERED_AT.isNull())
            .execute()
        == 1;
  }

  void post(OrderHead order, String once, Letter letter) {
    outbox.post(
        Kind.BUYER,
        order,
        null,
        Kind.BUYER + ":" + order.number() + ":" + once,
        json.writeValueAsString(letter));
  }

  /**
   * What became of a letter.
   *
   * @param state of its posting
   * @param doneAt when it was sent, if it was
   */
  record Sent(String state, Instant doneAt) {
    boolean isDone() {
      return state.equals("DONE");
    }

    /** Whether nothing more is tried. */
    boolean isOver() {
      return !state.equals("PENDING") && !state.equals("WAITING");
    }
  }

  /** What became of the letters of a kind to an order's buyer. */
  List<Sent> sent(OrderHead order, String once) {
    return db.select(OUTBOX.STATE, OUTBOX.DONE_AT)
        .from(OUTBOX)
        .where(OUTBOX.ORDER_ID.eq(order.id()))
        .and(OUTBOX.ONCE_KEY.startsWith(Kind.BUYER + ":" + order.number() + ":" + once))
        .fetch(r -> new Sent(r.value1(), requireNonNullElse(r.value2(), Instant.EPOCH)));
  }

  private OrderHead waiting(long orderId) {
    OrderHead order = orders.lock(orderId);
    if (!order.waiting()) {
      throw Problem.conflict(order.number() + " does not wait any more");
    }
    return order;
  }

  private Dates dates(long orderId) {
    return db.select(SALES_ORDER.PROMISED_ON, SALES_ORDER.EXPECTED_ON)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(orderId))
        .fetchSingle(r -> new Dates(r.value1(), r.value2()));
  }

  private BuyerQuestionRecord question(long id) {
    return db.selectFrom(BUYER_QUESTION)
        .where(BUYER_QUESTION.ID.eq(id))
        .fetchOptional()
        .orElseThrow(() -> Problem.notFound("question " + id));
  }
}
