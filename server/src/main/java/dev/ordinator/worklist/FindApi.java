package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.platform.CodeSearch;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * The find-anything field: one text, results by kind. Looks at beginnings, which indexes answer.
 */
@RestController
@Tag(name = "Find")
class FindApi {
  private static final int MOST_OF_A_KIND = 8;
  private static final int SHORTEST = 2;

  private final DSLContext db;

  FindApi(DSLContext db) {
    this.db = db;
  }

  /** What was found. */
  enum Kind {
    ORDER,
    RETURN,
    ITEM
  }

  /**
   * @param id of the order, return or item to open
   */
  record Hit(Kind kind, long id, String title, String detail) {}

  @Operation(
      summary =
          "Find orders, returns and items by number, buyer, mail, tracking, SKU, GTIN or name")
  @GetMapping("/api/find")
  List<Hit> find(@RequestParam String q) {
    String text = q.strip();
    if (text.length() < SHORTEST) {
      return List.of();
    }
    List<Hit> hits = new ArrayList<>();
    // one query per index and in its order: a single OR over all of them would read the whole
    // table,
    // and another order all that begin like this, of which there may be a hundred thousand
    orders(hits, CodeSearch.startsWith(SALES_ORDER.NUMBER, text), SALES_ORDER.NUMBER, "");
    orders(hits, CodeSearch.startsWith(SALES_ORDER.EXTERNAL_ID, text), SALES_ORDER.EXTERNAL_ID, "");
    orders(hits, SALES_ORDER.BUYER_NAME.startsWith(text), SALES_ORDER.BUYER_NAME, "");
    orders(hits, SALES_ORDER.EMAIL.startsWith(text), SALES_ORDER.EMAIL, "");
    List<Long> tracked =
        db.select(CONSIGNMENT.ORDER_ID)
            .from(PARCEL)
            .join(CONSIGNMENT)
            .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
            .where(CodeSearch.startsWith(PARCEL.TRACKING, text))
            .orderBy(PARCEL.TRACKING)
            .limit(MOST_OF_A_KIND)
            .fetch(CONSIGNMENT.ORDER_ID);
    orders(hits, SALES_ORDER.ID.in(tracked), SALES_ORDER.ID, "by its tracking number");
    returns(hits, CodeSearch.startsWith(RMA.NUMBER, text));
    items(hits, CodeSearch.startsWith(ITEM.SKU, text));
    items(hits, ITEM.NAME.containsIgnoreCase(text));
    items(hits, ITEM.GTIN.endsWith(text));
    return hits;
  }

  private void orders(List<Hit> hits, Condition which, Field<?> order, String how) {
    db.select(SALES_ORDER.ID, SALES_ORDER.NUMBER, SALES_ORDER.BUYER_NAME, SALES_ORDER.STAGE)
        .from(SALES_ORDER)
        .where(which)
        .orderBy(order, SALES_ORDER.ID)
        .limit(MOST_OF_A_KIND)
        .forEach(r ->
            add(
                hits,
                new Hit(
                    Kind.ORDER,
                    r.value1(),
                    r.value2(),
                    r.value3()
                        + " · "
                        + r.value4().toLowerCase(Locale.ROOT)
                        + (how.isEmpty() ? "" : " · " + how))));
  }

  private void returns(List<Hit> hits, Condition which) {
    db.select(RMA.ID, RMA.NUMBER, SALES_ORDER.BUYER_NAME, RMA.STATE)
        .from(RMA)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(RMA.ORDER_ID))
        .where(which)
        .orderBy(RMA.ID.desc())
        .limit(MOST_OF_A_KIND)
        .forEach(r ->
            add(
                hits,
                new Hit(
                    Kind.RETURN,
                    r.value1(),
                    r.value2(),
                    r.value3() + " · " + r.value4().toLowerCase(Locale.ROOT).replace('_', ' '))));
  }

  private void items(List<Hit> hits, Condition which) {
    db.select(ITEM.ID, ITEM.SKU, ITEM.NAME)
        .from(ITEM)
        .where(which)
        .orderBy(ITEM.SKU)
        .limit(MOST_OF_A_KIND)
        .forEach(r -> add(hits, new Hit(Kind.ITEM, r.value1(), r.value2(), r.value3())));
  }

  private static void add(List<Hit> hits, Hit hit) {
    long sameKind = hits.stream().filter(h -> h.kind() == hit.kind()).count();
    boolean there = hits.stream().anyMatch(h -> h.kind() == hit.kind() && h.id() == hit.id());
    if (!there && sameKind < MOST_OF_A_KIND) {
      hits.add(hit);
    }
  }
}
