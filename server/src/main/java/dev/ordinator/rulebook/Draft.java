package dev.ordinator.rulebook;

import static dev.ordinator.schema.Tables.EDITION;

import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The edition that is being written: one at a time, seen and changed by all managers. */
@Service
public class Draft {
  private final DSLContext db;
  private final Editions editions;
  private final RulebookJson json;
  private final RulebookCheck check;
  private final Clock clock;

  Draft(DSLContext db, Editions editions, RulebookJson json, RulebookCheck check, Clock clock) {
    this.db = db;
    this.editions = editions;
    this.json = json;
    this.check = check;
    this.clock = clock;
  }

  /**
   * @param begunFrom number of the edition that it began as
   * @param changes how often it was changed since
   * @param by who changed it last, and {@code at} when
   */
  public record State(
      long id, int number, int begunFrom, int changes, String by, Instant at, Rulebook body) {}

  public Optional<State> now() {
    return db.select(
            EDITION.ID,
            EDITION.NUMBER,
            EDITION.BEGUN_FROM,
            EDITION.CHANGES,
            EDITION.PUBLISHED_BY,
            EDITION.PUBLISHED_AT,
            EDITION.BODY)
        .from(EDITION)
        .where(EDITION.STATE.eq("DRAFT"))
        .fetchOptional(r ->
            new State(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                json.read(r.value7(), Rulebook.class)));
  }

  /**
   * Changes the draft, all at once or not at all; begins one from the live edition if there is
   * none.
   *
   * @throws Problem if somebody changed the same thing, or it would not be sound
   */
  @Transactional
  void change(List<Change> changes, String who) {
    State draft = locked().orElseGet(() -> begin(editions.live(), who));
    Rulebook body = draft.body();
    for (Change change : changes) {
      body = change.in(body);
    }
    check.require(body);
    keep(draft, body, who);
  }

  /** Whatever the draft says, it says this from now on. */
  @Transactional
  public void replace(Rulebook body, String who) {
    check.require(body);
    keep(locked().orElseGet(() -> begin(editions.live(), who)), body, who);
  }

  @Transactional
  void discard() {
    db.deleteFrom(EDITION).where(EDITION.STATE.eq("DRAFT")).execute();
  }

  /**
   * The draft becomes the edition that decides.
   *
   * @param changes as many as its maker has seen
   * @throws Problem if somebody changed it since, or there is none
   */
  @Transactional
  void makeLive(int changes, String note, String who) {
    if (note.isBlank() || note.length() > 400) {
      throw Problem.invalid("note", "say what it changes, in at most 400 characters");
    }
    State draft = locked().orElseThrow(() -> Problem.conflict("there is no draft any more"));
    if (draft.changes() != changes) {
      throw Problem.conflict(draft.by() + " has changed the draft meanwhile; look at it again");
    }
    // nodes may have gone since
    check.require(draft.body());
    editions.makeLive(draft.id(), note.strip(), who);
  }

  private Optional<State> locked() {
    // whoever changes or makes a draft waits for the others here
    editions.nextNumber();
    return now();
  }

  private State begin(Editions.Edition from, String who) {
    long id =
        db.insertInto(EDITION)
            .set(EDITION.NUMBER, editions.nextNumber())
            .set(EDITION.STATE, "DRAFT")
            .set(EDITION.NOTE, "")
            .set(EDITION.BEGUN_FROM, from.number())
            .set(EDITION.PUBLISHED_BY, who)
            .set(EDITION.PUBLISHED_AT, clock.instant())
            .set(EDITION.BODY, json.write(from.body()))
            .returningResult(EDITION.ID)
            .fetchSingle()
            .value1();
    return new State(
        id, editions.nextNumber(), from.number(), 0, who, clock.instant(), from.body());
  }

  private void keep(State draft, Rulebook body, String who) {
    db.update(EDITION)
        .set(EDITION.BODY, json.write(body))
        .set(EDITION.CHANGES, draft.changes() + 1)
        .set(EDITION.PUBLISHED_BY, who)
        .set(EDITION.PUBLISHED_AT, clock.instant())
        .where(EDITION.ID.eq(draft.id()))
        .execute();
  }
}
