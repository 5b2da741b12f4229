package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.HOOK;
import static dev.ordinator.schema.Tables.HOOK_DELIVERY;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectOne;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.machines.HookPost.Heard;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.SecretBox;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoops;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Delivers what webhooks are to be told, at least once, with growing pauses; each webhook is spoken
 * to by one loop at a time, so that one that hangs does not take them all.
 */
@Configuration
class HookDeliveries {
  private static final int ATTEMPTS = 8;
  private static final int LOOPS = 3;
  private static final int GONE = 410;
  private static final Duration KEPT = Duration.ofDays(30);

  private final DSLContext db;
  private final Transactions transactions;
  private final HookPost post;
  private final SecretBox secrets;
  private final Snags snags;
  private final OrdinatorSettings settings;
  private final Clock clock;

  HookDeliveries(
      DSLContext db,
      Transactions transactions,
      HookPost post,
      SecretBox secrets,
      Snags snags,
      OrdinatorSettings settings,
      Clock clock,
      WorkLoops loops) {
    this.db = db;
    this.transactions = transactions;
    this.post = post;
    this.secrets = secrets;
    this.snags = snags;
    this.settings = settings;
    this.clock = clock;
    for (int i = 1; i <= LOOPS; i++) {
      loops.add("hooks-" + i, this::deliverOne);
    }
  }

  private record Due(
      long id,
      long hookId,
      long channelId,
      String address,
      byte[] secret,
      String messageId,
      String body,
      int attempt) {}

  private boolean deliverOne() {
    Optional<Due> claimed = transactions.get(this::claim);
    claimed.ifPresent(due -> {
      Heard heard =
          post.send(due.address(), secrets.open(due.secret()), due.messageId(), due.body());
      transactions.run(() -> heard(due, heard));
    });
    return claimed.isPresent();
  }

  /** Takes the next message of a webhook that nobody speaks to now, for a while. */
  private Optional<Due> claim() {
    Instant now = clock.instant();
    Condition due = HOOK_DELIVERY.STATE.eq("PENDING").and(HOOK_DELIVERY.DUE_AT.le(now));
    Condition claimed = HOOK_DELIVERY.STATE.eq("PENDING").and(HOOK_DELIVERY.CLAIMED_UNTIL.gt(now));
    Condition its = HOOK_DELIVERY.HOOK_ID.eq(HOOK.ID);
    return db.select(HOOK.ID)
        .from(HOOK)
        .where(HOOK.ACTIVE.isTrue())
        .and(exists(selectOne().from(HOOK_DELIVERY).where(its).and(due)))
        .and(notExists(selectOne().from(HOOK_DELIVERY).where(its).and(claimed)))
        .limit(1)
        .forUpdate()
        .skipLocked()
        .fetchOptional(HOOK.ID)
        // another may have claimed one of its messages just before the webhook was locked
        .filter(hook -> !db.fetchExists(HOOK_DELIVERY, HOOK_DELIVERY.HOOK_ID.eq(hook).and(claimed)))
        .flatMap(hook ->
            db.select(HOOK_DELIVERY.ID)
                .from(HOOK_DELIVERY)
                .where(HOOK_DELIVERY.HOOK_ID.eq(hook))
                .and(due)
                .orderBy(HOOK_DELIVERY.DUE_AT, HOOK_DELIVERY.ID)
                .limit(1)
                .fetchOptional(HOOK_DELIVERY.ID))
        .map(id -> lease(id, now.plus(settings.outboxLease())));
  }

  private Due lease(long id, Instant until) {
    db.update(HOOK_DELIVERY)
        .set(HOOK_DELIVERY.ATTEMPTS, HOOK_DELIVERY.ATTEMPTS.plus(1))
        .set(HOOK_DELIVERY.DUE_AT, until)
        .set(HOOK_DELIVERY.CLAIMED_UNTIL, until)
        .where(HOOK_DELIVERY.ID.eq(id))
        .execute();
    return db.select(
            HOOK_DELIVERY.ID,
            HOOK.ID,
            HOOK.CHANNEL_ID,
            HOOK.ADDRESS,
            HOOK.SECRET,
            HOOK_DELIVERY.MESSAGE_ID,
            HOOK_DELIVERY.BODY,
            HOOK_DELIVERY.ATTEMPTS)
        .from(HOOK_DELIVERY)
        .join(HOOK)
        .on(HOOK.ID.eq(HOOK_DELIVERY.HOOK_ID))
        .where(HOOK_DELIVERY.ID.eq(id))
        .fetchSingle(r ->
            new Due(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }

  private void heard(Due due, Heard heard) {
    boolean gone = heard.status() != null && heard.status() == GONE;
    boolean givenUp = !heard.isTaken() && (gone || due.attempt() >= ATTEMPTS);
    Instant now = clock.instant();
    db.update(HOOK_DELIVERY)
        .set(HOOK_DELIVERY.STATE, heard.isTaken() ? "DONE" : givenUp ? "DEAD" : "PENDING")
        .set(HOOK_DELIVERY.DUE_AT, now.plus(pause(due.attempt())))
        .setNull(HOOK_DELIVERY.CLAIMED_UNTIL)
        .set(HOOK_DELIVERY.STATUS, heard.status())
        .set(HOOK_DELIVERY.ANSWER, heard.answer())
        .set(HOOK_DELIVERY.DONE_AT, heard.isTaken() ? now : null)
        .where(HOOK_DELIVERY.ID.eq(due.id()))
        .execute();
    if (heard.isTaken()) {
      snags.close(SnagCause.HOOK_FAILS, due.hookId(), "desk");
    }
    if (gone) {
      db.update(HOOK)
          .set(HOOK.ACTIVE, false)
          .set(HOOK.STOPPED, "it answered that it is gone (410)")
          .where(HOOK.ID.eq(due.hookId()))
          .execute();
    }
    if (givenUp) {
      snags.open(
          Snags.About.of(
                  SnagCause.HOOK_FAILS,
                  due.hookId(),
                  "A webhook does not take its messages",
                  due.address() + ": " + heard.answer())
              .channel(due.channelId()),
          null,
          "desk");
    }
  }

  /** Four times as long after each attempt: with two seconds to begin with, three hours in all. */
  private Duration pause(int attempt) {
    return settings.outboxPause().multipliedBy(1L << 2 * (attempt - 1));
  }

  @Bean
  RecurringTask<Void> forgetHookDeliveries() {
    return Tasks.recurring("forget-hook-deliveries", Schedules.fixedDelay(Duration.ofHours(6)))
        .execute((instance, context) ->
            db.deleteFrom(HOOK_DELIVERY)
                .where(HOOK_DELIVERY.CREATED_AT.lt(clock.instant().minus(KEPT)))
                .and(HOOK_DELIVERY.STATE.ne("PENDING"))
                .execute());
  }
}
