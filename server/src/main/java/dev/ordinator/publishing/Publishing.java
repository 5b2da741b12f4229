package dev.ordinator.publishing;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.ListingData;
import dev.ordinator.channels.Connector.ListingDraft;
import dev.ordinator.channels.Connector.ListingSink;
import dev.ordinator.channels.Connectors;
import dev.ordinator.core.money.Money;
import dev.ordinator.listings.Listings;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.suppliers.SupplierOffers;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Offers items on channels. Each is told to the channel first and remembered then, with its match;
 * a channel knows our SKU again, so that telling it twice makes one listing.
 */
@Service
class Publishing {
  private static final int MOST = 200;

  private final DSLContext db;
  private final Connectors connectors;
  private final Listings listings;
  private final Offers offers;
  private final SupplierOffers suppliers;
  private final Transactions transactions;
  private final Events events;
  private final JsonMapper json;

  Publishing(
      DSLContext db,
      Connectors connectors,
      Listings listings,
      Offers offers,
      SupplierOffers suppliers,
      Transactions transactions,
      Events events,
      JsonMapper json) {
    this.db = db;
    this.connectors = connectors;
    this.listings = listings;
    this.offers = offers;
    this.suppliers = suppliers;
    this.transactions = transactions;
    this.events = events;
    this.json = json;
  }

  /**
   * @param offer the supplier's offer that it is made from: it becomes an item of ours; null: it is
   *     one already
   * @param title as the channel shall show it
   * @param price minor units of the channel's currency
   * @param published false: as a draft
   */
  record Wish(@Nullable Long offer, String sku, String title, long price, boolean published) {}

  /**
   * @param problem why it was not taken; empty if it was
   */
  record Told(String sku, String problem) {}

  /** Offers items, each on its own: one that is refused keeps no other back. */
  List<Told> offer(Channel channel, List<Wish> wishes, String actor) {
    ListingSink sink = sink(channel);
    if (wishes.isEmpty() || wishes.size() > MOST) {
      throw Problem.invalid("lines", "offer 1 to 200 items at a time");
    }
    for (Wish wish : wishes) {
      if (wish.title().isBlank() || wish.title().length() > 400 || wish.price() <= 0) {
        throw Problem.invalid(wish.sku(), "needs a title of up to 400 characters, and a price");
      }
    }
    List<Told> told = new ArrayList<>();
    for (Wish wish : wishes) {
      try {
        tell(channel, sink, wish);
        told.add(new Told(wish.sku(), ""));
      } catch (ChannelError | Problem e) {
        told.add(new Told(wish.sku(), Texts.of(e)));
      }
    }
    long taken = told.stream().filter(t -> t.problem().isEmpty()).count();
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        actor,
        taken + " items offered on " + channel.name(),
        "");
    return told;
  }

  /** Pushes what has changed of these listings: their price, or that they are no longer sold. */
  List<Told> pushPrices(Channel channel, PriceRules.Set rule, List<Long> which, String actor) {
    Map<Long, Offers.Change> changes =
        offers.changes(channel, rule).stream()
            .collect(Collectors.toMap(Offers.Change::listingId, Function.identity()));
    return offer(
        channel,
        which.stream()
            .map(id -> {
              Offers.Change change = changes.get(id);
              if (change == null) {
                throw Problem.conflict("listing " + id + " is as it should be already; look again");
              }
              return new Wish(
                  null,
                  change.sku(),
                  change.title(),
                  change.after(),
                  change.published() && !change.withdraw());
            })
            .toList(),
        actor);
  }

  /** Puts listings that were made from here before buyers, or takes them back into drafts. */
  List<Told> setPublished(Channel channel, List<Long> which, boolean published, String actor) {
    return offer(
        channel,
        db.select(ITEM.SKU, LISTING.TITLE, LISTING.PRICE)
            .from(LISTING)
            .join(ITEM)
            .on(ITEM.ID.eq(LISTING.ITEM_ID))
            .where(LISTING.ID.in(which))
            .and(LISTING.CHANNEL_ID.eq(channel.id()))
            .and(LISTING.OURS.isTrue())
            .fetch(r -> new Wish(null, r.value1(), r.value2(), r.value3(), published)),
        actor);
  }

  private void tell(Channel channel, ListingSink sink, Wish wish) {
    Long from = wish.offer();
    String sku = from == null ? wish.sku() : transactions.get(() -> suppliers.itemFor(from));
    var item =
        db.select(ITEM.SKU, ITEM.GTIN, ITEM.DESCRIPTION, ITEM.PICTURES, ITEM.FAMILY)
            .from(ITEM)
            .where(ITEM.SKU.eq(sku))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("item " + sku));
    Money price = Money.of(wish.price(), channel.currency());
    String gtin = or(item.value2(), "");
    List<String> pictures = List.of(json.readValue(item.value4(), String[].class));
    String externalId =
        sink.pushListing(
            channel,
            new ListingDraft(
                item.value1(),
                gtin,
                wish.title().strip(),
                item.value3(),
                pictures,
                item.value5(),
                price,
                wish.published()));
    if (externalId.isBlank()) {
      throw ChannelError.passing(channel.name() + " did not say which listing it made");
    }
    ListingData data =
        new ListingData(
            externalId,
            item.value1(),
            gtin,
            wish.title().strip(),
            item.value5(),
            price,
            pictures,
            wish.published());
    transactions.run(() -> listings.made(channel, data, item.value1()));
  }

  private ListingSink sink(Channel channel) {
    if (!channel.writesBack() && !channel.feeds()) {
      throw Problem.conflict(channel.name() + " only listens; let it be told something first");
    }
    return connectors
        .able(channel, ListingSink.class)
        .orElseThrow(() -> Problem.conflict(channel.name() + " takes no listings"));
  }

  private static String or(@Nullable String text, String otherwise) {
    return text == null ? otherwise : text;
  }
}
