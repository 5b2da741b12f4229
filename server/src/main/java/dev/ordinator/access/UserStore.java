package dev.ordinator.access;

import static dev.ordinator.schema.Tables.APP_USER;

import java.time.Clock;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

@Repository
class UserStore {
  private final DSLContext db;
  private final Clock clock;

  UserStore(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  record Login(Person person, String passwordHash) {}

  Optional<Login> find(String username) {
    return db.select(
            APP_USER.ID,
            APP_USER.USERNAME,
            APP_USER.DISPLAY_NAME,
            APP_USER.ROLE,
            APP_USER.NODE_ID,
            APP_USER.PASSWORD_HASH)
        .from(APP_USER)
        .where(APP_USER.USERNAME.eq(username))
        .fetchOptional(r ->
            new Login(
                new Person(
                    r.value1(), r.value2(), r.value3(), Role.valueOf(r.value4()), r.value5()),
                r.value6()));
  }

  boolean isEmpty() {
    return !db.fetchExists(APP_USER);
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
