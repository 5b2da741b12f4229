package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.catalog.KitPrice;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.stock.StockLedger.Reason;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Says what is in a kit, and makes and breaks kits: work with movements. */
@Service
public class KitWork {
  private static final int MOST_PARTS = 200;
  private static final long MOST_UNITS = 10_000;
  private static final long MOST_WAYS = 500;

  private final DSLContext db;
  private final Kits kits;
  private final StockLedger ledger;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  KitWork(
      DSLContext db,
      Kits kits,
      StockLedger ledger,
      Events events,
      ApplicationEventPublisher publisher) {
    this.db = db;
    this.kits = kits;
    this.ledger = ledger;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * @param choice parts with the same are alternatives, of which the order chooses one; empty: it
   *     is always in the kit
   * @param label how an order says that it chooses this one
   */
  public record PartLine(String sku, long quantity, String choice, String label) {}

  /**
   * @param version as it was read; 0 for what is no kit yet
   */
  public record Recipe(Explode explode, KitPrice.Way pricing, List<PartLine> parts, int version) {}

  /**
   * Makes an item a kit, or changes what is in it. Open orders keep what was taken apart for them.
   */
  @Transactional
  public void save(long itemId, Recipe recipe, String actor) {
    String sku = sku(itemId);
    Map<String, Long> ids = check(recipe);
    var now = db.select(KIT.VERSION).from(KIT).where(KIT.ITEM_ID.eq(itemId)).forUpdate().fetchOne();
    if ((now == null ? 0 : now.value1()) != recipe.version()) {
      throw Problem.stale();
    }
    requireSound(sku, recipe);
    db.deleteFrom(KIT_PART).where(KIT_PART.KIT_ID.eq(itemId)).execute();
    db.insertInto(KIT)
        .set(KIT.ITEM_ID, itemId)
        .set(KIT.EXPLODE, recipe.explode().name())
        .set(KIT.PRICING, recipe.pricing().name())
        .set(KIT.VERSION, 1)
        .onDuplicateKeyUpdate()
        .set(KIT.EXPLODE, recipe.explode().name())
        .set(KIT.PRICING, recipe.pricing().name())
        .set(KIT.VERSION, KIT.VERSION.plus(1))
        .execute();
    for (PartLine part : recipe.parts()) {
      db.insertInto(KIT_PART)
          .set(KIT_PART.KIT_ID, itemId)
          .set(KIT_PART.ITEM_ID, ids.get(part.sku()))
          .set(KIT_PART.QUANTITY, part.quantity())
          .set(KIT_PART.CHOICE, part.choice())
          .set(KIT_PART.LABEL, part.label())
          .execute();
    }
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        sku + " is a kit of " + recipe.parts().size() + " components",
        "");
  }

  /**
   * @throws Problem if that can't be in a kit
   */
  public void check(String sku, Recipe recipe) {
    check(recipe);
    requireSound(sku, recipe);
  }

  /** What is in a kit, by SKU; empty if the item is none. */
  public Optional<Recipe> recipe(long itemId) {
    return db.select(KIT.EXPLODE, KIT.PRICING, KIT.VERSION)
        .from(KIT)
        .where(KIT.ITEM_ID.eq(itemId))
        .fetchOptional(r ->
            new Recipe(
                Explode.valueOf(r.value1()),
                KitPrice.Way.valueOf(r.value2()),
                parts(itemId),
                r.value3()));
  }

  private List<PartLine> parts(long itemId) {
    return db.select(ITEM.SKU, KIT_PART.QUANTITY, KIT_PART.CHOICE, KIT_PART.LABEL)
        .from(KIT_PART)
        .join(ITEM)
        .on(ITEM.ID.eq(KIT_PART.ITEM_ID))
        .where(KIT_PART.KIT_ID.eq(itemId))
        .orderBy(ITEM.SKU)
        .fetch(r -> new PartLine(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  /** The item is no kit any more. */
  @Transactional
  void dissolve(long itemId, String actor) {
    db.deleteFrom(KIT_PART).where(KIT_PART.KIT_ID.eq(itemId)).execute();
    if (db.deleteFrom(KIT).where(KIT.ITEM_ID.eq(itemId)).execute() == 0) {
      throw Problem.conflict("it is no kit");
    }
    events.record(
        EventKind.STOCK_CHANGED, null, null, actor, sku(itemId) + " is no longer a kit", "");
  }

  /**
   * Puts kits together at a node, or takes them apart.
   *
   * @param quantity kits; negative: taken apart
   * @param chosen items by choice, where the kit leaves any
   */
  @Transactional
  void assemble(long itemId, long nodeId, long quantity, Map<String, String> chosen, String actor) {
    if (quantity == 0 || Math.abs(quantity) > MOST_UNITS) {
      throw Problem.invalid("quantity", "1 to %,d kits".formatted(MOST_UNITS));
    }
    Kits.Shelf shelf = kits.shelf();
    String sku = sku(itemId);
    Kit kit = shelf.book().kit(sku);
    if (kit == null) {
      throw Problem.conflict(sku + " is no kit");
    }
    if (quantity > 0 && kit.explode() == Kit.Explode.IN_PARTS) {
      throw Problem.conflict(sku + " is sent in parts: put together, nobody could send it");
    }
    Chosen choice = new Chosen(chosen);
    for (Kit.Choice open : kit.choices()) {
      if (open.options().stream().noneMatch(o -> o.sku().equals(chosen.get(open.name())))) {
        throw Problem.invalid("chosen", "say which " + open.name());
      }
    }
    Map<Long, Long> changes = new HashMap<>();
    Map<Long, String> skus = new HashMap<>();
    changes.put(itemId, quantity);
    skus.put(itemId, sku);
    shelf
        .book()
        .step(kit, choice)
        .forEach((part, each) -> {
          changes.merge(shelf.id(part), -each * quantity, Long::sum);
          skus.put(shelf.id(part), part);
        });
    move(nodeId, quantity, sku, changes, skus, actor);
  }

  private void move(
      long nodeId,
      long quantity,
      String sku,
      Map<Long, Long> changes,
      Map<Long, String> skus,
      String actor) {
    if (!db.fetchExists(NODE, NODE.ID.eq(nodeId))) {
      throw Problem.notFound("node " + nodeId);
    }
    boolean together = quantity > 0;
    String note =
        "%s %d × %s".formatted(together ? "put together" : "took apart", Math.abs(quantity), sku);
    // levels are locked in one order, as everywhere
    List<Map.Entry<Long, Long>> inOrder = new ArrayList<>(changes.entrySet());
    inOrder.sort(Comparator.comparing(Map.Entry::getKey));
    for (Map.Entry<Long, Long> change : inOrder) {
      boolean made =
          ledger.adjust(
              change.getKey(),
              nodeId,
              change.getValue(),
              together ? Reason.ASSEMBLE : Reason.BREAK,
              actor,
              note);
      if (!made) {
        throw Problem.invalid(
            "quantity",
            "there are only %d of %s that no order holds"
                .formatted(unheld(change.getKey(), nodeId), skus.get(change.getKey())));
      }
      if (change.getValue() > 0) {
        publisher.publishEvent(new StockGrew(change.getKey(), actor));
      }
    }
    events.record(EventKind.STOCK_CHANGED, null, null, actor, note, "");
  }

  /**
   * No kit within itself, and not more ways to choose than can be looked through at each asking.
   */
  private void requireSound(String sku, Recipe recipe) {
    try {
      KitBook book = kits.shelf().book().with(kit(sku, recipe));
      long ways =
          book.open(sku, Chosen.NOTHING).stream()
              .mapToLong(choice -> choice.options().size())
              .reduce(1, Math::multiplyExact);
      if (ways > MOST_WAYS) {
        throw Problem.invalid(
            "parts", "there would be %,d ways to choose; at most %,d".formatted(ways, MOST_WAYS));
      }
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("parts", Texts.of(e));
    }
  }

  private long unheld(long itemId, long nodeId) {
    return db.select(STOCK_LEVEL.ON_HAND.minus(STOCK_LEVEL.ALLOCATED))
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .fetchOptional()
        .map(r -> r.value1())
        .orElse(0L);
  }

  private Map<String, Long> check(Recipe recipe) {
    if (recipe.parts().isEmpty() || recipe.parts().size() > MOST_PARTS) {
      throw Problem.invalid("parts", "a kit has 1 to " + MOST_PARTS + " components");
    }
    Map<String, Long> ids = new TreeMap<>();
    Map<String, Long> quantities = new LinkedHashMap<>();
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < recipe.parts().size(); i++) {
      PartLine part = recipe.parts().get(i);
      String place = "parts[" + i + "]";
      Long id = db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(part.sku())).fetchOne(ITEM.ID);
      require(id != null, place + ".sku", "no item has the SKU ‘" + part.sku() + "’");
      require(
          part.quantity() >= 1 && part.quantity() <= MOST_UNITS, place + ".quantity", "at least 1");
      require(
          part.choice().length() <= 40 && part.label().length() <= 40,
          place + ".choice",
          "at most 40 characters");
      require(
          seen.add(part.choice() + "\n" + part.sku()), place + ".sku", "is in the list already");
      require(
          part.choice().isEmpty()
              || quantities.merge(part.choice(), part.quantity(), (a, b) -> a.equals(b) ? a : -1L)
                  > 0,
          place + ".quantity",
          "whatever is chosen comes in the same quantity");
      ids.put(part.sku(), id);
    }
    return ids;
  }

  private static Kit kit(String sku, Recipe recipe) {
    Map<String, List<Kit.Option>> options = new LinkedHashMap<>();
    Map<String, Long> quantities = new HashMap<>();
    List<Kit.Part> parts = new ArrayList<>();
    for (PartLine part : recipe.parts()) {
      if (part.choice().isEmpty()) {
        parts.add(new Kit.Part(part.sku(), part.quantity()));
      } else {
        options
            .computeIfAbsent(part.choice(), c -> new ArrayList<>())
            .add(new Kit.Option(part.label(), part.sku()));
        quantities.put(part.choice(), part.quantity());
      }
    }
    return new Kit(
        sku,
        parts,
        options.entrySet().stream()
            .map(o ->
                new Kit.Choice(o.getKey(), quantities.getOrDefault(o.getKey(), 1L), o.getValue()))
            .toList(),
        recipe.explode());
  }

  private String sku(long itemId) {
    return db.select(ITEM.SKU)
        .from(ITEM)
        .where(ITEM.ID.eq(itemId))
        .fetchOptional(ITEM.SKU)
        .orElseThrow(() -> Problem.notFound("item " + itemId));
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }
}
