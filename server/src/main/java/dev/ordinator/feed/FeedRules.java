package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.LISTING;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.channels.Channel;
import dev.ordinator.core.feed.FeedRule;
import dev.ordinator.feed.FeedLines.FeedLine;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How much of the stock listings offer, set for one or for many at once. */
@Service
class FeedRules {
  private final DSLContext db;
  private final FeedLines lines;

  FeedRules(DSLContext db, FeedLines lines) {
    this.db = db;
    this.lines = lines;
  }

  /**
   * Which listings: those named, or those that a search finds.
   *
   * @param listings null: by search
   * @param search part of title, SKU or id; empty: all
   */
  record Which(@Nullable List<Long> listings, String search) {
    Condition condition() {
      if (listings != null) {
        return LISTING.ID.in(listings);
      }
      return search.isBlank()
          ? noCondition()
          : LISTING
              .TITLE
              .containsIgnoreCase(search.strip())
              .or(LISTING.SKU.containsIgnoreCase(search.strip()))
              .or(LISTING.EXTERNAL_ID.containsIgnoreCase(search.strip()));
    }
  }

  /** A listing's quantity as its rule is, and as it would be. */
  record Effect(
      long listingId, String externalId, String title, long available, long before, long after) {}

  /** What a rule would change; nothing is changed. */
  List<Effect> preview(Channel channel, Which which, FeedRule rule) {
    return lines.select(channel, which.condition()).stream().map(l -> effect(l, rule)).toList();
  }

  /**
   * @return how many listings have the rule now
   */
  @Transactional
  public int set(Channel channel, Which which, FeedRule rule) {
    return db.update(LISTING)
        .set(LISTING.FEED_BASIS, rule.basis().name())
        .set(LISTING.FEED_DAYS, rule.withinDays())
        .set(LISTING.FEED_BUFFER, rule.buffer())
        .set(LISTING.FEED_SHARE, rule.sharePercent())
        .set(LISTING.FEED_CAP, rule.cap())
        .set(LISTING.SOLD_OUT, rule.soldOut().name())
        .set(LISTING.OVERSELL_TO, rule.oversellTo())
        .set(LISTING.OFFERED, rule.offered())
        .where(LISTING.CHANNEL_ID.eq(channel.id()))
        .and(LISTING.ITEM_ID.isNotNull())
        .and(which.condition())
        .execute();
  }

  private static Effect effect(FeedLine line, FeedRule rule) {
    return new Effect(
        line.listingId(),
        line.externalId(),
        line.title(),
        line.available(),
        line.quantity(),
        line.quantityBy(rule));
  }
}
