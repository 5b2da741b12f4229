package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.IDEMPOTENCY_KEY;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.platform.Digests;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Supplier;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record4;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Requests that may be sent again without being done again, by the Idempotency-Key that they bear
 * (IETF draft-ietf-httpapi-idempotency-key-header). A key is good for a day.
 */
@Configuration
class IdempotencyKeys {
  private static final Duration KEPT = Duration.ofDays(1);

  /** What was begun so long ago and has no answer was cut off, and may be done again. */
  private static final Duration CUT_OFF = Duration.ofMinutes(1);

  private final DSLContext db;
  private final Clock clock;

  IdempotencyKeys(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  record Answer(int status, String body) {}

  /**
   * Does what is asked, or gives the answer that it got before.
   *
   * @param work must itself be safe to repeat: it is, if this process dies before the answer is
   *     kept
   * @throws Problem if the key was used for another request, or its request is under way
   */
  Answer once(long channelId, String key, String request, Supplier<Answer> work) {
    if (key.isBlank() || key.length() > 100) {
      throw Problem.invalid("Idempotency-Key", "1 to 100 characters, another for each request");
    }
    Condition mine = IDEMPOTENCY_KEY.CHANNEL_ID.eq(channelId).and(IDEMPOTENCY_KEY.GIVEN.eq(key));
    String digest = Digests.sha256(request);
    Optional<Answer> earlier = begin(mine, channelId, key, digest);
    if (earlier.isPresent()) {
      return earlier.get();
    }
    try {
      Answer answer = work.get();
      db.update(IDEMPOTENCY_KEY)
          .set(IDEMPOTENCY_KEY.STATUS, answer.status())
          .set(IDEMPOTENCY_KEY.ANSWER, answer.body())
          .where(mine)
          .execute();
      return answer;
    } catch (RuntimeException e) {
      // nothing was done: it may be mended and sent again under the same key
      db.deleteFrom(IDEMPOTENCY_KEY).where(mine).execute();
      throw e;
    }
  }

  private Optional<Answer> begin(Condition mine, long channelId, String key, String digest) {
    Instant now = clock.instant();
    int begun =
        db.insertInto(IDEMPOTENCY_KEY)
            .set(IDEMPOTENCY_KEY.CHANNEL_ID, channelId)
            .set(IDEMPOTENCY_KEY.GIVEN, key)
            .set(IDEMPOTENCY_KEY.DIGEST, digest)
            .set(IDEMPOTENCY_KEY.AT, now)
            .onDuplicateKeyIgnore()
            .execute();
    if (begun == 1) {
      return Optional.empty();
    }
    Record4<String, Integer, String, Instant> known =
        db.select(
                IDEMPOTENCY_KEY.DIGEST,
                IDEMPOTENCY_KEY.STATUS,
                IDEMPOTENCY_KEY.ANSWER,
                IDEMPOTENCY_KEY.AT)
            .from(IDEMPOTENCY_KEY)
            .where(mine)
            .fetchOptional()
            .orElseThrow(IdempotencyKeys::underWay);
    if (!known.value1().equals(digest)) {
      throw Problem.invalid(
          "Idempotency-Key", "was used for another request; give each request one of its own");
    }
    if (known.value2() != null) {
      return Optional.of(new Answer(known.value2(), known.value3()));
    }
    int takenOver =
        db.update(IDEMPOTENCY_KEY)
            .set(IDEMPOTENCY_KEY.AT, now)
            .where(mine)
            .and(IDEMPOTENCY_KEY.STATUS.isNull())
            .and(IDEMPOTENCY_KEY.AT.lt(now.minus(CUT_OFF)))
            .execute();
    if (takenOver == 0) {
      throw underWay();
    }
    return Optional.empty();
  }

  private static Problem underWay() {
    return Problem.conflict("the same request is being worked on; ask again in a moment");
  }

  @Bean
  RecurringTask<Void> forgetIdempotencyKeys() {
    return Tasks.recurring("forget-idempotency-keys", Schedules.fixedDelay(Duration.ofHours(1)))
        .execute((instance, context) ->
            db.deleteFrom(IDEMPOTENCY_KEY)
                .where(IDEMPOTENCY_KEY.AT.lt(clock.instant().minus(KEPT)))
                .execute());
  }
}
