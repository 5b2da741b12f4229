package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.EXCHANGE;
import static org.jooq.impl.DSL.noCondition;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.channels.ChannelHttp.Call;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * What was said to channels and what they answered, for thirty days. Headers are not kept, for they
 * hold what proves who we are; long texts are cut.
 */
@Configuration
class ExchangeLog {
  private static final Duration KEPT = Duration.ofDays(30);
  private static final int LONGEST = 4_000;
  private static final int PAGE = 50;

  private final DSLContext db;
  private final Clock clock;

  ExchangeLog(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * @param status HTTP; null: no answer came
   */
  record Exchange(
      long id,
      Instant at,
      String purpose,
      String method,
      String address,
      String request,
      @Nullable Integer status,
      String answer,
      int millis) {}

  void note(
      Channel channel,
      Call call,
      String sent,
      @Nullable Integer status,
      String answer,
      long begunNanos) {
    db.insertInto(EXCHANGE)
        .set(EXCHANGE.CHANNEL_ID, channel.id())
        .set(EXCHANGE.AT, clock.instant())
        .set(EXCHANGE.PURPOSE, call.purpose())
        .set(EXCHANGE.METHOD, call.method().name())
        .set(EXCHANGE.ADDRESS, Texts.cut(call.path(), 400))
        .set(EXCHANGE.REQUEST, Texts.cut(sent, LONGEST))
        .set(EXCHANGE.STATUS, status)
        .set(EXCHANGE.ANSWER, Texts.cut(answer, LONGEST))
        .set(EXCHANGE.MILLIS, (int) Duration.ofNanos(System.nanoTime() - begunNanos).toMillis())
        .execute();
  }

  /** Newest first. */
  Slice<Exchange> of(long channelId, boolean failedOnly, @Nullable Long before) {
    List<Exchange> rows =
        db.select(
                EXCHANGE.ID,
                EXCHANGE.AT,
                EXCHANGE.PURPOSE,
                EXCHANGE.METHOD,
                EXCHANGE.ADDRESS,
                EXCHANGE.REQUEST,
                EXCHANGE.STATUS,
                EXCHANGE.ANSWER,
                EXCHANGE.MILLIS)
            .from(EXCHANGE)
            .where(EXCHANGE.CHANNEL_ID.eq(channelId))
            .and(EXCHANGE.ID.lt(before == null ? Long.MAX_VALUE : before))
            .and(failedOnly ? EXCHANGE.STATUS.isNull().or(EXCHANGE.STATUS.ge(400)) : noCondition())
            .orderBy(EXCHANGE.ID.desc())
            .limit(PAGE + 1)
            .fetch(r ->
                new Exchange(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7(),
                    r.value8(),
                    r.value9()));
    return Slice.of(rows, PAGE, row -> Long.toString(row.id()));
  }

  @Bean
  RecurringTask<Void> forgetOldExchanges() {
    return Tasks.recurring("forget-exchanges", Schedules.fixedDelay(Duration.ofHours(6)))
        .execute((instance, context) ->
            db.deleteFrom(EXCHANGE).where(EXCHANGE.AT.lt(clock.instant().minus(KEPT))).execute());
  }
}
