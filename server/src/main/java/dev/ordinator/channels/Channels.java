package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SERVICE_WORD;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ApprovalPolicy;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.SecretBox;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** The connections. */
@Service
public class Channels {
  private final DSLContext db;
  private final SecretBox secrets;
  private final JsonMapper json;
  private final Clock clock;

  Channels(DSLContext db, SecretBox secrets, JsonMapper json, Clock clock) {
    this.db = db;
    this.secrets = secrets;
    this.json = json;
    this.clock = clock;
  }

  public Channel byId(long id) {
    return find(CHANNEL.ID.eq(id)).orElseThrow(() -> Problem.notFound("channel " + id));
  }

  public Optional<Channel> byCode(String code) {
    return find(CHANNEL.CODE.eq(code));
  }

  public boolean isPaused(long id) {
    return db.fetchExists(CHANNEL, CHANNEL.ID.eq(id).and(CHANNEL.PAUSED.isTrue()));
  }

  /**
   * @throws Problem if a connection is paused: then it takes nothing in by any way
   */
  public void requireOpen(Channel channel) {
    if (isPaused(channel.id())) {
      throw Problem.conflict(channel.name() + " is paused: it takes nothing in until it goes on");
    }
  }

  public List<Channel> all() {
    return select(CHANNEL.ID.isNotNull());
  }

  /**
   * Takes a connection whose next pull is due, for so long; others leave it alone meanwhile.
   *
   * @return empty if none is due
   */
  public Optional<Channel> claimDue(Duration lease) {
    Instant now = clock.instant();
    Condition due =
        CHANNEL
            .PAUSED
            .isFalse()
            .and(CHANNEL.SETUP.isNull())
            .and(CHANNEL.BASE_URL.ne(""))
            .and(CHANNEL.NEXT_PULL_AT.le(now));
    for (Long id : db.select(CHANNEL.ID).from(CHANNEL).where(due).fetch(CHANNEL.ID)) {
      int claimed =
          db.update(CHANNEL)
              .set(CHANNEL.NEXT_PULL_AT, now.plus(lease))
              .where(CHANNEL.ID.eq(id))
              .and(due)
              .execute();
      if (claimed == 1) {
        return find(CHANNEL.ID.eq(id));
      }
    }
    return Optional.empty();
  }

  /** Keeps the claims of pulls for so long again. */
  public void keepClaims(Collection<Long> ids, Duration lease) {
    db.update(CHANNEL)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant().plus(lease))
        .where(CHANNEL.ID.in(ids))
        .execute();
  }

  /** Remembers how far a pull has come, and keeps the claim for so long again. */
  public void keepCursor(long id, String cursor, Duration lease) {
    db.update(CHANNEL)
        .set(CHANNEL.INTAKE_CURSOR, cursor)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant().plus(lease))
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  /**
   * @param error null if the pull went well
   * @param pause until the next pull; null: as set
   */
  public void pulled(long id, int taken, @Nullable String error, @Nullable Duration pause) {
    Instant now = clock.instant();
    Duration interval =
        Duration.ofSeconds(
            db.select(CHANNEL.INTERVAL_SECONDS)
                .from(CHANNEL)
                .where(CHANNEL.ID.eq(id))
                .fetchSingle()
                .value1());
    var update =
        db.update(CHANNEL)
            .set(CHANNEL.LAST_PULL_AT, now)
            .set(CHANNEL.LAST_TAKEN, taken)
            .set(CHANNEL.LAST_ERROR, error)
            .set(CHANNEL.NEXT_PULL_AT, now.plus(pause == null ? interval : pause));
    if (error == null) {
      update = update.set(CHANNEL.LAST_SUCCESS_AT, now);
    }
    update.where(CHANNEL.ID.eq(id)).execute();
  }

  /** A new connection: it listens only, and takes nothing before it is set up. */
  public long add(
      ChannelKind kind, String code, String name, String prefix, String currency, Terms terms) {
    return db.insertInto(CHANNEL)
        .set(CHANNEL.KIND, kind.name())
        .set(CHANNEL.CODE, code)
        .set(CHANNEL.NAME, name)
        .set(CHANNEL.PREFIX, prefix)
        .set(CHANNEL.BASE_URL, "")
        .set(CHANNEL.SECRET, secrets.lock(""))
        .set(CHANNEL.WEBHOOK_SECRET, secrets.lock(""))
        .set(CHANNEL.CURRENCY, currency)
        .set(CHANNEL.APPROVAL, ApprovalPolicy.WHEN_PAID.name())
        .set(CHANNEL.MATCH_BY, Channel.MatchBy.SKU.name())
        // a shop that is listened to writes to its buyers itself; who orders by hand has only us
        .set(CHANNEL.MAIL_SENT, kind == ChannelKind.BY_HAND)
        .set(CHANNEL.MAIL_WAITING, kind == ChannelKind.BY_HAND)
        .set(CHANNEL.TERMS, json.writeValueAsString(terms))
        .set(CHANNEL.NEXT_PULL_AT, clock.instant())
        .returningResult(CHANNEL.ID)
        .fetchSingle()
        .value1();
  }

  public void keepTerms(long id, Terms terms) {
    db.update(CHANNEL)
        .set(CHANNEL.TERMS, json.writeValueAsString(terms))
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  public void keepCredentials(long id, URI baseUrl, Channel.Credentials credentials) {
    db.update(CHANNEL)
        .set(CHANNEL.BASE_URL, baseUrl.toString())
        .set(CHANNEL.CLIENT_ID, credentials.clientId())
        .set(CHANNEL.SECRET, secrets.lock(credentials.secret()))
        .set(CHANNEL.WEBHOOK_SECRET, secrets.lock(credentials.webhookSecret()))
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  ServiceWords serviceWords(long channelId) {
    return new ServiceWords(
        db.select(SERVICE_WORD.HOW, SERVICE_WORD.WORDING, SERVICE_WORD.LEVEL)
            .from(SERVICE_WORD)
            .where(SERVICE_WORD.CHANNEL_ID.eq(channelId))
            .fetch(r ->
                new ServiceWords.Entry(
                    ServiceWords.How.valueOf(r.value1()),
                    r.value2(),
                    ServiceLevel.valueOf(r.value3()))));
  }

  private Optional<Channel> find(Condition which) {
    return select(which).stream().findFirst();
  }

  private List<Channel> select(Condition which) {
    return db.select(
            CHANNEL.ID,
            CHANNEL.KIND,
            CHANNEL.CODE,
            CHANNEL.NAME,
            CHANNEL.BASE_URL,
            CHANNEL.CLIENT_ID,
            CHANNEL.SECRET,
            CHANNEL.WEBHOOK_SECRET,
            CHANNEL.CURRENCY,
            CHANNEL.APPROVAL,
            CHANNEL.MATCH_BY,
            CHANNEL.WRITES_BACK,
            CHANNEL.FEEDS,
            CHANNEL.TERMS,
            CHANNEL.INTAKE_CURSOR)
        .from(CHANNEL)
        .where(which)
        .orderBy(CHANNEL.ID)
        .fetch(this::channel);
  }

  private Channel channel(Record r) {
    return new Channel(
        r.get(CHANNEL.ID),
        ChannelKind.valueOf(r.get(CHANNEL.KIND)),
        r.get(CHANNEL.CODE),
        r.get(CHANNEL.NAME),
        URI.create(r.get(CHANNEL.BASE_URL)),
        new Channel.Credentials(
            r.get(CHANNEL.CLIENT_ID),
            secrets.open(r.get(CHANNEL.SECRET)),
            secrets.open(r.get(CHANNEL.WEBHOOK_SECRET))),
        r.get(CHANNEL.CURRENCY),
        ApprovalPolicy.valueOf(r.get(CHANNEL.APPROVAL)),
        Channel.MatchBy.valueOf(r.get(CHANNEL.MATCH_BY)),
        r.get(CHANNEL.WRITES_BACK),
        r.get(CHANNEL.FEEDS),
        Terms.of(json, r.get(CHANNEL.TERMS)),
        r.get(CHANNEL.INTAKE_CURSOR));
  }
}
