package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.FEED_HOLD;
import static dev.ordinator.schema.Tables.FEED_HOLD_LINE;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.channels.Channel;
import dev.ordinator.feed.FeedLines.FeedLine;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Pushes that the guard held, with the exact lines that would change. */
@Service
class FeedHolds {
  private final DSLContext db;
  private final Snags snags;
  private final Events events;
  private final Clock clock;

  FeedHolds(DSLContext db, Snags snags, Events events, Clock clock) {
    this.db = db;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
  }

  /**
   * @param before null: never told
   */
  record HeldLine(
      long listingId,
      String externalId,
      String sku,
      String title,
      @Nullable Long before,
      long after) {}

  record Hold(long id, Instant heldAt, String reasons, List<HeldLine> lines) {}

  /** One that was settled: what became of it and by whom. */
  record Settled(
      long id, Instant heldAt, String reasons, String state, Instant settledAt, String settledBy) {}

  Optional<Hold> open(long channelId) {
    return db.select(FEED_HOLD.ID, FEED_HOLD.HELD_AT, FEED_HOLD.REASONS)
        .from(FEED_HOLD)
        .where(FEED_HOLD.HELD_KEY.eq(channelId))
        .fetchOptional(r -> new Hold(r.value1(), r.value2(), r.value3(), lines(r.value1())));
  }

  List<Settled> settled(long channelId) {
    return db.select(
            FEED_HOLD.ID,
            FEED_HOLD.HELD_AT,
            FEED_HOLD.REASONS,
            FEED_HOLD.STATE,
            FEED_HOLD.SETTLED_AT,
            FEED_HOLD.SETTLED_BY)
        .from(FEED_HOLD)
        .where(FEED_HOLD.CHANNEL_ID.eq(channelId))
        .and(FEED_HOLD.STATE.ne("HELD"))
        .orderBy(FEED_HOLD.ID.desc())
        .limit(20)
        .fetch(r ->
            new Settled(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }

  @Transactional
  public void hold(Channel channel, List<String> reasons, List<FeedLine> changed) {
    long id =
        db.insertInto(FEED_HOLD)
            .set(FEED_HOLD.CHANNEL_ID, channel.id())
            .set(FEED_HOLD.REASONS, String.join("; ", reasons))
            .set(FEED_HOLD.STATE, "HELD")
            .set(FEED_HOLD.HELD_AT, clock.instant())
            .returningResult(FEED_HOLD.ID)
            .fetchSingle()
            .value1();
    var insert =
        db.insertInto(
            FEED_HOLD_LINE,
            FEED_HOLD_LINE.FEED_HOLD_ID,
            FEED_HOLD_LINE.LISTING_ID,
            FEED_HOLD_LINE.BEFORE_PUSH,
            FEED_HOLD_LINE.AFTER_PUSH);
    for (FeedLine line : changed) {
      insert = insert.values(id, line.listingId(), line.pushed(), line.quantity());
    }
    insert.execute();
    String why = String.join("; ", reasons);
    snags.open(
        Snags.About.of(
                SnagCause.FEED_HELD,
                channel.id(),
                "Stock for " + channel.name() + " is held",
                why + ": " + changed.size() + " listings would change")
            .channel(channel.id()),
        null,
        "feed guard");
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        "feed guard",
        "Push to " + channel.name() + " held",
        why);
  }

  Hold required(Channel channel) {
    return open(channel.id())
        .orElseThrow(() -> Problem.conflict("no push to " + channel.name() + " is held"));
  }

  /** A person has let it through, and it was told. */
  @Transactional
  public void letThrough(Channel channel, String actor) {
    settle(channel, "LET_THROUGH", actor);
  }

  /** What the channel has stays; the same quantities are not asked about again. */
  @Transactional
  public void refuse(Channel channel, String actor) {
    Hold hold = settle(channel, "REFUSED", actor);
    for (HeldLine line : hold.lines()) {
      db.update(LISTING)
          .set(LISTING.REFUSED_QUANTITY, line.after())
          .where(LISTING.ID.eq(line.listingId()))
          .execute();
    }
  }

  private Hold settle(Channel channel, String state, String actor) {
    Hold hold = required(channel);
    int settled =
        db.update(FEED_HOLD)
            .set(FEED_HOLD.STATE, state)
            .set(FEED_HOLD.SETTLED_AT, clock.instant())
            .set(FEED_HOLD.SETTLED_BY, actor)
            .where(FEED_HOLD.ID.eq(hold.id()))
            .and(FEED_HOLD.STATE.eq("HELD"))
            .execute();
    if (settled == 0) {
      throw Problem.conflict("somebody else has settled it just now");
    }
    snags.close(SnagCause.FEED_HELD, channel.id(), actor);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        actor,
        "Held push to " + channel.name() + (state.equals("REFUSED") ? " refused" : " let through"),
        hold.reasons());
    return hold;
  }

  private List<HeldLine> lines(long hold) {
    return db.select(
            LISTING.ID,
            LISTING.EXTERNAL_ID,
            LISTING.SKU,
            LISTING.TITLE,
            FEED_HOLD_LINE.BEFORE_PUSH,
            FEED_HOLD_LINE.AFTER_PUSH)
        .from(FEED_HOLD_LINE)
        .join(LISTING)
        .on(LISTING.ID.eq(FEED_HOLD_LINE.LISTING_ID))
        .where(FEED_HOLD_LINE.FEED_HOLD_ID.eq(hold))
        .orderBy(LISTING.TITLE)
        .fetch(r ->
            new HeldLine(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }
}
