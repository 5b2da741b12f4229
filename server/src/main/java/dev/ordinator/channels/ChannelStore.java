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
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

@Repository
class ChannelStore {
  private final DSLContext db;
  private final SecretBox secrets;
  private final Clock clock;

  ChannelStore(DSLContext db, SecretBox secrets, Clock clock) {
    this.db = db;
    this.secrets = secrets;
    this.clock = clock;
  }

  Channel byId(long id) {
    return find(CHANNEL.ID.eq(id)).orElseThrow(() -> Problem.notFound("channel " + id));
  }

  Optional<Channel> byCode(String code) {
    return find(CHANNEL.CODE.eq(code));
  }

  /** Connections whose next pull is due. */
  List<Channel> due() {
    return select(CHANNEL.PAUSED.isFalse().and(CHANNEL.NEXT_PULL_AT.le(clock.instant())));
  }

  void keepCursor(long id, String cursor) {
    db.update(CHANNEL).set(CHANNEL.INTAKE_CURSOR, cursor).where(CHANNEL.ID.eq(id)).execute();
  }

  /**
   * @param error null if the pull went well
   */
  void pulled(long id, int taken, @Nullable String error) {
    Instant now = clock.instant();
    int pause =
        db.select(CHANNEL.INTERVAL_SECONDS)
            .from(CHANNEL)
            .where(CHANNEL.ID.eq(id))
            .fetchSingle()
            .value1();
    var update =
        db.update(CHANNEL)
            .set(CHANNEL.LAST_PULL_AT, now)
            .set(CHANNEL.LAST_TAKEN, taken)
            .set(CHANNEL.LAST_ERROR, error)
            .set(CHANNEL.NEXT_PULL_AT, now.plusSeconds(pause));
    if (error == null) {
      update = update.set(CHANNEL.LAST_SUCCESS_AT, now);
    }
    update.where(CHANNEL.ID.eq(id)).execute();
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
            CHANNEL.CODE,
            CHANNEL.NAME,
            CHANNEL.BASE_URL,
            CHANNEL.API_KEY,
            CHANNEL.WEBHOOK_SECRET,
            CHANNEL.CURRENCY,
            CHANNEL.APPROVAL,
            CHANNEL.MATCH_BY,
            CHANNEL.LISTEN_ONLY,
            CHANNEL.INTAKE_CURSOR)
        .from(CHANNEL)
        .where(which)
        .orderBy(CHANNEL.ID)
        .fetch(this::channel);
  }

  private Channel channel(Record r) {
    return new Channel(
        r.get(CHANNEL.ID),
        r.get(CHANNEL.CODE),
        r.get(CHANNEL.NAME),
        URI.create(r.get(CHANNEL.BASE_URL)),
        secrets.open(r.get(CHANNEL.API_KEY)),
        secrets.open(r.get(CHANNEL.WEBHOOK_SECRET)),
        r.get(CHANNEL.CURRENCY),
        ApprovalPolicy.valueOf(r.get(CHANNEL.APPROVAL)),
        Channel.MatchBy.valueOf(r.get(CHANNEL.MATCH_BY)),
        r.get(CHANNEL.LISTEN_ONLY),
        r.get(CHANNEL.INTAKE_CURSOR));
  }
}
