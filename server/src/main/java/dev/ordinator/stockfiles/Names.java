package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** What a file calls by name: items by their SKU, nodes by their code or name; each asked once. */
final class Names {
  private final DSLContext db;
  private final Map<String, Long> items = new HashMap<>();
  private final Map<String, Long> nodes = new HashMap<>();

  Names(DSLContext db) {
    this.db = db;
  }

  long item(String sku) {
    return items.computeIfAbsent(sku, this::findItem);
  }

  private long findItem(String sku) {
    return db.select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(sku))
        .fetchOptional(ITEM.ID)
        .orElseThrow(() -> new IllegalArgumentException("no item has the SKU ‘" + sku + "’"));
  }

  String sku(long item) {
    return db.select(ITEM.SKU).from(ITEM).where(ITEM.ID.eq(item)).fetchSingle().value1();
  }

  long node(String name) {
    return nodes.computeIfAbsent(name, this::findNode);
  }

  private long findNode(String name) {
    return db.select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq(name).or(NODE.NAME.eq(name)))
        .orderBy(NODE.CODE.ne(name))
        .limit(1)
        .fetchOptional(NODE.ID)
        .orElseThrow(() -> new IllegalArgumentException("no node is called ‘" + name + "’"));
  }

  /** Changes in words. */
  static final class Changes {
    private final List<String> words = new ArrayList<>();

    /** Notes a change, if the file says something else than there is. */
    Changes note(String what, @Nullable Object before, @Nullable Object after) {
      if (after != null && !Objects.equals(before, after)) {
        words.add(
            "%s %s → %s"
                .formatted(what, before == null || before.equals("") ? "—" : before, after));
      }
      return this;
    }

    List<String> words() {
      return words;
    }
  }
}
