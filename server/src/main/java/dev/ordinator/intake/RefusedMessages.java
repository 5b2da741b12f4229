package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Digests;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Messages that could not be read: kept as they came, until a person corrects or discards them. */
@Service
class RefusedMessages {
  private static final int MOST = 200;

  private final DSLContext db;
  private final Connectors connectors;
  private final Snags snags;
  private final Events events;
  private final Clock clock;

  RefusedMessages(DSLContext db, Connectors connectors, Snags snags, Events events, Clock clock) {
    this.db = db;
    this.connectors = connectors;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
  }

  record Refused(
      long id,
      long channelId,
      String channel,
      String externalId,
      String source,
      String place,
      String problem,
      Instant receivedAt) {}

  /** Keeps a message, once however often it comes. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void keep(Channel channel, String message, String source, Unreadable why) {
    String id = connectors.of(channel).externalId(message);
    int isNew =
        db.insertInto(REFUSED_MESSAGE)
            .set(REFUSED_MESSAGE.CHANNEL_ID, channel.id())
            .set(REFUSED_MESSAGE.EXTERNAL_ID, id)
            .set(REFUSED_MESSAGE.SOURCE, source)
            .set(REFUSED_MESSAGE.STATE, "REFUSED")
            .set(REFUSED_MESSAGE.PLACE, Texts.cut(why.place(), 200))
            .set(REFUSED_MESSAGE.PROBLEM, Texts.cut(Texts.of(why), 400))
            .set(REFUSED_MESSAGE.BODY, message)
            .set(REFUSED_MESSAGE.DIGEST, Digests.sha256(message))
            .set(REFUSED_MESSAGE.RECEIVED_AT, clock.instant())
            .onDuplicateKeyIgnore()
            .execute();
    if (isNew == 0) {
      return;
    }
    long refused =
        db.select(REFUSED_MESSAGE.ID)
            .from(REFUSED_MESSAGE)
            .where(REFUSED_MESSAGE.CHANNEL_ID.eq(channel.id()))
            .and(REFUSED_MESSAGE.DIGEST.eq(Digests.sha256(message)))
            .fetchSingle()
            .value1();
    snags.open(
        Snags.About.of(
                SnagCause.UNREADABLE_ORDER,
                refused,
                channel.name() + (id.isEmpty() ? ": a message" : ": order " + Texts.cut(id, 60)),
                Texts.cut((why.place().isEmpty() ? "" : why.place() + " ") + Texts.of(why), 300))
            .refused(channel.id(), refused),
        null,
        channel.name());
    events.record(
        EventKind.CHANNEL_CHANGED, null, null, channel.name(), "A message was refused", "");
  }

  /** Those that wait, newest first. */
  List<Refused> waiting() {
    return select(REFUSED_MESSAGE.STATE.eq("REFUSED"));
  }

  /**
   * @throws Problem unless it waits
   */
  Refused byId(long id) {
    return select(REFUSED_MESSAGE.STATE.eq("REFUSED").and(REFUSED_MESSAGE.ID.eq(id))).stream()
        .findFirst()
        .orElseThrow(() -> Problem.notFound("refused message " + id));
  }

  String body(long id) {
    return db.select(REFUSED_MESSAGE.BODY)
        .from(REFUSED_MESSAGE)
        .where(REFUSED_MESSAGE.ID.eq(id))
        .fetchSingle()
        .value1();
  }

  /** A corrected text that still can't be read replaces the one before. */
  void keepBody(long id, String body, Unreadable why) {
    db.update(REFUSED_MESSAGE)
        .set(REFUSED_MESSAGE.BODY, body)
        .set(REFUSED_MESSAGE.PLACE, Texts.cut(why.place(), 200))
        .set(REFUSED_MESSAGE.PROBLEM, Texts.cut(Texts.of(why), 400))
        .where(REFUSED_MESSAGE.ID.eq(id))
        .execute();
  }

  /**
   * @param state CORRECTED, DISCARDED or OVERTAKEN
   */
  @Transactional
  public void settle(long id, String state, String actor) {
    db.update(REFUSED_MESSAGE)
        .set(REFUSED_MESSAGE.STATE, state)
        .where(REFUSED_MESSAGE.ID.eq(id))
        .execute();
    snags.close(SnagCause.UNREADABLE_ORDER, id, actor);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        actor,
        "Refused message " + id + " " + state.toLowerCase(Locale.ROOT),
        "");
  }

  /** Orders came again, and well: what was refused of them before no longer matters. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void overtaken(Channel channel, Collection<String> externalIds) {
    if (externalIds.isEmpty()) {
      return;
    }
    db.select(REFUSED_MESSAGE.ID)
        .from(REFUSED_MESSAGE)
        .where(REFUSED_MESSAGE.CHANNEL_ID.eq(channel.id()))
        .and(REFUSED_MESSAGE.STATE.eq("REFUSED"))
        .and(REFUSED_MESSAGE.EXTERNAL_ID.in(externalIds))
        .fetch(REFUSED_MESSAGE.ID)
        .forEach(id -> settle(id, "OVERTAKEN", channel.name()));
  }

  private List<Refused> select(Condition which) {
    return db.select(
            REFUSED_MESSAGE.ID,
            REFUSED_MESSAGE.CHANNEL_ID,
            CHANNEL.NAME,
            REFUSED_MESSAGE.EXTERNAL_ID,
            REFUSED_MESSAGE.SOURCE,
            REFUSED_MESSAGE.PLACE,
            REFUSED_MESSAGE.PROBLEM,
            REFUSED_MESSAGE.RECEIVED_AT)
        .from(REFUSED_MESSAGE)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(REFUSED_MESSAGE.CHANNEL_ID))
        .where(which)
        .orderBy(REFUSED_MESSAGE.ID.desc())
        .limit(MOST)
        .fetch(r ->
            new Refused(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }
}
