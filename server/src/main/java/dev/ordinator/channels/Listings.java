package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.channels.Connector.ListingData;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.Items;
import java.time.Clock;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What channels offer, and which of our items it is. */
@Service
class Listings {
  private final DSLContext db;
  private final Items items;
  private final Snags snags;
  private final Clock clock;

  Listings(DSLContext db, Items items, Snags snags, Clock clock) {
    this.db = db;
    this.items = items;
    this.snags = snags;
    this.clock = clock;
  }

  /**
   * The listing's id; a new one is matched by itself if the channel's identifier names an item.
   *
   * @return its id
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long know(Channel channel, ListingData data) {
    Long known = find(channel, data);
    if (known != null) {
      return known;
    }
    OptionalLong item =
        switch (channel.matchBy()) {
          case SKU -> items.idBySku(data.sku());
          case GTIN -> items.idByGtin(data.gtin());
        };
    db.insertInto(LISTING)
        .set(LISTING.CHANNEL_ID, channel.id())
        .set(LISTING.EXTERNAL_ID, data.externalId())
        .set(LISTING.SKU, data.sku())
        .set(LISTING.GTIN, data.gtin())
        .set(LISTING.TITLE, data.title())
        .set(LISTING.ITEM_ID, item.isPresent() ? item.getAsLong() : null)
        .set(LISTING.MATCHED_BY, item.isPresent() ? "by " + channel.matchBy() : null)
        .set(LISTING.FIRST_SEEN, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
    Long id = find(channel, data);
    if (id == null) {
      throw new IllegalStateException("listing " + data.externalId() + " vanished");
    }
    return id;
  }

  /** Matches a listing to an item, remembers it, and frees every order that waited for it. */
  @Transactional
  public void match(long listingId, String sku, String actor) {
    var listing =
        db.select(LISTING.ITEM_ID, LISTING.TITLE)
            .from(LISTING)
            .where(LISTING.ID.eq(listingId))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("listing " + listingId));
    if (listing.value1() != null) {
      throw Problem.conflict("‘" + listing.value2() + "’ is matched already");
    }
    OptionalLong item = items.idBySku(sku.strip());
    if (item.isEmpty()) {
      throw Problem.invalid("sku", "no item has the SKU ‘" + sku + "’");
    }
    db.update(LISTING)
        .set(LISTING.ITEM_ID, item.getAsLong())
        .set(LISTING.MATCHED_BY, actor)
        .where(LISTING.ID.eq(listingId))
        .execute();
    snags.close(SnagCause.UNMATCHED_LISTING, listingId, actor);
  }

  private @Nullable Long find(Channel channel, ListingData data) {
    return db.select(LISTING.ID)
        .from(LISTING)
        .where(LISTING.CHANNEL_ID.eq(channel.id()))
        .and(LISTING.EXTERNAL_ID.eq(data.externalId()))
        .fetchOne(LISTING.ID);
  }
}
