package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;

import dev.ordinator.access.Person;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitPrice;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock/items/{id}/kit")
@Tag(name = "Stock")
class KitsApi {
  private final DSLContext db;
  private final Kits kits;
  private final KitWork work;

  KitsApi(DSLContext db, Kits kits, KitWork work) {
    this.db = db;
    this.kits = kits;
    this.work = work;
  }

  /**
   * @param choice parts with the same are alternatives; empty: it is always in the kit
   * @param listPrice of one unit, in minor units of the base currency
   */
  record Part(
      long itemId,
      String sku,
      String name,
      long quantity,
      String choice,
      String label,
      long listPrice,
      boolean isKit) {}

  /** Another item in which one is a component. */
  record Within(long itemId, String sku, String name, long quantity) {}

  /**
   * @param explode null: it is no kit
   * @param version to be sent along when it is changed; 0 for what is no kit
   * @param nodes how many there can be at each node, and what limits them there
   * @param within the kits that it is a component of
   */
  record KitSheet(
      @Nullable Explode explode,
      KitPrice.@Nullable Way pricing,
      int version,
      List<Part> parts,
      List<Kits.AtNode> nodes,
      List<Within> within) {}

  /**
   * @param quantity kits to put together; negative: to take apart
   * @param chosen SKUs by choice, where the kit leaves any
   */
  record Assembly(long nodeId, long quantity, Map<String, String> chosen) {}

  @Operation(summary = "What is in a kit, how many there can be, and what limits them")
  @GetMapping
  KitSheet kit(@PathVariable long id) {
    if (!db.fetchExists(ITEM, ITEM.ID.eq(id))) {
      throw Problem.notFound("item " + id);
    }
    var head = db.selectFrom(KIT).where(KIT.ITEM_ID.eq(id)).fetchOptional();
    return new KitSheet(
        head.map(h -> Explode.valueOf(h.getExplode())).orElse(null),
        head.map(h -> KitPrice.Way.valueOf(h.getPricing())).orElse(null),
        head.map(h -> h.getVersion()).orElse(0),
        parts(id),
        kits.atNodes(List.of(id), Set.of(), Kits.Look.AVAILABLE).getOrDefault(id, List.of()),
        within(id));
  }

  @Operation(summary = "Say what is in a kit; an item becomes one by it")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void save(@PathVariable long id, @RequestBody KitWork.Recipe recipe) {
    work.save(id, recipe, who());
  }

  @Operation(summary = "The item is no kit any more")
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void dissolve(@PathVariable long id) {
    work.dissolve(id, who());
  }

  @Operation(summary = "Put kits together at a node, or take them apart")
  @PostMapping("/assemblies")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void assemble(@PathVariable long id, @RequestBody Assembly assembly) {
    work.assemble(id, assembly.nodeId(), assembly.quantity(), assembly.chosen(), who());
  }

  private List<Part> parts(long id) {
    var asKit = KIT.as("as_kit");
    return db.select(
            ITEM.ID,
            ITEM.SKU,
            ITEM.NAME,
            KIT_PART.QUANTITY,
            KIT_PART.CHOICE,
            KIT_PART.LABEL,
            ITEM.LIST_PRICE,
            asKit.ITEM_ID)
        .from(KIT_PART)
        .join(ITEM)
        .on(ITEM.ID.eq(KIT_PART.ITEM_ID))
        .leftJoin(asKit)
        .on(asKit.ITEM_ID.eq(KIT_PART.ITEM_ID))
        .where(KIT_PART.KIT_ID.eq(id))
        .orderBy(KIT_PART.ID)
        .fetch(r ->
            new Part(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8() != null));
  }

  private List<Within> within(long id) {
    return db.select(ITEM.ID, ITEM.SKU, ITEM.NAME, KIT_PART.QUANTITY)
        .from(KIT_PART)
        .join(ITEM)
        .on(ITEM.ID.eq(KIT_PART.KIT_ID))
        .where(KIT_PART.ITEM_ID.eq(id))
        .orderBy(ITEM.SKU)
        .fetch(r -> new Within(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  private static String who() {
    return Person.current().displayName();
  }
}
