package dev.ordinator.buyers;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.BUYER_QUESTION;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.greatest;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.backorders.Lacking;
import dev.ordinator.buyers.Questions.Letter;
import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;

/**
 * Ends what has waited for too long: some days before, the buyer is told; then what is missing is
 * cancelled. Never before the buyer was told and had those days; never what will be there that very
 * day, or arrives by the day that was promised; never what the buyer agreed to wait for, until that
 * day is over. A buyer who can't be told is a person's business. Questions that nobody answered end
 * as well.
 */
@Service
class Patience {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(30);
  private static final String QUEUE = "queue";
  private static final String WARNED = "warned:";
  private static final Logger LOG = LoggerFactory.getLogger(Patience.class);

  private final DSLContext db;
  private final Transactions transactions;
  private final Orders orders;
  private final Lacking lacking;
  private final Questions questions;
  private final Cancellations cancellations;
  private final Snags snags;
  private final Events events;
  private final OrdinatorSettings settings;
  private final Clock clock;

  Patience(
      DSLContext db,
      Transactions transactions,
      Orders orders,
      Lacking lacking,
      Questions questions,
      Cancellations cancellations,
      Snags snags,
      Events events,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.transactions = transactions;
    this.orders = orders;
    this.lacking = lacking;
    this.questions = questions;
    this.cancellations = cancellations;
    this.snags = snags;
    this.events = events;
    this.settings = settings;
    this.clock = clock;
  }

  /** An order that has waited for so long that it is warned of or cancelled. */
  private record Late(
      long orderId,
      Instant since,
      int cancelAfter,
      int warnBefore,
      @Nullable Instant warned,
      @Nullable LocalDate readyOn,
      @Nullable LocalDate promisedOn,
      @Nullable LocalDate expectedOn,
      @Nullable LocalDate agreedOn) {

    LocalDate end(OrdinatorSettings settings) {
      return since.plus(cancelAfter, ChronoUnit.DAYS).atZone(settings.timeZone()).toLocalDate();
    }

    /** Whether it may not be cancelled, however long it has waited. */
    boolean isSafe(LocalDate today) {
      boolean isThere = readyOn != null && !readyOn.isAfter(today);
      boolean keepsItsPromise =
          promisedOn != null && expectedOn != null && !expectedOn.isAfter(promisedOn);
      boolean agreed = agreedOn != null && !agreedOn.isBefore(today);
      return isThere || keepsItsPromise || agreed;
    }
  }

  @Bean
  RecurringTask<Void> endWaiting() {
    return Tasks.recurring("end-waiting", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> look());
  }

  /** Gives how many were warned, cancelled, or ended by silence. */
  int look() {
    int done = 0;
    for (long question : questions.due()) {
      done += safely(() -> questions.silence(question), question);
    }
    LocalDate today = clock.instant().atZone(settings.timeZone()).toLocalDate();
    for (Late late : late()) {
      if (late.isSafe(today)) {
        continue;
      }
      if (late.warned() == null) {
        done += safely(() -> warn(late, today), late.orderId());
      } else if (!late.end(settings).isAfter(today)) {
        done += safely(() -> end(late), late.orderId());
      }
    }
    return done;
  }

  private int safely(Runnable what, long id) {
    try {
      transactions.run(what::run);
      return 1;
    } catch (RuntimeException e) {
      LOG.error("waiting of {} could not be ended; tried again later", id, e);
      return 0;
    }
  }

  private List<Late> late() {
    Instant now = clock.instant();
    // the last of it: each has its days, and whoever said to wait has all of them again
    var agreed =
        field(
            select(max(BUYER_QUESTION.ANSWERED_AT))
                .from(BUYER_QUESTION)
                .where(BUYER_QUESTION.ORDER_ID.eq(SALES_ORDER.ID))
                .and(BUYER_QUESTION.ANSWER.eq("WAIT"))
                .and(BUYER_QUESTION.ANSWERED.eq("BUYER")));
    var agreedOn =
        field(
            select(max(BUYER_QUESTION.OFFERED_ON))
                .from(BUYER_QUESTION)
                .where(BUYER_QUESTION.ORDER_ID.eq(SALES_ORDER.ID))
                .and(BUYER_QUESTION.ANSWER.eq("WAIT"))
                .and(BUYER_QUESTION.ANSWERED.eq("BUYER")));
    var first = greatest(max(BACKORDER.SINCE), coalesce(agreed, max(BACKORDER.SINCE)));
    return db
        .select(
            SALES_ORDER.ID,
            first,
            CHANNEL.CANCEL_AFTER,
            CHANNEL.WARN_BEFORE,
            max(BACKORDER.WARNED_AT),
            max(BACKORDER.READY_ON),
            SALES_ORDER.PROMISED_ON,
            SALES_ORDER.EXPECTED_ON,
            agreedOn)
        .from(BACKORDER)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(BACKORDER.ORDER_ID))
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
        .where(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.LACKING)
        .and(SALES_ORDER.WAITING)
        .and(CHANNEL.CANCEL_AFTER.isNotNull())
        .groupBy(
            SALES_ORDER.ID,
            CHANNEL.CANCEL_AFTER,
            CHANNEL.WARN_BEFORE,
            SALES_ORDER.PROMISED_ON,
            SALES_ORDER.EXPECTED_ON)
        .fetch()
        .stream()
        .filter(r -> !r.value2().plus(r.value3() - (long) r.value4(), ChronoUnit.DAYS).isAfter(now))
        .map(r ->
            new Late(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9()))
        .toList();
  }

  private void warn(Late late, LocalDate today) {
    OrderHead order = orders.lock(late.orderId());
    LocalDate soonest = today.plusDays(late.warnBefore());
    LocalDate end = late.end(settings).isBefore(soonest) ? soonest : late.end(settings);
    db.update(BACKORDER)
        .set(BACKORDER.WARNED_AT, clock.instant())
        .where(BACKORDER.ORDER_ID.eq(order.id()))
        .and(BACKORDER.CLOSED_AT.isNull())
        .execute();
    events.record(
        EventKind.WAITING,
        order.id(),
        QUEUE,
        "Will be cancelled on " + Texts.day(end) + " unless it comes before");
    questions.post(order, WARNED + end, new Letter(null, late.expectedOn(), end));
  }

  private void end(Late late) {
    OrderHead order = orders.lock(late.orderId());
    if (!order.waiting()) {
      return;
    }
    List<Questions.Sent> warnings = questions.sent(order, WARNED);
    if (warnings.stream().allMatch(Questions.Sent::isOver)
        && warnings.stream().noneMatch(Questions.Sent::isDone)) {
      askOnce(late, order);
      return;
    }
    Instant warnedBy = clock.instant().minus(late.warnBefore(), ChronoUnit.DAYS);
    if (warnings.stream().noneMatch(w -> w.isDone() && !w.doneAt().isAfter(warnedBy))) {
      return;
    }
    Map<Long, Long> units = lacking.units(order.id(), Set.of());
    if (!units.isEmpty()) {
      cancellations.part(
          order, units, "it waited for %d days".formatted(late.cancelAfter()), QUEUE);
    }
  }

  /** The buyer could not be warned: a person decides, and is not asked again. */
  private void askOnce(Late late, OrderHead order) {
    boolean asked =
        db.fetchExists(
            SNAG,
            SNAG.CAUSE
                .eq(SnagCause.NOT_TO_WAIT.name())
                .and(SNAG.SUBJECT.eq(Long.toString(order.id())))
                .and(SNAG.OPENED_AT.ge(late.warned())));
    if (!asked) {
      snags.open(
          Snags.About.of(
                  SnagCause.NOT_TO_WAIT,
                  order.id(),
                  order.number() + ", " + order.buyerName(),
                  "it waited for %d days, and its buyer could not be warned: cancel it, or let it wait"
                      .formatted(late.cancelAfter()))
              .order(order.id()),
          order.id(),
          QUEUE);
    }
  }
}
