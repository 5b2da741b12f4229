package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.channels.Channel;
import dev.ordinator.stock.Items;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What a channel may promise from stock now, over the nodes that serve it. */
@Component
class Availability {
  private final DSLContext db;
  private final Items items;

  Availability(DSLContext db, Items items) {
    this.db = db;
    this.items = items;
  }

  /**
   * @param available units; 0 if none, or if there is no such item
   */
  record Available(String sku, boolean known, long available) {}

  List<Available> of(Channel channel, List<String> skus) {
    Map<String, Long> ids =
        db.select(ITEM.SKU, ITEM.ID)
            .from(ITEM)
            .where(ITEM.SKU.in(skus))
            .fetchMap(ITEM.SKU, ITEM.ID);
    Map<Long, Long> free = items.free(ids.values(), channel.terms().nodes());
    return skus.stream()
        .map(sku ->
            new Available(
                sku, ids.containsKey(sku), free.getOrDefault(ids.getOrDefault(sku, 0L), 0L)))
        .toList();
  }
}
