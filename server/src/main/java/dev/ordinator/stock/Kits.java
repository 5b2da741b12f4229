package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.catalog.KitPrice;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.KitStock;
import dev.ordinator.core.stock.StockLevel;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/** Which items are kits, what is in them, and how many of them there can be. */
@Service
public class Kits {
  private final DSLContext db;
  private final Uncounted uncounted;

  Kits(DSLContext db, Uncounted uncounted) {
    this.db = db;
    this.uncounted = uncounted;
  }

  /**
   * All kits, with the ids that their SKUs have in the database.
   *
   * @param ids of every kit and component
   * @param ways how the price of each kit comes to its components
   */
  public record Shelf(KitBook book, Map<String, Long> ids, Map<String, KitPrice.Way> ways) {

    public long id(String sku) {
      Long id = ids.get(sku);
      if (id == null) {
        throw new IllegalArgumentException(sku + " is in no kit");
      }
      return id;
    }

    /** SKUs of the kits. */
    List<String> kits() {
      return ids.keySet().stream().filter(sku -> book.kit(sku) != null).sorted().toList();
    }

    /** Ids of all that a kit may need, itself included. */
    public List<Long> reach(String kit) {
      return reach(List.of(kit));
    }

    List<Long> reach(Collection<String> skus) {
      return book.reach(skus).stream().map(this::id).toList();
    }
  }

  /** How many of a kit there can be at a node; and what they are made of there. */
  record AtNode(
      long nodeId, String code, String node, long ready, long available, Set<String> limiting) {}

  private record PartRow(String kit, String part, long quantity, String choice, String label) {}

  public Shelf shelf() {
    var kitItem = ITEM.as("kit_item");
    var heads =
        db.select(ITEM.ID, ITEM.SKU, KIT.EXPLODE, KIT.PRICING)
            .from(KIT)
            .join(ITEM)
            .on(ITEM.ID.eq(KIT.ITEM_ID))
            .fetch();
    Map<String, Long> ids = new HashMap<>();
    Map<String, List<PartRow>> parts = new LinkedHashMap<>();
    db.select(kitItem.SKU, ITEM.SKU, KIT_PART.QUANTITY, KIT_PART.CHOICE, KIT_PART.LABEL, ITEM.ID)
        .from(KIT_PART)
        .join(kitItem)
        .on(kitItem.ID.eq(KIT_PART.KIT_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(KIT_PART.ITEM_ID))
        .orderBy(KIT_PART.ID)
        .forEach(r -> {
          ids.put(r.value2(), r.value6());
          parts
              .computeIfAbsent(r.value1(), k -> new ArrayList<>())
              .add(new PartRow(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
        });
    List<Kit> kits = new ArrayList<>();
    Map<String, KitPrice.Way> ways = new HashMap<>();
    heads.forEach(h -> {
      ids.put(h.value2(), h.value1());
      ways.put(h.value2(), KitPrice.Way.valueOf(h.value4()));
      kits.add(
          kit(h.value2(), Explode.valueOf(h.value3()), parts.getOrDefault(h.value2(), List.of())));
    });
    return new Shelf(KitBook.of(kits), ids, ways);
  }

  private static Kit kit(String sku, Explode explode, List<PartRow> rows) {
    List<Kit.Part> parts = new ArrayList<>();
    Map<String, List<PartRow>> choices = new LinkedHashMap<>();
    for (PartRow row : rows) {
      if (row.choice().isEmpty()) {
        parts.add(new Kit.Part(row.part(), row.quantity()));
      } else {
        choices.computeIfAbsent(row.choice(), c -> new ArrayList<>()).add(row);
      }
    }
    return new Kit(
        sku,
        parts,
        choices.entrySet().stream()
            .map(c ->
                new Kit.Choice(
                    c.getKey(),
                    c.getValue().getFirst().quantity(),
                    c.getValue().stream().map(r -> new Kit.Option(r.label(), r.part())).toList()))
            .toList(),
        explode);
  }

  /** How levels of items that are kits are looked at. */
  enum Look {
    /** What a new order may be given. */
    AVAILABLE,
    /** What is there, whoever it is held for. */
    ON_HAND
  }

  /**
   * Units of kits that there can be over the nodes that serve a channel, each node's on its own: no
   * kit is put together from two nodes.
   *
   * @param itemIds may hold others, which are left out
   * @param serving codes of nodes; empty: all but channels' depots
   * @return by item
   */
  Map<Long, Long> free(Collection<Long> itemIds, Set<String> serving, Look look) {
    Map<Long, Long> units = new HashMap<>();
    atNodes(itemIds, serving, look)
        .forEach(
            (item, nodes) -> units.put(item, nodes.stream().mapToLong(AtNode::available).sum()));
    return units;
  }

  /** Kits among items, and what each node can do for them; by item. */
  Map<Long, List<AtNode>> atNodes(Collection<Long> itemIds, Set<String> serving, Look look) {
    if (!db.fetchExists(KIT, KIT.ITEM_ID.in(itemIds))) {
      return Map.of();
    }
    Shelf shelf = shelf();
    Set<Long> wanted = Set.copyOf(itemIds);
    List<String> kits =
        shelf.kits().stream().filter(sku -> wanted.contains(shelf.id(sku))).toList();
    if (kits.isEmpty()) {
      return Map.of();
    }
    List<Long> reach = shelf.reach(kits);
    Map<Place, Map<String, Long>> stock = levels(reach, serving, look);
    addUncounted(stock, shelf, uncounted.among(reach), serving);
    Map<Long, List<AtNode>> found = new LinkedHashMap<>();
    for (String sku : kits) {
      List<AtNode> nodes = new ArrayList<>();
      stock.forEach((place, units) -> nodes.add(atNode(shelf.book(), sku, place, units)));
      found.put(shelf.id(sku), nodes);
    }
    return found;
  }

  private static AtNode atNode(KitBook book, String sku, Place place, Map<String, Long> units) {
    Map<String, Long> usable = usable(book, sku, units);
    return new AtNode(
        place.id(),
        place.code(),
        place.name(),
        units.getOrDefault(sku, 0L),
        KitStock.available(book, sku, Chosen.NOTHING, usable),
        KitStock.limiting(book, sku, Chosen.NOTHING, usable));
  }

  /** How many of a kit there can be where so many units of each item are. */
  static long available(KitBook book, String sku, Map<String, Long> units) {
    return KitStock.available(book, sku, Chosen.NOTHING, usable(book, sku, units));
  }

  /**
   * Orders for kits that are taken apart at intake ask for components: ready-made ones don't serve.
   */
  private static Map<String, Long> usable(KitBook book, String sku, Map<String, Long> units) {
    Kit kit = book.kit(sku);
    if (kit == null || !kit.explode().isAtIntake()) {
      return units;
    }
    Map<String, Long> loose = new HashMap<>(units);
    loose.remove(sku);
    return loose;
  }

  private void addUncounted(
      Map<Place, Map<String, Long>> stock, Shelf shelf, Set<Long> items, Set<String> serving) {
    if (items.isEmpty()) {
      return;
    }
    for (Uncounted.Keeper node : uncounted.keepers(serving)) {
      Map<String, Long> there =
          stock.computeIfAbsent(
              new Place(node.id(), node.code(), node.name()), n -> new HashMap<>());
      shelf
          .ids()
          .forEach((sku, id) -> {
            if (items.contains(id)) {
              there.put(sku, StockLevel.PLENTY);
            }
          });
    }
  }

  private record Place(long id, String code, String name) {}

  /** Units by node and then by SKU. */
  private Map<Place, Map<String, Long>> levels(List<Long> itemIds, Set<String> serving, Look look) {
    Map<Place, Map<String, Long>> byNode = new LinkedHashMap<>();
    db.select(NODE.ID, NODE.CODE, NODE.NAME, ITEM.SKU)
        .select(Levels.FIELDS)
        .from(STOCK_LEVEL)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .where(STOCK_LEVEL.ITEM_ID.in(itemIds))
        .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
        .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
        .orderBy(NODE.POSITION)
        .forEach(r ->
            byNode
                .computeIfAbsent(
                    new Place(r.get(NODE.ID), r.get(NODE.CODE), r.get(NODE.NAME)),
                    n -> new HashMap<>())
                .put(
                    r.get(ITEM.SKU),
                    look == Look.ON_HAND ? r.get(STOCK_LEVEL.ON_HAND) : Levels.of(r).available()));
    return byNode;
  }
}
