package dev.ordinator.access;

import static dev.ordinator.schema.Tables.LOGIN_FAILURE;
import static org.jooq.impl.DSL.max;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Locale;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Slows down whoever guesses passwords, with pauses that grow. It goes by name and address
 * together, so that nobody can keep another out, and by address alone, for those who try many
 * names. Names that don't exist count likewise, so that nobody learns which do.
 */
@Component
class LoginThrottle {
  /** Everybody mistypes; a household or an office has one address. */
  private static final int FREE_BY_NAME = 4;

  private static final int FREE_BY_ADDRESS = 40;

  private static final Duration FIRST_PAUSE = Duration.ofSeconds(5);
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(15);
  private static final Duration FORGOTTEN_AFTER = Duration.ofDays(1);

  private final DSLContext db;
  private final Clock clock;

  LoginThrottle(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /** Whether no password of theirs is looked at now. */
  boolean isPaused(String name, String address) {
    Instant until =
        db.select(max(LOGIN_FAILURE.UNTIL))
            .from(LOGIN_FAILURE)
            .where(LOGIN_FAILURE.WHO.in(key(name, address), key("", address)))
            .fetchSingle()
            .value1();
    return until != null && until.isAfter(clock.instant());
  }

  @Transactional
  void failed(String name, String address) {
    db.deleteFrom(LOGIN_FAILURE)
        .where(LOGIN_FAILURE.LAST_AT.lt(clock.instant().minus(FORGOTTEN_AFTER)))
        .execute();
    // in one order, as two may fail at once
    count(key("", address), FREE_BY_ADDRESS);
    count(key(name, address), FREE_BY_NAME);
  }

  private void count(String who, int free) {
    Instant now = clock.instant();
    db.insertInto(LOGIN_FAILURE)
        .set(LOGIN_FAILURE.WHO, who)
        .set(LOGIN_FAILURE.FAILURES, 1)
        .set(LOGIN_FAILURE.UNTIL, now)
        .set(LOGIN_FAILURE.LAST_AT, now)
        .onDuplicateKeyUpdate()
        .set(LOGIN_FAILURE.FAILURES, LOGIN_FAILURE.FAILURES.plus(1))
        .set(LOGIN_FAILURE.LAST_AT, now)
        .execute();
    int failures =
        db.select(LOGIN_FAILURE.FAILURES)
            .from(LOGIN_FAILURE)
            .where(LOGIN_FAILURE.WHO.eq(who))
            .fetchSingle()
            .value1();
    if (failures > free) {
      db.update(LOGIN_FAILURE)
          .set(LOGIN_FAILURE.UNTIL, now.plus(pause(failures - free)))
          .where(LOGIN_FAILURE.WHO.eq(who))
          .execute();
    }
  }

  /** Five seconds, and twice as long with each failure more, up to a quarter of an hour. */
  static Duration pause(int failuresBeyond) {
    Duration pause = FIRST_PAUSE.multipliedBy(1L << Math.min(failuresBeyond - 1, 20));
    return pause.compareTo(LONGEST_PAUSE) < 0 ? pause : LONGEST_PAUSE;
  }

  /** Who gets in has not guessed. */
  void succeeded(String name, String address) {
    db.deleteFrom(LOGIN_FAILURE).where(LOGIN_FAILURE.WHO.eq(key(name, address))).execute();
  }

  private static String key(String name, String address) {
    try {
      byte[] text =
          (name.strip().toLowerCase(Locale.ROOT) + '\n' + address).getBytes(StandardCharsets.UTF_8);
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(text));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
