package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.FEED_HOLD;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.max;

import dev.ordinator.platform.Problem;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** How connections are. */
@Component
class ChannelCards {
  private final DSLContext db;
  private final Connectors connectors;
  private final JsonMapper json;

  ChannelCards(DSLContext db, Connectors connectors, JsonMapper json) {
    this.db = db;
    this.connectors = connectors;
    this.json = json;
  }

  /**
   * A connection's health.
   *
   * @param setup the step at which connecting stands; null: connected
   * @param writesBack told what becomes of its orders; {@code feeds}: told what is in stock
   * @param mailsSent its buyers are mailed what has left or is ready; {@code mailsWaiting}: what
   *     waits
   * @param lastTaken orders that the last pull brought
   * @param takesListings whether items can be offered on it
   * @param feedHeld the guard holds a push, and nothing goes until a person has decided
   * @param untold what the channel has yet to be told, {@code givenUp} of it for good
   */
  record ChannelCard(
      long id,
      ChannelKind kind,
      String code,
      String name,
      String prefix,
      String baseUrl,
      String currency,
      String approval,
      String matchBy,
      Terms terms,
      @Nullable String setup,
      boolean takesListings,
      boolean writesBack,
      boolean feeds,
      boolean mailsSent,
      boolean mailsWaiting,
      boolean paused,
      int intervalSeconds,
      Instant nextPullAt,
      @Nullable Instant lastPullAt,
      @Nullable Instant lastSuccessAt,
      @Nullable String lastError,
      int lastTaken,
      long listings,
      long unmatched,
      long refused,
      long orders,
      long untold,
      long givenUp,
      @Nullable Instant lastToldAt,
      @Nullable Instant lastFedAt,
      @Nullable String lastFeedError,
      int lastFedLines,
      boolean feedHeld,
      int version) {}

  List<ChannelCard> all() {
    return db.select(CHANNEL.ID).from(CHANNEL).orderBy(CHANNEL.ID).fetch(CHANNEL.ID).stream()
        .map(this::byId)
        .toList();
  }

  ChannelCard byId(long id) {
    var c =
        db.selectFrom(CHANNEL)
            .where(CHANNEL.ID.eq(id))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("channel " + id));
    var writeBacks = OUTBOX.CHANNEL_ID.eq(id);
    return new ChannelCard(
        c.getId(),
        ChannelKind.valueOf(c.getKind()),
        c.getCode(),
        c.getName(),
        c.getPrefix(),
        c.getBaseUrl(),
        c.getCurrency(),
        c.getApproval(),
        c.getMatchBy(),
        Terms.of(json, c.getTerms()),
        c.getSetup(),
        connectors
            .of(ChannelKind.valueOf(c.getKind()))
            .filter(Connector.ListingSink.class::isInstance)
            .isPresent(),
        c.getWritesBack(),
        c.getFeeds(),
        c.getMailSent(),
        c.getMailWaiting(),
        c.getPaused(),
        c.getIntervalSeconds(),
        c.getNextPullAt(),
        c.getLastPullAt(),
        c.getLastSuccessAt(),
        c.getLastError(),
        c.getLastTaken(),
        db.fetchCount(LISTING, LISTING.CHANNEL_ID.eq(id)),
        db.fetchCount(LISTING, LISTING.CHANNEL_ID.eq(id).and(LISTING.ITEM_ID.isNull())),
        db.fetchCount(
            REFUSED_MESSAGE,
            REFUSED_MESSAGE.CHANNEL_ID.eq(id).and(REFUSED_MESSAGE.STATE.eq("REFUSED"))),
        db.fetchCount(SALES_ORDER, SALES_ORDER.CHANNEL_ID.eq(id)),
        db.fetchCount(OUTBOX, writeBacks.and(OUTBOX.STATE.in("PENDING", "WAITING", "DEAD"))),
        db.fetchCount(OUTBOX, writeBacks.and(OUTBOX.STATE.eq("DEAD"))),
        db.select(max(OUTBOX.DONE_AT)).from(OUTBOX).where(writeBacks).fetchSingle().value1(),
        c.getLastFedAt(),
        c.getLastFeedError(),
        c.getLastFedLines(),
        db.fetchExists(FEED_HOLD, FEED_HOLD.HELD_KEY.eq(id)),
        c.getVersion());
  }
}
