package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.channels.Channel;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.StockLevel;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What a channel may promise from stock now, over the nodes that serve it. */
@Component
class Availability {
  private final DSLContext db;

  Availability(DSLContext db) {
    this.db = db;
  }

  /**
   * @param available units; 0 if none, or if there is no such item
   */
  record Available(String sku, boolean known, long available) {}

  List<Available> of(Channel channel, List<String> skus) {
    var serving = channel.terms().nodes();
    Map<String, Long> units = new LinkedHashMap<>();
    db.select(ITEM.SKU).from(ITEM).where(ITEM.SKU.in(skus)).forEach(r -> units.put(r.value1(), 0L));
    db.select(ITEM.SKU, NODE.CODE, STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.SAFETY)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .join(NODE)
        .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
        .where(ITEM.SKU.in(skus))
        .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
        .forEach(r -> {
          if (serving.isEmpty() || serving.contains(r.value2())) {
            units.merge(
                r.value1(),
                new StockLevel(r.value3(), r.value4(), r.value5()).available(),
                Long::sum);
          }
        });
    return skus.stream()
        .map(sku -> new Available(sku, units.containsKey(sku), units.getOrDefault(sku, 0L)))
        .toList();
  }
}
