package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;

import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitPrice.Way;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What is sold in sets: one of them within another, with a size to choose. */
@Component
class DemoKits {
  static final String READY_MADE = "HIVE-KIT";
  static final Set<String> SKUS = Set.of(READY_MADE, "FIRST-YEAR", "HARVEST-SET");

  private final DSLContext db;

  DemoKits(DSLContext db) {
    this.db = db;
  }

  void install() {
    long hive = kit(READY_MADE, Explode.AT_BENCH, Way.BY_LIST_PRICE);
    part(hive, "HB-DEEP-PIN", 1);
    part(hive, "HP-FLR-MESH", 1);
    part(hive, "HP-ROOF-FLAT", 1);
    part(hive, "HP-CROWN", 1);
    part(hive, "FR-DEEP-10", 1);
    part(hive, "FR-DEEP-1", 1);
    long firstYear = kit("FIRST-YEAR", Explode.AT_ROUTING, Way.LIST_PRICES);
    part(firstYear, READY_MADE, 1);
    part(firstYear, "SMOKER-L", 1);
    part(firstYear, "TOOL-J", 1);
    for (String size : List.of("S", "M", "L", "XL")) {
      part(firstYear, "SUIT-CLS-" + size, 1, "Size", size);
    }
    long harvest = kit("HARVEST-SET", Explode.AT_INTAKE, Way.BY_LIST_PRICE);
    part(harvest, "EX-3M", 1);
    part(harvest, "UNCAP-TANK", 1);
    part(harvest, "JAR-500-24", 1);
  }

  private long kit(String sku, Explode explode, Way pricing) {
    long id = id(sku);
    db.insertInto(KIT)
        .set(KIT.ITEM_ID, id)
        .set(KIT.EXPLODE, explode.name())
        .set(KIT.PRICING, pricing.name())
        .set(KIT.VERSION, 1)
        .execute();
    return id;
  }

  private void part(long kit, String sku, long quantity) {
    part(kit, sku, quantity, "", "");
  }

  private void part(long kit, String sku, long quantity, String choice, String label) {
    db.insertInto(KIT_PART)
        .set(KIT_PART.KIT_ID, kit)
        .set(KIT_PART.ITEM_ID, id(sku))
        .set(KIT_PART.QUANTITY, quantity)
        .set(KIT_PART.CHOICE, choice)
        .set(KIT_PART.LABEL, label)
        .execute();
  }

  private long id(String sku) {
    return db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }
}
