package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.network.Nodes;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Where items are at home: orders with them are tried there first. */
@Service
class HomeNodes {
  private final DSLContext db;
  private final Nodes nodes;
  private final Events events;

  HomeNodes(DSLContext db, Nodes nodes, Events events) {
    this.db = db;
    this.nodes = nodes;
    this.events = events;
  }

  /**
   * @param node its code; null: nowhere in particular
   * @param family whether that holds for all variants of its family
   */
  record Home(@Nullable String node, boolean family) {}

  /**
   * @return how many items are at home there now
   * @throws Problem if there is no such item or node
   */
  @Transactional
  int set(long itemId, Home home, String who) {
    var item =
        db.select(ITEM.SKU, ITEM.FAMILY)
            .from(ITEM)
            .where(ITEM.ID.eq(itemId))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("item " + itemId));
    boolean whole = home.family() && !item.value2().isEmpty();
    int changed =
        db.update(ITEM)
            .set(ITEM.HOME_NODE_ID, home.node() == null ? null : nodes.byCode(home.node()).id())
            .where(whole ? ITEM.FAMILY.eq(item.value2()) : ITEM.ID.eq(itemId))
            .execute();
    String what = whole ? "All of " + item.value2() : item.value1();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        who,
        home.node() == null
            ? what + ": no home node any more"
            : "%s: orders are tried at %s first".formatted(what, home.node()),
        "");
    return changed;
  }
}
