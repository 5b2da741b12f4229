package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.catalog.Gtin;
import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.platform.Texts;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Items and what is available of them, in core's terms. */
@Service
public class Items {
  private final DSLContext db;
  private final Kits kits;

  Items(DSLContext db, Kits kits) {
    this.db = db;
    this.kits = kits;
  }

  /**
   * An item with its key and what rules ask about.
   *
   * @param listPrice of a unit, in minor units of the base currency
   */
  public record StockedItem(
      long id, Item item, String name, String category, long listPrice, boolean isKit) {}

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
  }

  /** Available units of an item at a node. */
  public record Available(long itemId, String node, long units) {}

  public Goods byId(Collection<Long> ids) {
    return new Goods(
        db.select(
                ITEM.ID,
                ITEM.SKU,
                ITEM.WEIGHT,
                ITEM.VOLUME,
                ITEM.HAZARD,
                ITEM.BANNED_COUNTRIES,
                ITEM.NAME,
                ITEM.CATEGORY,
                ITEM.LIST_PRICE,
                KIT.ITEM_ID)
            .from(ITEM)
            .leftJoin(KIT)
            .on(KIT.ITEM_ID.eq(ITEM.ID))
            .where(ITEM.ID.in(ids))
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
                        r.get(ITEM.CATEGORY),
                        r.get(ITEM.LIST_PRICE),
                        r.get(KIT.ITEM_ID) != null)));
  }

  public List<Available> available(Collection<Long> itemIds) {
    return db.select(
            STOCK_LEVEL.ITEM_ID,
            NODE.CODE,
            STOCK_LEVEL.ON_HAND,
            STOCK_LEVEL.ALLOCATED,
            STOCK_LEVEL.SAFETY)
        .from(STOCK_LEVEL)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
        .fetch(r ->
            new Available(
                r.value1(),
                r.value2(),
                new StockLevel(r.value3(), r.value4(), r.value5()).available()));
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
        db.select(
                STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.SAFETY)
            .from(STOCK_LEVEL)
            .join(NODE)
            .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
            .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
            .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
            .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
            .collect(
                Collectors.groupingBy(
                    r -> r.value1(),
                    Collectors.summingLong(
                        r -> new StockLevel(r.value2(), r.value3(), r.value4()).available())));
    free.putAll(kits.free(itemIds, serving, Kits.Look.AVAILABLE));
    return free;
  }

  /**
   * Available units of items at each node that serves a channel, as {@link #free} sums them up.
   *
   * @return by item and then by node's code
   */
  public Map<Long, Map<String, Long>> freeByNode(Collection<Long> itemIds, Set<String> serving) {
    Map<Long, Map<String, Long>> free = new HashMap<>();
    available(itemIds).stream()
        .filter(a -> serving.isEmpty() || serving.contains(a.node()))
        .forEach(
            a -> free.computeIfAbsent(a.itemId(), i -> new HashMap<>()).put(a.node(), a.units()));
    kits.atNodes(itemIds, serving, Kits.Look.AVAILABLE)
        .forEach((item, nodes) ->
            free.put(
                item,
                nodes.stream()
                    .collect(Collectors.toMap(Kits.AtNode::code, Kits.AtNode::available))));
    return free;
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

  public OptionalLong idBySupplierCode(String code) {
    List<Long> ids =
        code.isBlank()
            ? List.of()
            : db.select(ITEM.ID).from(ITEM).where(ITEM.SUPPLIER_CODE.eq(code)).fetch(ITEM.ID);
    return ids.size() == 1 ? OptionalLong.of(ids.getFirst()) : OptionalLong.empty();
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
