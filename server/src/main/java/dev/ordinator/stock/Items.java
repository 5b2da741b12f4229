package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static dev.ordinator.schema.Tables.SUPPLIER;
import static dev.ordinator.schema.Tables.SUPPLIER_OFFER;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.stock.LotPick;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.platform.Texts;
import dev.ordinator.stock.Kits.Shelf;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Items and what is available of them, in core's terms. */
@Service
public class Items {
  private final DSLContext db;
  private final Kits kits;
  private final Uncounted uncounted;

  Items(DSLContext db, Kits kits, Uncounted uncounted) {
    this.db = db;
    this.kits = kits;
    this.uncounted = uncounted;
  }

  /**
   * An item with its key and what rules ask about.
   *
   * @param gtin empty if it has none
   * @param listPrice of a unit, in minor units of the base currency; {@code cost} likewise
   * @param counted false: there is always enough of it
   * @param home code of the node that is tried first for orders with it; null: none is
   * @param outOn the first day on which it is sent, though it is sold before; null: any day
   * @param lots how its lots are taken; null: from any
   */
  public record StockedItem(
      long id,
      Item item,
      String name,
      String gtin,
      String category,
      long listPrice,
      long cost,
      boolean isKit,
      boolean counted,
      @Nullable String home,
      @Nullable LocalDate outOn,
      LotPick.@Nullable Rule lots) {

    /** Whether it may be sent on a day. */
    public boolean isOut(LocalDate day) {
      return outOn == null || !outOn.isAfter(day);
    }
  }

  /** Items by their ids. */
  public record Goods(Map<Long, StockedItem> byId) {

    /**
     * @throws IllegalArgumentException if it is not among them
     */
    public StockedItem of(@Nullable Long id) {
      StockedItem item = byId.get(id);
      if (item == null) {
        throw new IllegalArgumentException("item " + id + " is not among them");
      }
      return item;
    }

    /** Those of them that may be sent on a day. */
    public Goods outOn(LocalDate day) {
      return new Goods(
          byId.entrySet().stream()
              .filter(e -> e.getValue().isOut(day))
              .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)));
    }

    /** Those of them with these ids. */
    public Goods only(Collection<Long> ids) {
      Map<Long, StockedItem> some = new HashMap<>();
      ids.forEach(id -> some.put(id, of(id)));
      return new Goods(some);
    }
  }

  /**
   * Available units of an item at a node.
   *
   * @param perishable what of it is free, by how long it lasts; empty: it does not perish
   * @param cost of a unit that the node’s supplier would bill us, minor units of the base currency;
   *     null: it is ours, or nothing was said
   */
  public record Available(
      long itemId,
      String node,
      long units,
      List<Situation.Perishable> perishable,
      @Nullable Long cost) {
    public Available(long itemId, String node, long units, List<Situation.Perishable> perishable) {
      this(itemId, node, units, perishable, null);
    }

    /** The same with other units. */
    public Available with(long others, List<Situation.Perishable> lasting) {
      return new Available(itemId, node, others, lasting, cost);
    }
  }

  public Goods byId(Collection<Long> ids) {
    return goods(ITEM.ID.in(ids));
  }

  /** Those of them that there are. */
  public Goods bySku(Collection<String> skus) {
    return goods(ITEM.SKU.in(skus));
  }

  private Goods goods(org.jooq.Condition which) {
    return new Goods(
        db.select(
                ITEM.ID,
                ITEM.SKU,
                ITEM.WEIGHT,
                ITEM.VOLUME,
                ITEM.HAZARD,
                ITEM.BANNED_COUNTRIES,
                ITEM.NAME,
                ITEM.GTIN,
                ITEM.CATEGORY,
                ITEM.LIST_PRICE,
                ITEM.COST,
                ITEM.COUNTED,
                ITEM.TRACKED,
                ITEM.PICK,
                ITEM.ONE_LOT,
                ITEM.MIN_LIFE,
                ITEM.OUT_ON,
                KIT.ITEM_ID,
                NODE.CODE)
            .from(ITEM)
            .leftJoin(NODE)
            .on(NODE.ID.eq(ITEM.HOME_NODE_ID))
            .leftJoin(KIT)
            .on(KIT.ITEM_ID.eq(ITEM.ID))
            .where(which)
            .fetchMap(
                ITEM.ID,
                r ->
                    new StockedItem(
                        r.get(ITEM.ID),
                        new Item(
                            r.get(ITEM.SKU),
                            r.get(ITEM.WEIGHT),
                            r.get(ITEM.VOLUME),
                            r.get(ITEM.HAZARD),
                            countries(r.get(ITEM.BANNED_COUNTRIES))),
                        r.get(ITEM.NAME),
                        Objects.requireNonNullElse(r.get(ITEM.GTIN), ""),
                        r.get(ITEM.CATEGORY),
                        r.get(ITEM.LIST_PRICE),
                        Objects.requireNonNullElse(r.get(ITEM.COST), 0L),
                        r.get(KIT.ITEM_ID) != null,
                        r.get(ITEM.COUNTED),
                        r.get(NODE.CODE),
                        r.get(ITEM.OUT_ON),
                        Lots.Tracked.valueOf(r.get(ITEM.TRACKED)).isByLot()
                            ? new LotPick.Rule(
                                LotPick.Order.valueOf(r.get(ITEM.PICK)),
                                r.get(ITEM.ONE_LOT),
                                r.get(ITEM.MIN_LIFE))
                            : null)));
  }

  /**
   * What nodes can give of items, and, of those whose lots are tracked, how long it lasts.
   *
   * @param own what is set aside for who asks
   */
  public List<Available> available(Goods goods, List<Earmarks.Own> own) {
    Map<Long, Map<String, List<Situation.Perishable>>> lasting = lasting(goods, own);
    Map<Long, Map<String, Long>> mine =
        own.stream()
            .collect(
                Collectors.groupingBy(
                    Earmarks.Own::itemId,
                    Collectors.groupingBy(
                        Earmarks.Own::node, Collectors.summingLong(Earmarks.Own::units))));
    List<Available> available = new ArrayList<>();
    Field<Long> cost =
        field(
            select(min(SUPPLIER_OFFER.COST))
                .from(SUPPLIER_OFFER)
                .join(SUPPLIER)
                .on(SUPPLIER.ID.eq(SUPPLIER_OFFER.SUPPLIER_ID))
                .where(SUPPLIER.NODE_ID.eq(STOCK_LEVEL.NODE_ID))
                .and(SUPPLIER_OFFER.ITEM_ID.eq(STOCK_LEVEL.ITEM_ID)));
    db.select(STOCK_LEVEL.ITEM_ID, NODE.CODE, cost)
        .select(Levels.FIELDS)
        .from(STOCK_LEVEL)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .where(STOCK_LEVEL.ITEM_ID.in(ids(goods, StockedItem::counted)))
        .forEach(r ->
            available.add(
                new Available(
                    r.get(STOCK_LEVEL.ITEM_ID),
                    r.get(NODE.CODE),
                    Levels.of(r).availableTo(at(mine, r, 0L)),
                    at(lasting, r, List.of()),
                    r.get(cost))));
    available.addAll(plenty(goods));
    return available;
  }

  /** What is not counted, at those who keep it. */
  public List<Available> plenty(Goods goods) {
    return plenty(ids(goods, item -> !item.counted()));
  }

  private static List<Long> ids(Goods goods, Predicate<StockedItem> which) {
    return goods.byId().values().stream().filter(which).map(StockedItem::id).toList();
  }

  private List<Available> plenty(List<Long> itemIds) {
    return itemIds.isEmpty()
        ? List.of()
        : uncounted.keepers(Set.of()).stream()
            .flatMap(node ->
                itemIds.stream()
                    .map(item -> new Available(item, node.code(), StockLevel.PLENTY, List.of())))
            .toList();
  }

  private static <T> T at(Map<Long, Map<String, T>> byItemAndNode, Record r, T otherwise) {
    return byItemAndNode
        .getOrDefault(r.get(STOCK_LEVEL.ITEM_ID), Map.of())
        .getOrDefault(r.get(NODE.CODE), otherwise);
  }

  /**
   * By item and then by node's code.
   *
   * @param own lots named for who asks count as free
   */
  private Map<Long, Map<String, List<Situation.Perishable>>> lasting(
      Goods goods, List<Earmarks.Own> own) {
    List<Long> tracked = ids(goods, item -> item.lots() != null);
    if (tracked.isEmpty()) {
      return Map.of();
    }
    Map<Long, Long> named = new HashMap<>();
    own.stream()
        .filter(e -> e.placeId() != null)
        .forEach(e -> named.merge(Objects.requireNonNull(e.placeId()), e.units(), Long::sum));
    Map<Long, Map<String, List<Situation.Perishable>>> lasting = new HashMap<>();
    db.select(
            STOCK_PLACE.ITEM_ID,
            NODE.CODE,
            LOT.EXPIRES,
            STOCK_PLACE.ON_HAND.minus(STOCK_PLACE.ALLOCATED),
            STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_PLACE.NODE_ID))
        .leftJoin(LOT)
        .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
        .where(STOCK_PLACE.ITEM_ID.in(tracked))
        .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
        .and(STOCK_PLACE.ON_HAND.gt(STOCK_PLACE.ALLOCATED).or(STOCK_PLACE.ID.in(named.keySet())))
        .forEach(r ->
            lasting
                .computeIfAbsent(r.value1(), i -> new HashMap<>())
                .computeIfAbsent(r.value2(), n -> new ArrayList<>())
                .add(
                    new Situation.Perishable(
                        Objects.requireNonNull(goods.of(r.value1()).lots()).lastArrival(r.value3()),
                        r.value4() + named.getOrDefault(r.value5(), 0L))));
    return lasting;
  }

  /**
   * Available units of items over the nodes that serve a channel; a channel's depot serves none but
   * itself. Of kits, as many as there can be.
   *
   * @param serving codes of nodes; empty: all
   * @return by item; what is nowhere is left out
   */
  public Map<Long, Long> free(Collection<Long> itemIds, Set<String> serving) {
    Map<Long, Long> free =
        db.select(STOCK_LEVEL.ITEM_ID)
            .select(Levels.FIELDS)
            .from(STOCK_LEVEL)
            .join(NODE)
            .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
            .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
            .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
            .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
            .collect(
                Collectors.groupingBy(
                    r -> r.get(STOCK_LEVEL.ITEM_ID),
                    Collectors.summingLong(r -> Levels.of(r).available())));
    uncounted.among(itemIds).forEach(item -> free.put(item, StockLevel.PLENTY));
    free.putAll(kits.free(itemIds, serving, Kits.Look.AVAILABLE));
    return free;
  }

  /**
   * Available units of items at each node that serves a channel; of kits, as many as there can be.
   *
   * @param goods with all that the kits among them may need
   * @param own what is set aside for who asks
   * @return by node's code and then by SKU
   */
  public Map<String, Map<String, Long>> freeByNode(
      Goods goods, Shelf shelf, Set<String> serving, List<Earmarks.Own> own) {
    Map<String, Map<String, Long>> byNode = new HashMap<>();
    available(goods, own).stream()
        .filter(a -> serving.isEmpty() || serving.contains(a.node()))
        .forEach(a ->
            byNode
                .computeIfAbsent(a.node(), n -> new HashMap<>())
                .put(goods.of(a.itemId()).item().sku(), a.units()));
    byNode.replaceAll((node, units) -> {
      Map<String, Long> withKits = new HashMap<>(units);
      goods.byId().values().stream()
          .filter(StockedItem::isKit)
          .map(kit -> kit.item().sku())
          .forEach(sku -> withKits.put(sku, Kits.available(shelf.book(), sku, units)));
      return withKits;
    });
    return byNode;
  }

  /** Units of every kit, as {@link #free} counts them, and as if nothing were held for anybody. */
  public record KitStocks(Map<Long, Long> available, Map<Long, Long> onHand) {}

  /**
   * @param serving codes of nodes; empty: all but channels' depots
   */
  public KitStocks kitStocks(Set<String> serving) {
    List<Long> all = db.select(KIT.ITEM_ID).from(KIT).fetch(KIT.ITEM_ID);
    return new KitStocks(
        kits.free(all, serving, Kits.Look.AVAILABLE), kits.free(all, serving, Kits.Look.ON_HAND));
  }

  public OptionalLong idBySku(String sku) {
    Long id = db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchOne(ITEM.ID);
    return id == null ? OptionalLong.empty() : OptionalLong.of(id);
  }

  /** The item with that GTIN, if exactly one has it; GTINs are stored in their 14-digit form. */
  public OptionalLong idByGtin(String gtin) {
    String normal;
    try {
      normal = new Gtin(gtin).normalized();
    } catch (IllegalArgumentException notOne) {
      return OptionalLong.empty();
    }
    List<Long> ids = db.select(ITEM.ID).from(ITEM).where(ITEM.GTIN.eq(normal)).fetch(ITEM.ID);
    return ids.size() == 1 ? OptionalLong.of(ids.getFirst()) : OptionalLong.empty();
  }

  /** The item that is bought by that code, if only one supplier uses it, and for one item. */
  public OptionalLong idBySupplierCode(String code) {
    List<Long> offered =
        db.select(SUPPLIER_OFFER.ITEM_ID)
            .from(SUPPLIER_OFFER)
            .where(SUPPLIER_OFFER.CODE.eq(code))
            .fetch(SUPPLIER_OFFER.ITEM_ID);
    if (offered.size() > 1) {
      return OptionalLong.empty();
    }
    Set<Long> ids =
        new HashSet<>(
            code.isBlank()
                ? List.of()
                : db.select(ITEM.ID).from(ITEM).where(ITEM.SUPPLIER_CODE.eq(code)).fetch(ITEM.ID));
    offered.stream().filter(Objects::nonNull).forEach(ids::add);
    return ids.size() == 1 ? OptionalLong.of(ids.iterator().next()) : OptionalLong.empty();
  }

  /**
   * Makes an item of which no more is known than how a channel calls it; or gives the one with that
   * SKU.
   *
   * @param gtin kept if it is one and no other item has it
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long create(String sku, String name, String gtin) {
    String code = Texts.cut(sku, 60);
    String number = null;
    try {
      String normal = new Gtin(gtin).normalized();
      number = idByGtin(gtin).isEmpty() ? normal : null;
    } catch (IllegalArgumentException notOne) {
      // an item may have none
    }
    db.insertInto(ITEM)
        .set(ITEM.SKU, code)
        .set(ITEM.NAME, Texts.cut(name, 200))
        .set(ITEM.GTIN, number)
        .set(ITEM.CATEGORY, "new")
        .set(ITEM.WEIGHT, 0L)
        .set(ITEM.VOLUME, 0L)
        .set(ITEM.LIST_PRICE, 0L)
        .onDuplicateKeyIgnore()
        .execute();
    return idBySku(code).orElseThrow();
  }

  private static Set<String> countries(String commaList) {
    return commaList.isEmpty() ? Set.of() : Set.of(commaList.split(","));
  }
}
