package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.countDistinct;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The match table, and what an unmatched listing could be. */
@Component
class ListingTable {
  private static final int PAGE = 200;
  private static final int MOST_LIKELIEST = 200;
  private static final int PRICE_SAYS = 10;
  private static final int SUGGESTIONS = 5;

  private final DSLContext db;

  ListingTable(DSLContext db) {
    this.db = db;
  }

  /**
   * @param price minor units of {@code currency}
   * @param unitsEach units of the item in one of it
   * @param waiting open orders that wait for the match
   */
  record Row(
      long id,
      String externalId,
      String sku,
      String gtin,
      String title,
      @Nullable Long price,
      @Nullable String currency,
      @Nullable String itemSku,
      @Nullable String itemName,
      long unitsEach,
      @Nullable String matchedBy,
      int waiting) {}

  /**
   * @param because what speaks for it, in words
   */
  record Suggestion(String sku, String name, int percent, String because) {}

  /** A listing without a match, and what it most likely is. */
  record Likeliest(long listingId, String title, Suggestion suggestion) {}

  /** A listing as it is compared. */
  private record Theirs(
      long id, String sku, String gtin, String title, Set<String> words, @Nullable Long price) {}

  /** An item as it is compared. */
  private record Ours(
      String sku, String compactSku, String name, Set<String> words, String gtin, long price) {}

  Slice<Row> rows(long channelId, boolean unmatched, String search, @Nullable Long after) {
    Condition which = LISTING.CHANNEL_ID.eq(channelId);
    if (unmatched) {
      which = which.and(LISTING.ITEM_ID.isNull());
    }
    if (!search.isBlank()) {
      String part = search.strip();
      which =
          which.and(
              LISTING
                  .TITLE
                  .containsIgnoreCase(part)
                  .or(LISTING.SKU.containsIgnoreCase(part))
                  .or(LISTING.EXTERNAL_ID.containsIgnoreCase(part)));
    }
    var waiting =
        field(
            select(countDistinct(ORDER_LINE.ORDER_ID))
                .from(ORDER_LINE)
                .join(SALES_ORDER)
                .on(SALES_ORDER.ID.eq(ORDER_LINE.ORDER_ID))
                .where(ORDER_LINE.LISTING_ID.eq(LISTING.ID))
                .and(ORDER_LINE.ITEM_ID.isNull())
                .and(SALES_ORDER.OPEN.isTrue()));
    List<Row> rows =
        db.select(
                LISTING.ID,
                LISTING.EXTERNAL_ID,
                LISTING.SKU,
                LISTING.GTIN,
                LISTING.TITLE,
                LISTING.PRICE,
                LISTING.CURRENCY,
                ITEM.SKU,
                ITEM.NAME,
                LISTING.UNITS_EACH,
                LISTING.MATCHED_BY,
                waiting)
            .from(LISTING)
            .leftJoin(ITEM)
            .on(ITEM.ID.eq(LISTING.ITEM_ID))
            .where(which)
            .and(after == null ? noCondition() : LISTING.ID.gt(after))
            .orderBy(LISTING.ID)
            .limit(PAGE + 1)
            .fetch(r ->
                new Row(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7(),
                    r.value8(),
                    r.value9(),
                    r.value10(),
                    r.value11(),
                    r.value12()));
    return Slice.of(rows, PAGE, row -> Long.toString(row.id()));
  }

  /** Items that a listing could be, likeliest first. */
  List<Suggestion> suggestions(long listingId) {
    return theirs(LISTING.ID.eq(listingId)).stream()
        .findFirst()
        .map(t -> suggestions(t, ours()))
        .orElseThrow(() -> Problem.notFound("listing " + listingId));
  }

  /** The likeliest item for each of a channel's listings without a match that is like any. */
  List<Likeliest> likeliest(long channelId) {
    List<Ours> ours = ours();
    List<Likeliest> found = new ArrayList<>();
    for (Theirs t : theirs(LISTING.CHANNEL_ID.eq(channelId).and(LISTING.ITEM_ID.isNull()))) {
      suggestions(t, ours).stream()
          .findFirst()
          .ifPresent(s -> found.add(new Likeliest(t.id(), t.title(), s)));
    }
    found.sort(Comparator.comparingInt((Likeliest l) -> l.suggestion().percent()).reversed());
    return found;
  }

  private List<Theirs> theirs(Condition which) {
    return db.select(LISTING.ID, LISTING.SKU, LISTING.GTIN, LISTING.TITLE, LISTING.PRICE)
        .from(LISTING)
        .where(which)
        .orderBy(LISTING.ID)
        .limit(MOST_LIKELIEST)
        .fetch(r ->
            new Theirs(
                r.value1(),
                compact(r.value2()),
                normalGtin(r.value3()),
                r.value4(),
                words(r.value4()),
                r.value5()));
  }

  private List<Ours> ours() {
    return db.select(ITEM.SKU, ITEM.NAME, ITEM.GTIN, ITEM.LIST_PRICE)
        .from(ITEM)
        .fetch(r ->
            new Ours(
                r.value1(),
                compact(r.value1()),
                r.value2(),
                words(r.value2()),
                r.value3() == null ? "" : r.value3(),
                r.value4()));
  }

  /**
   * By GTIN, by SKU without punctuation, and by the words that titles share; a price within a tenth
   * of ours speaks for an item that is alike by name, but for none by itself.
   */
  private static List<Suggestion> suggestions(Theirs theirs, List<Ours> items) {
    List<Suggestion> found = new ArrayList<>();
    for (Ours ours : items) {
      if (!theirs.gtin().isEmpty() && theirs.gtin().equals(ours.gtin())) {
        found.add(new Suggestion(ours.sku(), ours.name(), 98, "same GTIN"));
      } else if (!theirs.sku().isEmpty() && theirs.sku().equals(ours.compactSku())) {
        found.add(new Suggestion(ours.sku(), ours.name(), 90, "same SKU but for its dashes"));
      } else {
        int percent = likeness(theirs.words(), ours.words());
        Long price = theirs.price();
        boolean samePrice = price != null && isNear(price, ours.price());
        if (percent >= 30) {
          found.add(
              new Suggestion(
                  ours.sku(),
                  ours.name(),
                  Math.min(89, samePrice ? percent + PRICE_SAYS : percent),
                  samePrice ? "alike by name and price" : "alike by name"));
        }
      }
    }
    return found.stream()
        .sorted(
            Comparator.comparingInt(Suggestion::percent).reversed().thenComparing(Suggestion::sku))
        .limit(SUGGESTIONS)
        .toList();
  }

  /**
   * Shared words over all words (Jaccard's index), scaled so that a name alone is never certain.
   */
  private static int likeness(Set<String> a, Set<String> b) {
    Set<String> shared = new HashSet<>(a);
    shared.retainAll(b);
    Set<String> all = new HashSet<>(a);
    all.addAll(b);
    return all.isEmpty() ? 0 : shared.size() * 85 / all.size();
  }

  private static boolean isNear(long theirs, long ours) {
    return ours > 0 && Math.abs(theirs - ours) * 10 <= ours;
  }

  private static Set<String> words(String text) {
    return Arrays.stream(text.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+"))
        .filter(w -> w.length() > 1)
        .collect(Collectors.toSet());
  }

  private static String compact(String sku) {
    return sku.replaceAll("[^A-Za-z0-9]", "").toUpperCase(Locale.ROOT);
  }

  private static String normalGtin(String gtin) {
    try {
      return new Gtin(gtin).normalized();
    } catch (IllegalArgumentException none) {
      return "";
    }
  }
}
