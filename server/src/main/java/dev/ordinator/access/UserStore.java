package dev.ordinator.access;

import static dev.ordinator.schema.Tables.APP_USER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

@Repository
class UserStore {
  private static final int FAILURES_ALLOWED = 5;
  private static final Duration LOCKED_FOR = Duration.ofMinutes(5);

  private final DSLContext db;
  private final Clock clock;

  UserStore(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  record Login(Person person, String passwordHash, @Nullable Instant lockedUntil) {}

  Optional<Login> find(String username) {
    return db.select(
            APP_USER.ID,
            APP_USER.USERNAME,
            APP_USER.DISPLAY_NAME,
            APP_USER.ROLE,
            APP_USER.NODE_ID,
            APP_USER.PASSWORD_HASH,
            APP_USER.LOCKED_UNTIL)
        .from(APP_USER)
        .where(APP_USER.USERNAME.eq(username))
        .fetchOptional(r ->
            new Login(
                new Person(
                    r.value1(), r.value2(), r.value3(), Role.valueOf(r.value4()), r.value5()),
                r.value6(),
                r.value7()));
  }

  boolean isEmpty() {
    return !db.fetchExists(APP_USER);
  }

  /** Counts a failure; after five in a row nobody gets in under this name for five minutes. */
  @Transactional
  void failed(long id) {
    db.update(APP_USER)
        .set(APP_USER.FAILED_LOGINS, APP_USER.FAILED_LOGINS.plus(1))
        .where(APP_USER.ID.eq(id))
        .execute();
    db.update(APP_USER)
        .set(APP_USER.LOCKED_UNTIL, clock.instant().plus(LOCKED_FOR))
        .set(APP_USER.FAILED_LOGINS, 0)
        .where(APP_USER.ID.eq(id))
        .and(APP_USER.FAILED_LOGINS.ge(FAILURES_ALLOWED))
        .execute();
  }

  void succeeded(long id) {
    db.update(APP_USER)
        .set(APP_USER.FAILED_LOGINS, 0)
        .setNull(APP_USER.LOCKED_UNTIL)
        .where(APP_USER.ID.eq(id))
        .and(APP_USER.FAILED_LOGINS.ne(0).or(APP_USER.LOCKED_UNTIL.isNotNull()))
        .execute();
  }

  /**
   * @throws org.springframework.dao.DuplicateKeyException if the name is taken
   */
  void add(
      String username, String displayName, String passwordHash, Role role, @Nullable Long nodeId) {
    db.insertInto(APP_USER)
        .set(APP_USER.USERNAME, username)
        .set(APP_USER.DISPLAY_NAME, displayName)
        .set(APP_USER.PASSWORD_HASH, passwordHash)
        .set(APP_USER.ROLE, role.name())
        .set(APP_USER.NODE_ID, nodeId)
        .set(APP_USER.CREATED_AT, clock.instant())
        .execute();
  }
}
