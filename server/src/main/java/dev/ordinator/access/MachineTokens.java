package dev.ordinator.access;

import static dev.ordinator.schema.Tables.MACHINE_TOKEN;

import dev.ordinator.platform.Digests;
import dev.ordinator.platform.Problem;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Tokens by which machines prove who they are (RFC 6750). A token is shown once, when it is made;
 * what is kept is its digest: it is 256 random bits, so that no salt is needed.
 */
@Service
public class MachineTokens {
  private static final int BYTES = 32;
  private static final int HINT = 4;

  /** Uses are noted no more often than this, so that reading does not mean writing. */
  private static final Duration NOTED_EVERY = Duration.ofMinutes(1);

  private final DSLContext db;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  MachineTokens(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * A token as a person sees it.
   *
   * @param hint how it ends
   * @param lastUsedAt to the minute; null: never
   */
  public record Card(
      long id,
      String name,
      String hint,
      Set<Scope> scopes,
      String createdBy,
      Instant createdAt,
      @Nullable Instant lastUsedAt,
      @Nullable Instant revokedAt) {}

  /**
   * @return the token, which can't be had again
   */
  public String create(long channelId, String name, Set<Scope> scopes, String actor) {
    if (name.isBlank() || name.length() > 80) {
      throw Problem.invalid("name", "say in 1 to 80 characters who will use it");
    }
    if (scopes.isEmpty()) {
      throw Problem.invalid("scopes", "say what it may do");
    }
    byte[] secret = new byte[BYTES];
    random.nextBytes(secret);
    String token = "ord_" + Base64.getUrlEncoder().withoutPadding().encodeToString(secret);
    db.insertInto(MACHINE_TOKEN)
        .set(MACHINE_TOKEN.CHANNEL_ID, channelId)
        .set(MACHINE_TOKEN.NAME, name.strip())
        .set(MACHINE_TOKEN.DIGEST, Digests.sha256(token))
        .set(MACHINE_TOKEN.HINT, token.substring(token.length() - HINT))
        .set(MACHINE_TOKEN.SCOPES, words(scopes))
        .set(MACHINE_TOKEN.CREATED_BY, actor)
        .set(MACHINE_TOKEN.CREATED_AT, clock.instant())
        .execute();
    return token;
  }

  /** It lets nobody in any more, from this moment on. */
  public void revoke(long channelId, long id) {
    int revoked =
        db.update(MACHINE_TOKEN)
            .set(MACHINE_TOKEN.REVOKED_AT, clock.instant())
            .where(MACHINE_TOKEN.ID.eq(id))
            .and(MACHINE_TOKEN.CHANNEL_ID.eq(channelId))
            .and(MACHINE_TOKEN.REVOKED_AT.isNull())
            .execute();
    if (revoked == 0) {
      throw Problem.notFound("a token " + id + " that lets anybody in");
    }
  }

  /** Newest first. */
  public List<Card> of(long channelId) {
    return db.select(
            MACHINE_TOKEN.ID,
            MACHINE_TOKEN.NAME,
            MACHINE_TOKEN.HINT,
            MACHINE_TOKEN.SCOPES,
            MACHINE_TOKEN.CREATED_BY,
            MACHINE_TOKEN.CREATED_AT,
            MACHINE_TOKEN.LAST_USED_AT,
            MACHINE_TOKEN.REVOKED_AT)
        .from(MACHINE_TOKEN)
        .where(MACHINE_TOKEN.CHANNEL_ID.eq(channelId))
        .orderBy(MACHINE_TOKEN.ID.desc())
        .fetch(r ->
            new Card(
                r.value1(),
                r.value2(),
                r.value3(),
                scopes(r.value4()),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }

  /** Who bears a token; empty if it lets nobody in. */
  Optional<Machine> bearer(String token) {
    var found =
        db.select(
                MACHINE_TOKEN.ID,
                MACHINE_TOKEN.CHANNEL_ID,
                MACHINE_TOKEN.NAME,
                MACHINE_TOKEN.SCOPES,
                MACHINE_TOKEN.LAST_USED_AT)
            .from(MACHINE_TOKEN)
            .where(MACHINE_TOKEN.DIGEST.eq(Digests.sha256(token)))
            .and(MACHINE_TOKEN.REVOKED_AT.isNull())
            .fetchOptional();
    found.ifPresent(r -> noteUse(r.value1(), r.value5()));
    return found.map(r -> new Machine(r.value1(), r.value2(), r.value3(), scopes(r.value4())));
  }

  private void noteUse(long id, @Nullable Instant last) {
    Instant now = clock.instant();
    if (last == null || last.isBefore(now.minus(NOTED_EVERY))) {
      db.update(MACHINE_TOKEN)
          .set(MACHINE_TOKEN.LAST_USED_AT, now)
          .where(MACHINE_TOKEN.ID.eq(id))
          .execute();
    }
  }

  private static String words(Set<Scope> scopes) {
    return EnumSet.copyOf(scopes).stream().map(Scope::name).collect(Collectors.joining(" "));
  }

  private static Set<Scope> scopes(String words) {
    return Arrays.stream(words.split(" ", -1))
        .map(Scope::valueOf)
        .collect(Collectors.toCollection(() -> EnumSet.noneOf(Scope.class)));
  }
}
