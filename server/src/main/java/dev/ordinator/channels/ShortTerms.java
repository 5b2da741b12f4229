package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;

import dev.ordinator.platform.Problem;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What channels have agreed on for goods that are short. */
@Component
public class ShortTerms {
  private static final int LONGEST = 365;
  private static final int LONGEST_NOTICE = 90;

  private final DSLContext db;

  ShortTerms(DSLContext db) {
    this.db = db;
  }

  /** What becomes of what may not wait. */
  public enum IfNot {
    CANCEL,
    /** Another item is sent instead; if none can be, a person is asked. */
    REPLACE,
    /** A person is asked. */
    SNAG
  }

  /** What it means if a buyer does not answer. */
  public enum NoAnswer {
    WAIT,
    CANCEL
  }

  /**
   * @param mayWait whether orders wait for what is short
   * @param inPart whether what is there is sent meanwhile; null: as the ladder says
   * @param mayReplace whether another item may be sent instead
   * @param cancelAfter days after which what still waits is cancelled; null: never
   * @param warnBefore days before that on which the buyer is told
   * @param answerWithin days that a buyer has to answer
   * @param freeHeld hours on hold after which what an order holds is free; null: never
   */
  public record Agreed(
      boolean mayWait,
      IfNot ifNot,
      @Nullable Boolean inPart,
      boolean mayReplace,
      @Nullable Integer cancelAfter,
      int warnBefore,
      int answerWithin,
      NoAnswer noAnswer,
      @Nullable Integer freeHeld) {}

  public Agreed of(long channelId) {
    return db.select(
            CHANNEL.MAY_WAIT,
            CHANNEL.IF_NOT,
            CHANNEL.IN_PART,
            CHANNEL.MAY_REPLACE,
            CHANNEL.CANCEL_AFTER,
            CHANNEL.WARN_BEFORE,
            CHANNEL.ANSWER_WITHIN,
            CHANNEL.NO_ANSWER,
            CHANNEL.FREE_HELD)
        .from(CHANNEL)
        .where(CHANNEL.ID.eq(channelId))
        .fetchOptional(r ->
            new Agreed(
                r.value1(),
                IfNot.valueOf(r.value2()),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                NoAnswer.valueOf(r.value8()),
                r.value9()))
        .orElseThrow(() -> Problem.notFound("channel " + channelId));
  }

  /**
   * @throws Problem if a number of days is not sound
   */
  @Transactional
  public void agree(long channelId, Agreed terms) {
    Integer after = terms.cancelAfter();
    if (after != null && (after < 1 || after > LONGEST)) {
      throw Problem.invalid("cancelAfter", "1 to 365 days, or never");
    }
    if (terms.warnBefore() < 0
        || terms.warnBefore() > LONGEST_NOTICE
        || (after != null && terms.warnBefore() >= after)) {
      throw Problem.invalid("warnBefore", "fewer days than until it is cancelled, at most 90");
    }
    if (terms.answerWithin() < 1 || terms.answerWithin() > LONGEST_NOTICE) {
      throw Problem.invalid("answerWithin", "1 to 90 days");
    }
    Integer hours = terms.freeHeld();
    if (hours != null && (hours < 1 || hours > 8760)) {
      throw Problem.invalid("freeHeld", "1 to 8,760 hours, or never");
    }
    int changed =
        db.update(CHANNEL)
            .set(CHANNEL.MAY_WAIT, terms.mayWait())
            .set(CHANNEL.IF_NOT, terms.ifNot().name())
            .set(CHANNEL.IN_PART, terms.inPart())
            .set(CHANNEL.MAY_REPLACE, terms.mayReplace())
            .set(CHANNEL.CANCEL_AFTER, terms.cancelAfter())
            .set(CHANNEL.WARN_BEFORE, terms.warnBefore())
            .set(CHANNEL.ANSWER_WITHIN, terms.answerWithin())
            .set(CHANNEL.NO_ANSWER, Objects.requireNonNull(terms.noAnswer()).name())
            .set(CHANNEL.FREE_HELD, terms.freeHeld())
            .where(CHANNEL.ID.eq(channelId))
            .execute();
    if (changed == 0) {
      throw Problem.notFound("channel " + channelId);
    }
  }
}
