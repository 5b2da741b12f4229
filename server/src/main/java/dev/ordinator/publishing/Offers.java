package dev.ordinator.publishing;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.TAX_RATE;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.channels.Channel;
import dev.ordinator.core.catalog.PriceRule;
import dev.ordinator.core.catalog.PriceRule.Priced;
import dev.ordinator.core.catalog.PriceRule.Terms;
import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.rates.ExchangeRates;
import dev.ordinator.stock.Items;
import dev.ordinator.suppliers.SupplierOffers;
import dev.ordinator.suppliers.SupplierOffers.Supplier;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record8;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What our items would cost and earn on a channel: looks only, changes nothing. */
@Component
class Offers {
  private static final int MOST = 500;

  private final DSLContext db;
  private final Items items;
  private final SupplierOffers suppliers;
  private final ExchangeRates rates;
  private final Clock clock;

  Offers(DSLContext db, Items items, SupplierOffers suppliers, ExchangeRates rates, Clock clock) {
    this.db = db;
    this.items = items;
    this.suppliers = suppliers;
    this.rates = rates;
    this.clock = clock;
  }

  /** Whether an item can be offered. */
  enum Verdict {
    NEW,
    /** The channel has a listing of it. */
    OFFERED,
    /** Nothing of it can be had now. */
    NOT_TO_BE_HAD,
    NO_COST,
    /** Fee and floor leave no price. */
    NO_PRICE
  }

  /**
   * An item as it would be offered; amounts in minor units of the channel's currency.
   *
   * @param offer the supplier's offer that it is made from; null: it is an item of ours
   * @param available units over the nodes that serve the channel; of an offer, those that the
   *     supplier has
   * @param why if there is no price
   */
  record Line(
      @Nullable Long offer,
      String sku,
      String title,
      String family,
      long available,
      @Nullable Long cost,
      @Nullable Long price,
      @Nullable Long margin,
      @Nullable Long marginHundredths,
      boolean raised,
      Verdict verdict,
      String why) {}

  /**
   * A listing that was made from here and is to be another now: its price by the rule has changed,
   * or its item is no longer sold.
   *
   * @param withdraw it is taken back from buyers, at the price that it has
   */
  record Change(
      long listingId,
      String sku,
      String title,
      long before,
      long after,
      long margin,
      long marginHundredths,
      boolean raised,
      boolean published,
      boolean withdraw) {}

  /** What a line is made from: an item, or a supplier's offer. */
  private record Row(
      @Nullable Long offer,
      @Nullable Long item,
      String sku,
      String name,
      String family,
      @Nullable Long cost,
      String taxClass) {}

  /** Items that a supplier brings in are taxed so until somebody says otherwise. */
  private static final String NEW_ITEMS_TAX = "STANDARD";

  /** What all lines of a channel are priced by. */
  record Basis(PriceRule rule, Map<String, Integer> taxes, int fee, ExchangeRate rate) {
    Terms terms(String taxClass) {
      return new Terms(taxes.getOrDefault(taxClass, 0), fee);
    }

    /** The cost in the channel's currency. */
    long cost(long inBase) {
      return rate.convertBack(new Money(inBase, rate.to())).minor();
    }

    /**
     * @throws IllegalArgumentException if there is no price
     */
    Priced price(long costInBase, String taxClass) {
      return rule.price(cost(costInBase), terms(taxClass));
    }
  }

  /** Items that are called like that, by SKU. */
  List<Line> of(Channel channel, PriceRules.Set rule, String search) {
    String part = search.strip();
    Condition which =
        part.isEmpty()
            ? noCondition()
            : ITEM.SKU
                .containsIgnoreCase(part)
                .or(ITEM.NAME.containsIgnoreCase(part))
                .or(ITEM.CATEGORY.containsIgnoreCase(part));
    Basis basis = basis(channel, rule);
    List<Row> rows =
        db.select(ITEM.ID, ITEM.SKU, ITEM.NAME, ITEM.FAMILY, ITEM.COST, ITEM.TAX_CLASS)
            .from(ITEM)
            .where(which)
            .and(ITEM.ENDED.isFalse())
            .orderBy(ITEM.SKU)
            .limit(MOST)
            .fetch(r ->
                new Row(
                    null, r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
    Map<Long, Long> free =
        items.free(rows.stream().map(Row::item).toList(), channel.terms().nodes());
    Set<Long> offered = offered(channel);
    return rows.stream()
        .map(row ->
            line(row, basis, free.getOrDefault(row.item(), 0L), offered.contains(row.item())))
        .toList();
  }

  /** What a supplier offers, as it would be offered on; by its code. */
  List<Line> fromSupplier(Channel channel, PriceRules.Set rule, long supplierId, String search) {
    Supplier supplier = suppliers.byId(supplierId);
    Basis basis = basis(channel, rule);
    Set<Long> offered = offered(channel);
    return suppliers.of(supplier, search, MOST).stream()
        .map(offer ->
            line(
                new Row(
                    offer.id(),
                    offer.itemId(),
                    SupplierOffers.skuOf(supplier, offer),
                    offer.title(),
                    "",
                    offer.cost(),
                    NEW_ITEMS_TAX),
                basis,
                offer.available(),
                offer.itemId() != null && offered.contains(offer.itemId())))
        .toList();
  }

  private Set<Long> offered(Channel channel) {
    return new HashSet<>(
        db.select(LISTING.ITEM_ID)
            .from(LISTING)
            .where(LISTING.CHANNEL_ID.eq(channel.id()))
            .and(LISTING.ITEM_ID.isNotNull())
            .fetch(LISTING.ITEM_ID));
  }

  private static Line line(Row row, Basis basis, long available, boolean offered) {
    if (row.cost() == null) {
      return new Line(
          row.offer(),
          row.sku(),
          row.name(),
          row.family(),
          available,
          null,
          null,
          null,
          null,
          false,
          offered ? Verdict.OFFERED : Verdict.NO_COST,
          "");
    }
    long cost = basis.cost(row.cost());
    try {
      Priced priced = basis.price(row.cost(), row.taxClass());
      Verdict verdict =
          offered ? Verdict.OFFERED : available > 0 ? Verdict.NEW : Verdict.NOT_TO_BE_HAD;
      return new Line(
          row.offer(),
          row.sku(),
          row.name(),
          row.family(),
          available,
          cost,
          priced.price(),
          priced.margin(),
          priced.marginHundredths(),
          priced.raised(),
          verdict,
          "");
    } catch (IllegalArgumentException e) {
      return new Line(
          row.offer(),
          row.sku(),
          row.name(),
          row.family(),
          available,
          cost,
          null,
          null,
          null,
          false,
          offered ? Verdict.OFFERED : Verdict.NO_PRICE,
          Texts.of(e));
    }
  }

  /** What would be pushed now, because cost, rule or an item's state changed. */
  List<Change> changes(Channel channel, PriceRules.Set rule) {
    Basis basis = basis(channel, rule);
    return db
        .select(
            LISTING.ID,
            ITEM.SKU,
            LISTING.TITLE,
            LISTING.PRICE,
            LISTING.PUBLISHED,
            ITEM.COST,
            ITEM.TAX_CLASS,
            ITEM.ENDED)
        .from(LISTING)
        .join(ITEM)
        .on(ITEM.ID.eq(LISTING.ITEM_ID))
        .where(LISTING.CHANNEL_ID.eq(channel.id()))
        .and(LISTING.OURS.isTrue())
        .and(LISTING.PRICE.isNotNull())
        .and(ITEM.COST.isNotNull())
        .orderBy(LISTING.ID)
        .fetch()
        .stream()
        .flatMap(r -> change(r, basis))
        .toList();
  }

  private static Stream<Change> change(
      Record8<Long, String, String, Long, Boolean, Long, String, Boolean> r, Basis basis) {
    Priced now;
    try {
      now = basis.price(r.value6(), r.value7());
    } catch (IllegalArgumentException noPrice) {
      return Stream.empty();
    }
    boolean withdraw = r.value8() && r.value5();
    if (r.value8() ? !withdraw : now.price() == r.value4()) {
      return Stream.empty();
    }
    return Stream.of(
        new Change(
            r.value1(),
            r.value2(),
            r.value3(),
            r.value4(),
            withdraw ? r.value4() : now.price(),
            now.margin(),
            now.marginHundredths(),
            now.raised(),
            r.value5(),
            withdraw));
  }

  Basis basis(Channel channel, PriceRules.Set rule) {
    ExchangeRate rate =
        rates
            .at(channel.currency(), clock.instant())
            .orElseThrow(() ->
                Problem.conflict("today’s exchange rate of " + channel.currency() + " is missing"));
    Map<String, Integer> taxes =
        channel.terms().pricesWithTax()
            ? db.select(TAX_RATE.CLASS, TAX_RATE.RATE)
                .from(TAX_RATE)
                .where(TAX_RATE.COUNTRY.eq(rule.country()))
                .fetchMap(TAX_RATE.CLASS, TAX_RATE.RATE)
            : Map.of();
    return new Basis(rule.rule(), taxes, channel.terms().feeHundredths(), rate);
  }
}
