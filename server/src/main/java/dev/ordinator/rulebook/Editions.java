package dev.ordinator.rulebook;

import static dev.ordinator.schema.Tables.EDITION;

import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.rules.Action;
import dev.ordinator.core.rules.Condition;
import dev.ordinator.core.rules.RuleGroup;
import java.time.Clock;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The numbered editions of the rulebook, of which one is live. */
@Service
public class Editions {
  private final DSLContext db;
  private final Clock clock;
  private final JsonMapper json;
  private volatile @Nullable Edition read;

  Editions(DSLContext db, Clock clock, JsonMapper json) {
    this.db = db;
    this.clock = clock;
    this.json =
        json.rebuild()
            .addMixIn(Condition.class, RulebookJson.ConditionTypes.class)
            .addMixIn(Action.class, RulebookJson.ActionTypes.class)
            .build();
  }

  /** What an edition says. */
  public record Body(Policy policy, Ladder ladder, List<RuleGroup> groups) {}

  public record Edition(long id, int number, Body body) {}

  /**
   * @throws IllegalStateException if there is none, which a migrated and seeded database has not
   */
  public Edition live() {
    var now =
        db.select(EDITION.ID, EDITION.NUMBER)
            .from(EDITION)
            .where(EDITION.STATE.eq("LIVE"))
            .fetchOptional()
            .orElseThrow(() -> new IllegalStateException("no edition of the rulebook is live"));
    // what an edition says never changes: it is read once
    Edition last = read;
    if (last == null || last.id() != now.value1()) {
      last = new Edition(now.value1(), now.value2(), body(now.value1()));
      read = last;
    }
    return last;
  }

  private Body body(long id) {
    return json.readValue(
        db.select(EDITION.BODY).from(EDITION).where(EDITION.ID.eq(id)).fetchSingle().value1(),
        Body.class);
  }

  /** Makes a new edition live; the one before it is kept. */
  @Transactional
  public void publish(Body body, String note, String who) {
    int last =
        db.select(EDITION.NUMBER)
            .from(EDITION)
            .orderBy(EDITION.NUMBER.desc())
            .limit(1)
            .forUpdate()
            .fetchOptional(EDITION.NUMBER)
            .orElse(0);
    db.update(EDITION).set(EDITION.STATE, "OLD").where(EDITION.STATE.eq("LIVE")).execute();
    db.insertInto(EDITION)
        .set(EDITION.NUMBER, last + 1)
        .set(EDITION.STATE, "LIVE")
        .set(EDITION.NOTE, note)
        .set(EDITION.PUBLISHED_BY, who)
        .set(EDITION.PUBLISHED_AT, clock.instant())
        .set(EDITION.BODY, json.writeValueAsString(body))
        .execute();
  }
}
