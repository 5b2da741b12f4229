package dev.ordinator.suppliers;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.SUPPLIER;
import static dev.ordinator.schema.Tables.SUPPLIER_OFFER;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.val;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.rates.ExchangeRates;
import dev.ordinator.stock.Items;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Suppliers and what they offer. A supplier's file says all that it offers: what is no longer in it
 * counts as none. A changed price becomes what the item costs us.
 */
@Service
public class SupplierOffers {
  private final DSLContext db;
  private final Items items;
  private final SupplierStock stock;
  private final ExchangeRates rates;
  private final Nodes nodes;
  private final Events events;
  private final OrdinatorSettings settings;
  private final Clock clock;

  SupplierOffers(
      DSLContext db,
      Items items,
      SupplierStock stock,
      ExchangeRates rates,
      Nodes nodes,
      Events events,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.items = items;
    this.stock = stock;
    this.rates = rates;
    this.nodes = nodes;
    this.events = events;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * @param currency ISO 4217, in which it says its prices
   * @param readAt when its file was taken last; null: never
   * @param nodeId from which it sends by itself; null: it only sells to us
   * @param freshDays days after which what it said of its stock no longer counts
   * @param fresh whether it counts now
   */
  public record Supplier(
      long id,
      String code,
      String name,
      String currency,
      @Nullable Instant readAt,
      @Nullable Long nodeId,
      int freshDays,
      boolean fresh) {}

  /**
   * Something a supplier offers.
   *
   * @param price of a unit, without tax, minor units of the supplier's currency
   * @param cost the same in the base currency at today's rate; null: the rate is not known
   * @param itemId the item that we buy by it; null: none yet
   */
  public record Offer(
      long id,
      String code,
      String title,
      @Nullable String gtin,
      long price,
      @Nullable Long cost,
      long available,
      @Nullable Long itemId,
      @Nullable String sku,
      Instant changedAt) {}

  /** How an offer would change by a file. */
  enum Kind {
    NEW,
    CHANGED,
    /** It is no longer in the file, and counts as none. */
    GONE
  }

  /**
   * @param before null: it is new
   */
  record Change(
      Kind kind,
      String code,
      String title,
      @Nullable Long priceBefore,
      long price,
      @Nullable Long availableBefore,
      long available) {}

  private record Known(long id, String title, @Nullable String gtin, long price, long units) {}

  public List<Supplier> all() {
    return db.selectFrom(SUPPLIER)
        .orderBy(SUPPLIER.NAME)
        .fetch(s ->
            new Supplier(
                s.getId(),
                s.getCode(),
                s.getName(),
                s.getCurrency(),
                s.getReadAt(),
                s.getNodeId(),
                s.getFreshDays(),
                isFresh(s.getReadAt(), s.getFreshDays())));
  }

  private boolean isFresh(@Nullable Instant readAt, int days) {
    return readAt != null && readAt.plus(Duration.ofDays(days)).isAfter(clock.instant());
  }

  public Supplier byId(long id) {
    return all().stream()
        .filter(s -> s.id() == id)
        .findFirst()
        .orElseThrow(() -> Problem.notFound("supplier " + id));
  }

  @Transactional
  public long add(String code, String name, String currency, String actor) {
    if (!code.matches("[A-Z0-9]{2,12}")) {
      throw Problem.invalid("code", "2 to 12 capital letters and digits");
    }
    if (name.isBlank() || name.length() > 80) {
      throw Problem.invalid("name", "1 to 80 characters");
    }
    try {
      Money.of(0, currency);
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("currency", Objects.toString(e.getMessage()));
    }
    try {
      long id =
          db.insertInto(SUPPLIER)
              .set(SUPPLIER.CODE, code)
              .set(SUPPLIER.NAME, name.strip())
              .set(SUPPLIER.CURRENCY, currency)
              .returningResult(SUPPLIER.ID)
              .fetchSingle()
              .value1();
      noted(actor, name.strip() + " is a supplier");
      return id;
    } catch (DuplicateKeyException e) {
      throw Problem.conflict("there is a supplier " + code + " already");
    }
  }

  /**
   * Says from which node a supplier sends by itself, and for how long its word counts.
   *
   * @param nodeId null: it only sells to us
   */
  @Transactional
  public void setSending(long supplierId, @Nullable Long nodeId, int freshDays, String actor) {
    Supplier before = lock(supplierId);
    if (freshDays < 1 || freshDays > 365) {
      throw Problem.invalid("freshDays", "1 to 365 days");
    }
    if (nodeId != null && nodes.byId(nodeId).kind() != NodeKind.SUPPLIER) {
      throw Problem.invalid("nodeId", nodes.byId(nodeId).name() + " is not a supplier’s node");
    }
    boolean moves = !Objects.equals(before.nodeId(), nodeId);
    if (moves) {
      stock.clear(before, actor);
    }
    try {
      db.update(SUPPLIER)
          .set(SUPPLIER.NODE_ID, nodeId)
          .set(SUPPLIER.FRESH_DAYS, freshDays)
          .where(SUPPLIER.ID.eq(supplierId))
          .execute();
    } catch (DuplicateKeyException e) {
      throw Problem.conflict("another supplier sends from there");
    }
    Supplier after = byId(supplierId);
    if (moves || after.fresh() != before.fresh()) {
      stock.settle(after, actor);
    }
    noted(
        actor,
        before.name()
            + (nodeId == null
                ? " only sells to us"
                : " sends from %s; its word counts for %d days"
                    .formatted(nodes.byId(nodeId).name(), freshDays)));
  }

  private Supplier lock(long supplierId) {
    db.select(SUPPLIER.ID).from(SUPPLIER).where(SUPPLIER.ID.eq(supplierId)).forUpdate().fetch();
    return byId(supplierId);
  }

  /** Offers that are called like that, by code. */
  public List<Offer> of(Supplier supplier, String search, int limit) {
    String part = search.strip();
    Condition which =
        part.isEmpty()
            ? noCondition()
            : SUPPLIER_OFFER
                .CODE
                .startsWithIgnoreCase(part)
                .or(SUPPLIER_OFFER.TITLE.containsIgnoreCase(part))
                .or(SUPPLIER_OFFER.GTIN.endsWith(part));
    return offers(supplier, SUPPLIER_OFFER.SUPPLIER_ID.eq(supplier.id()).and(which), limit);
  }

  private List<Offer> offers(Supplier supplier, Condition which, int limit) {
    ExchangeRate rate = rates.at(supplier.currency(), clock.instant()).orElse(null);
    return db.select(
            SUPPLIER_OFFER.ID,
            SUPPLIER_OFFER.CODE,
            SUPPLIER_OFFER.TITLE,
            SUPPLIER_OFFER.GTIN,
            SUPPLIER_OFFER.PRICE,
            SUPPLIER_OFFER.AVAILABLE,
            SUPPLIER_OFFER.ITEM_ID,
            ITEM.SKU,
            SUPPLIER_OFFER.CHANGED_AT)
        .from(SUPPLIER_OFFER)
        .leftJoin(ITEM)
        .on(ITEM.ID.eq(SUPPLIER_OFFER.ITEM_ID))
        .where(which)
        .orderBy(SUPPLIER_OFFER.CODE)
        .limit(limit)
        .fetch(r ->
            new Offer(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                cost(rate, r.value5(), supplier),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9()));
  }

  /** What a file would change. */
  List<Change> changes(long supplierId, List<OfferFile.Row> rows) {
    Map<String, Known> known = known(supplierId);
    List<Change> changes = new ArrayList<>();
    for (OfferFile.Row row : rows) {
      Known before = known.remove(row.code());
      if (before == null) {
        changes.add(
            new Change(Kind.NEW, row.code(), row.title(), null, row.price(), null, row.units()));
      } else if (!before.title().equals(row.title())
          || !Objects.equals(before.gtin(), row.gtin())
          || before.price() != row.price()
          || before.units() != row.units()) {
        changes.add(
            new Change(
                Kind.CHANGED,
                row.code(),
                row.title(),
                before.price(),
                row.price(),
                before.units(),
                row.units()));
      }
    }
    known.forEach((code, before) -> {
      if (before.units() > 0) {
        changes.add(
            new Change(
                Kind.GONE,
                code,
                before.title(),
                before.price(),
                before.price(),
                before.units(),
                0));
      }
    });
    return changes;
  }

  /** A row of a file that can’t be read, and why. */
  public record Refused(long row, String why) {}

  /** What became of a file. */
  public record Taken(int changed, List<Refused> refused) {}

  /**
   * Takes a file: all of it that could be read, in one transaction.
   *
   * @param file CSV or XLSX with the columns code, title, gtin, price, available
   */
  @Transactional
  public Taken takeFile(long supplierId, Path file, String actor) {
    OfferFile.Read read = OfferFile.read(file, byId(supplierId).currency());
    return new Taken(take(supplierId, read.rows(), actor), read.refused());
  }

  private int take(long supplierId, List<OfferFile.Row> rows, String actor) {
    Supplier supplier = lock(supplierId);
    List<Change> changes = changes(supplierId, rows);
    Map<String, OfferFile.Row> byCode = new HashMap<>();
    rows.forEach(row -> byCode.put(row.code(), row));
    Instant now = clock.instant();
    for (Change change : changes) {
      OfferFile.Row row = byCode.get(change.code());
      if (row == null) {
        db.update(SUPPLIER_OFFER)
            .set(SUPPLIER_OFFER.AVAILABLE, 0L)
            .set(SUPPLIER_OFFER.CHANGED_AT, now)
            .where(SUPPLIER_OFFER.SUPPLIER_ID.eq(supplierId))
            .and(SUPPLIER_OFFER.CODE.eq(change.code()))
            .execute();
      } else {
        keep(supplier, row, now);
      }
    }
    pricesBecomeCosts(supplier);
    db.update(SUPPLIER).set(SUPPLIER.READ_AT, now).where(SUPPLIER.ID.eq(supplierId)).execute();
    stock.settle(byId(supplierId), actor);
    noted(actor, supplier.name() + ": " + changes.size() + " offers changed by a file");
    return changes.size();
  }

  private void keep(Supplier supplier, OfferFile.Row row, Instant now) {
    Long item = itemOf(row);
    db.insertInto(SUPPLIER_OFFER)
        .set(SUPPLIER_OFFER.SUPPLIER_ID, supplier.id())
        .set(SUPPLIER_OFFER.CODE, row.code())
        .set(SUPPLIER_OFFER.TITLE, row.title())
        .set(SUPPLIER_OFFER.GTIN, row.gtin())
        .set(SUPPLIER_OFFER.PRICE, row.price())
        .set(SUPPLIER_OFFER.AVAILABLE, row.units())
        .set(SUPPLIER_OFFER.ITEM_ID, item)
        .set(SUPPLIER_OFFER.CHANGED_AT, now)
        .onDuplicateKeyUpdate()
        .set(SUPPLIER_OFFER.ITEM_ID, coalesce(SUPPLIER_OFFER.ITEM_ID, val(item)))
        .set(SUPPLIER_OFFER.TITLE, row.title())
        .set(SUPPLIER_OFFER.GTIN, row.gtin())
        .set(SUPPLIER_OFFER.PRICE, row.price())
        .set(SUPPLIER_OFFER.AVAILABLE, row.units())
        .set(SUPPLIER_OFFER.CHANGED_AT, now)
        .execute();
  }

  /**
   * The item that has the offer's GTIN, for an offer that is new. A code is the supplier's own:
   * another supplier's offer of the same code is another thing.
   */
  private @Nullable Long itemOf(OfferFile.Row row) {
    OptionalLong found = row.gtin() == null ? OptionalLong.empty() : items.idByGtin(row.gtin());
    return found.isPresent() ? found.getAsLong() : null;
  }

  /**
   * Each offer costs its price at today's rate; what is bought by one offer only costs what that
   * offer says.
   */
  private void pricesBecomeCosts(Supplier supplier) {
    ExchangeRate rate = rates.at(supplier.currency(), clock.instant()).orElse(null);
    if (rate == null) {
      return;
    }
    var prices =
        db.select(SUPPLIER_OFFER.ID, SUPPLIER_OFFER.PRICE)
            .from(SUPPLIER_OFFER)
            .where(SUPPLIER_OFFER.SUPPLIER_ID.eq(supplier.id()))
            .fetch();
    db.batched(c ->
        prices.forEach(r ->
            c.dsl()
                .update(SUPPLIER_OFFER)
                .set(SUPPLIER_OFFER.COST, cost(rate, r.value2(), supplier))
                .where(SUPPLIER_OFFER.ID.eq(r.value1()))
                .execute()));
    var other = SUPPLIER_OFFER.as("other");
    db.update(
            ITEM.join(SUPPLIER_OFFER)
                .on(SUPPLIER_OFFER.ITEM_ID.eq(ITEM.ID))
                .and(SUPPLIER_OFFER.SUPPLIER_ID.eq(supplier.id())))
        .set(ITEM.COST, SUPPLIER_OFFER.COST)
        .whereNotExists(
            selectOne()
                .from(other)
                .where(other.ITEM_ID.eq(ITEM.ID))
                .and(other.ID.ne(SUPPLIER_OFFER.ID)))
        .execute();
  }

  /**
   * The SKU of the item that is bought by an offer. It is made if we have none: named as the
   * supplier names it, at its cost.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public String itemFor(long offerId) {
    var head =
        db.select(SUPPLIER_OFFER.SUPPLIER_ID, SUPPLIER_OFFER.ITEM_ID)
            .from(SUPPLIER_OFFER)
            .where(SUPPLIER_OFFER.ID.eq(offerId))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("offer " + offerId));
    Supplier supplier = byId(head.value1());
    Offer offer = offers(supplier, SUPPLIER_OFFER.ID.eq(offerId), 1).getFirst();
    if (offer.sku() != null) {
      return offer.sku();
    }
    String sku = skuOf(supplier, offer);
    long item = items.create(sku, offer.title(), offer.gtin() == null ? "" : offer.gtin());
    db.update(ITEM)
        .set(ITEM.COST, offer.cost())
        .set(ITEM.SUPPLIER_CODE, offer.code())
        .where(ITEM.ID.eq(item))
        .execute();
    db.update(SUPPLIER_OFFER)
        .set(SUPPLIER_OFFER.ITEM_ID, item)
        .where(SUPPLIER_OFFER.ID.eq(offerId))
        .execute();
    stock.settle(supplier, item, supplier.name());
    return sku;
  }

  /** The SKU that an offer's item has, or would get: the supplier's code and its own. */
  public static String skuOf(Supplier supplier, Offer offer) {
    return offer.sku() != null ? offer.sku() : supplier.code() + "-" + offer.code();
  }

  private Map<String, Known> known(long supplierId) {
    Map<String, Known> known = new HashMap<>();
    db.selectFrom(SUPPLIER_OFFER)
        .where(SUPPLIER_OFFER.SUPPLIER_ID.eq(supplierId))
        .forEach(o ->
            known.put(
                o.getCode(),
                new Known(o.getId(), o.getTitle(), o.getGtin(), o.getPrice(), o.getAvailable())));
    return known;
  }

  private static @Nullable Long cost(@Nullable ExchangeRate rate, long price, Supplier supplier) {
    return rate == null ? null : rate.convert(Money.of(price, supplier.currency())).minor();
  }

  private void noted(String actor, String what) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, what, "");
  }
}
