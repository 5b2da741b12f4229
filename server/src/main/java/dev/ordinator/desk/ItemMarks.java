package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.ITEM_TAG;
import static dev.ordinator.schema.Tables.SUPPLIER;
import static dev.ordinator.schema.Tables.SUPPLIER_OFFER;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What rules ask about items besides what they are: their tags, and who supplies them. */
@Component
class ItemMarks {
  private final DSLContext db;

  ItemMarks(DSLContext db) {
    this.db = db;
  }

  /** By item; those of which nothing is said are left out. */
  record Marks(Map<Long, Set<String>> tags, Map<Long, Set<String>> suppliers) {
    Set<String> tagsOf(Collection<Long> items) {
      return of(tags, items);
    }

    /** Codes of those who offer any of some items. */
    Set<String> suppliersOf(Collection<Long> items) {
      return of(suppliers, items);
    }

    private static Set<String> of(Map<Long, Set<String>> marks, Collection<Long> items) {
      return items.stream()
          .flatMap(item -> marks.getOrDefault(item, Set.of()).stream())
          .collect(Collectors.toSet());
    }
  }

  Marks of(Collection<Long> items) {
    Map<Long, Set<String>> tags = new HashMap<>();
    db.select(ITEM_TAG.ITEM_ID, ITEM_TAG.TAG)
        .from(ITEM_TAG)
        .where(ITEM_TAG.ITEM_ID.in(items))
        .forEach(r -> tags.computeIfAbsent(r.value1(), i -> new HashSet<>()).add(r.value2()));
    Map<Long, Set<String>> suppliers = new HashMap<>();
    db.selectDistinct(SUPPLIER_OFFER.ITEM_ID, SUPPLIER.CODE)
        .from(SUPPLIER_OFFER)
        .join(SUPPLIER)
        .on(SUPPLIER.ID.eq(SUPPLIER_OFFER.SUPPLIER_ID))
        .where(SUPPLIER_OFFER.ITEM_ID.in(items))
        .forEach(r -> suppliers.computeIfAbsent(r.value1(), i -> new HashSet<>()).add(r.value2()));
    return new Marks(tags, suppliers);
  }
}
