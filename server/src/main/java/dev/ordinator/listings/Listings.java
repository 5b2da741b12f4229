package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.ListingData;
import dev.ordinator.channels.Terms.UnknownListings;
import dev.ordinator.core.money.Money;
import dev.ordinator.orders.Pricing.Priced;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.stock.Items;
import java.time.Clock;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What channels offer, and which of our items it is. */
@Service
public class Listings {
  private static final long MOST_UNITS_EACH = 10_000;

  private final DSLContext db;
  private final Items items;
  private final Snags snags;
  private final JsonMapper json;
  private final Clock clock;

  Listings(DSLContext db, Items items, Snags snags, JsonMapper json, Clock clock) {
    this.db = db;
    this.items = items;
    this.snags = snags;
    this.json = json;
    this.clock = clock;
  }

  /**
   * The listing's id; a new one is matched by itself if the channel's identifier names an item, or
   * becomes an item if the channel's terms say so.
   *
   * @return its id
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long know(Channel channel, ListingData data) {
    Long known = find(channel, data);
    if (known != null) {
      return known;
    }
    OptionalLong item = itemOf(channel, data);
    Money price = data.price();
    db.insertInto(LISTING)
        .set(LISTING.CHANNEL_ID, channel.id())
        .set(LISTING.EXTERNAL_ID, data.externalId())
        .set(LISTING.SKU, data.sku())
        .set(LISTING.GTIN, data.gtin())
        .set(LISTING.TITLE, data.title())
        .set(LISTING.FAMILY, data.family())
        .set(LISTING.PRICE, price == null ? null : price.minor())
        .set(LISTING.CURRENCY, price == null ? null : price.currency().getCurrencyCode())
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

  /**
   * The ids of many listings at once, by the channel's own; new ones are taken in as by {@link
   * #know}.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, Long> know(Channel channel, Collection<ListingData> all) {
    Map<String, ListingData> byExternal = new LinkedHashMap<>();
    all.forEach(data -> byExternal.putIfAbsent(data.externalId(), data));
    Map<String, Long> ids =
        db.select(LISTING.EXTERNAL_ID, LISTING.ID)
            .from(LISTING)
            .where(LISTING.CHANNEL_ID.eq(channel.id()))
            .and(LISTING.EXTERNAL_ID.in(byExternal.keySet()))
            .fetchMap(LISTING.EXTERNAL_ID, LISTING.ID);
    byExternal.forEach((external, data) -> ids.computeIfAbsent(external, e -> know(channel, data)));
    return ids;
  }

  /** The items of matched listings, as pricing needs them; unmatched ones are left out. */
  public Map<Long, Priced> matched(Collection<Long> listingIds) {
    return db.select(LISTING.ID, ITEM.ID, LISTING.UNITS_EACH, ITEM.TAX_CLASS)
        .from(LISTING)
        .join(ITEM)
        .on(ITEM.ID.eq(LISTING.ITEM_ID))
        .where(LISTING.ID.in(listingIds))
        .fetchMap(LISTING.ID, r -> new Priced(r.value2(), r.value3(), r.value4()));
  }

  /** Takes a listing in as the channel's catalogue has it now. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void refresh(Channel channel, ListingData data) {
    long id = know(channel, data);
    Money price = data.price();
    db.update(LISTING)
        .set(LISTING.SKU, data.sku())
        .set(LISTING.GTIN, data.gtin())
        .set(LISTING.TITLE, data.title())
        .set(LISTING.FAMILY, data.family())
        .set(LISTING.PRICE, price == null ? null : price.minor())
        .set(LISTING.CURRENCY, price == null ? null : price.currency().getCurrencyCode())
        .set(LISTING.PICTURES, json.writeValueAsString(data.pictures()))
        .set(LISTING.PUBLISHED, data.published())
        .where(LISTING.ID.eq(id))
        .execute();
  }

  /** A listing that was made from here: it is known, and what it is has been said. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void made(Channel channel, ListingData data, String sku) {
    refresh(channel, data);
    long id = know(channel, data);
    setMatch(id, sku, 1, "offered from here");
    db.update(LISTING).set(LISTING.OURS, true).where(LISTING.ID.eq(id)).execute();
    snags.close(SnagCause.UNMATCHED_LISTING, id, "desk");
  }

  /**
   * Makes items of listings that match none of ours, with their price and pictures, and frees every
   * order that waited for them.
   *
   * @return how many became items; those that are matched already are left alone
   */
  @Transactional
  public int takeIn(Collection<Long> listingIds, String actor) {
    int taken = 0;
    for (var r :
        db.select(
                LISTING.ID,
                LISTING.SKU,
                LISTING.EXTERNAL_ID,
                LISTING.TITLE,
                LISTING.GTIN,
                LISTING.PRICE,
                LISTING.PICTURES,
                LISTING.FAMILY,
                CHANNEL.CODE)
            .from(LISTING)
            .join(CHANNEL)
            .on(CHANNEL.ID.eq(LISTING.CHANNEL_ID))
            .where(LISTING.ID.in(listingIds))
            .and(LISTING.ITEM_ID.isNull())
            .orderBy(LISTING.ID)
            .fetch()) {
      String sku = r.value2().isBlank() ? r.value9() + "-" + r.value3() : r.value2();
      long item = items.create(sku, r.value4(), r.value5());
      db.update(ITEM)
          .set(ITEM.LIST_PRICE, r.value6() == null ? 0L : r.value6())
          .set(ITEM.PICTURES, r.value7())
          .set(ITEM.FAMILY, Texts.cut(r.value8(), 60))
          .where(ITEM.ID.eq(item))
          .and(ITEM.LIST_PRICE.eq(0L))
          .execute();
      setMatch(r.value1(), Texts.cut(sku, 60), 1, actor);
      snags.close(SnagCause.UNMATCHED_LISTING, r.value1(), actor);
      taken++;
    }
    return taken;
  }

  /**
   * Matches a listing to an item, remembers it, and frees every order that waited for it.
   *
   * @param unitsEach units of the item in one of the listing: 12 for a case of twelve
   */
  @Transactional
  public void match(long listingId, String sku, long unitsEach, String actor) {
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
    setMatch(listingId, sku, unitsEach, actor);
    snags.close(SnagCause.UNMATCHED_LISTING, listingId, actor);
  }

  void setMatch(long listingId, String sku, long unitsEach, String actor) {
    if (unitsEach < 1 || unitsEach > MOST_UNITS_EACH) {
      throw Problem.invalid("unitsEach", "one of it holds 1 to 10,000 units of the item");
    }
    OptionalLong item = items.idBySku(sku.strip());
    if (item.isEmpty()) {
      throw Problem.invalid("sku", "no item has the SKU ‘" + sku + "’");
    }
    db.update(LISTING)
        .set(LISTING.ITEM_ID, item.getAsLong())
        .set(LISTING.UNITS_EACH, unitsEach)
        .set(LISTING.MATCHED_BY, actor)
        .where(LISTING.ID.eq(listingId))
        .execute();
  }

  private OptionalLong itemOf(Channel channel, ListingData data) {
    OptionalLong item =
        switch (channel.matchBy()) {
          case SKU -> items.idBySku(data.sku());
          case GTIN -> items.idByGtin(data.gtin());
          case SUPPLIER_CODE -> items.idBySupplierCode(data.sku());
        };
    if (item.isEmpty() && channel.terms().unknownListings() == UnknownListings.CREATE_ITEM) {
      String sku = data.sku().isBlank() ? channel.code() + "-" + data.externalId() : data.sku();
      return OptionalLong.of(items.create(sku, data.title(), data.gtin()));
    }
    return item;
  }

  private @Nullable Long find(Channel channel, ListingData data) {
    return db.select(LISTING.ID)
        .from(LISTING)
        .where(LISTING.CHANNEL_ID.eq(channel.id()))
        .and(LISTING.EXTERNAL_ID.eq(data.externalId()))
        .fetchOne(LISTING.ID);
  }
}
