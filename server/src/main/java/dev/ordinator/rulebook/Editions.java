package dev.ordinator.rulebook;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.EDITION;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The numbered editions of the rulebook, of which one is live. */
@Service
public class Editions {
  private final DSLContext db;
  private final Clock clock;
  private final RulebookJson json;
  private final Events events;
  private final ApplicationEventPublisher listeners;

  /** What a published edition says never changes: each is read once. */
  private final Map<Long, Rulebook> read = new ConcurrentHashMap<>();

  Editions(
      DSLContext db,
      Clock clock,
      RulebookJson json,
      Events events,
      ApplicationEventPublisher listeners) {
    this.db = db;
    this.listeners = listeners;
    this.clock = clock;
    this.json = json;
    this.events = events;
  }

  /** Another edition decides from now on, in the transaction that is under way. */
  public record WentLive() {}

  public record Edition(long id, int number, Rulebook body) {}

  /**
   * @param by who made it live, and {@code at} when
   * @param decisions how many orders were routed by it
   */
  record Summary(int number, boolean live, String note, String by, Instant at, long decisions) {}

  /**
   * @throws IllegalStateException if there is none, which a migrated and seeded database has not
   */
  public Edition live() {
    return liveIfAny()
        .orElseThrow(() -> new IllegalStateException("no edition of the rulebook is live"));
  }

  public Optional<Edition> liveIfAny() {
    return db.select(EDITION.ID, EDITION.NUMBER)
        .from(EDITION)
        .where(EDITION.STATE.eq("LIVE"))
        .fetchOptional(r -> new Edition(r.value1(), r.value2(), body(r.value1())));
  }

  /**
   * @throws Problem if no edition that was ever live has that number
   */
  Edition published(int number) {
    return db.select(EDITION.ID)
        .from(EDITION)
        .where(EDITION.NUMBER.eq(number))
        .and(EDITION.STATE.ne("DRAFT"))
        .fetchOptional(EDITION.ID)
        .map(id -> new Edition(id, number, body(id)))
        .orElseThrow(() -> Problem.notFound("edition " + number));
  }

  /** What an edition that was made live once says. */
  public Rulebook body(long id) {
    return read.computeIfAbsent(
        id,
        key ->
            json.read(
                db.select(EDITION.BODY)
                    .from(EDITION)
                    .where(EDITION.ID.eq(key))
                    .fetchSingle()
                    .value1(),
                Rulebook.class));
  }

  /** All that were ever live, the latest first. */
  List<Summary> all() {
    var decisions =
        DSL.field(DSL.selectCount().from(DECISION).where(DECISION.EDITION_ID.eq(EDITION.ID)));
    return db.select(
            EDITION.NUMBER,
            EDITION.STATE,
            EDITION.NOTE,
            EDITION.PUBLISHED_BY,
            EDITION.PUBLISHED_AT,
            decisions)
        .from(EDITION)
        .where(EDITION.STATE.ne("DRAFT"))
        .orderBy(EDITION.NUMBER.desc())
        .fetch(r ->
            new Summary(
                r.value1(),
                r.value2().equals("LIVE"),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6()));
  }

  /** Makes a new edition live; the one before it is kept. */
  @Transactional
  public void publish(Rulebook body, String note, String who) {
    long id =
        db.insertInto(EDITION)
            .set(EDITION.NUMBER, nextNumber())
            .set(EDITION.STATE, "DRAFT")
            .set(EDITION.NOTE, "")
            .set(EDITION.PUBLISHED_BY, who)
            .set(EDITION.PUBLISHED_AT, clock.instant())
            .set(EDITION.BODY, json.write(body))
            .returningResult(EDITION.ID)
            .fetchSingle()
            .value1();
    makeLive(id, note, who);
  }

  /** One more than the latest that was ever live. */
  int nextNumber() {
    return db.select(EDITION.NUMBER)
            .from(EDITION)
            .where(EDITION.STATE.ne("DRAFT"))
            .orderBy(EDITION.NUMBER.desc())
            .limit(1)
            .forUpdate()
            .fetchOptional(EDITION.NUMBER)
            .orElse(0)
        + 1;
  }

  /** A draft becomes the edition that decides. */
  @Transactional(propagation = Propagation.MANDATORY)
  void makeLive(long id, String note, String who) {
    db.update(EDITION).set(EDITION.STATE, "OLD").where(EDITION.STATE.eq("LIVE")).execute();
    db.update(EDITION)
        .set(EDITION.STATE, "LIVE")
        .set(EDITION.NOTE, note)
        .set(EDITION.PUBLISHED_BY, who)
        .set(EDITION.PUBLISHED_AT, clock.instant())
        .where(EDITION.ID.eq(id))
        .execute();
    events.record(
        EventKind.RULEBOOK_CHANGED, null, null, who, "A new edition of the rulebook decides", note);
    listeners.publishEvent(new WentLive());
  }
}
