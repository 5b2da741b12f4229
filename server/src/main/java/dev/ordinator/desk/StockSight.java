package dev.ordinator.desk;

import dev.ordinator.core.rules.GoodsFacts;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.routing.Wanted;
import dev.ordinator.routing.WantedReader;
import dev.ordinator.stock.Items;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What there is for orders, as rules ask about it: what anybody may be given now. */
@Component
class StockSight {
  private final Orders orders;
  private final WantedReader wanted;
  private final Items items;

  StockSight(Orders orders, WantedReader wanted, Items items) {
    this.orders = orders;
    this.wanted = wanted;
    this.items = items;
  }

  /** By order; those of which nothing is open or matched are left out. */
  Map<Long, GoodsFacts.Stock> of(Collection<Long> orderIds) {
    Map<Long, List<OrderLine>> open = new LinkedHashMap<>();
    orders
        .lines(List.copyOf(orderIds))
        .forEach((order, lines) -> {
          List<OrderLine> its =
              lines.stream().filter(l -> l.isOpen() && l.itemId() != null).toList();
          if (!its.isEmpty()) {
            open.put(order, its);
          }
        });
    return ofLines(open);
  }

  /** By the keys of the lines. */
  Map<Long, GoodsFacts.Stock> ofLines(Map<Long, List<OrderLine>> lines) {
    Map<Long, GoodsFacts.Stock> stocks = new HashMap<>();
    Map<Long, Wanted> wishes = wanted.of(lines);
    wishes.forEach(
        (key, wish) -> stocks.put(key, wish.stock(items.available(wish.goods(), List.of()))));
    return stocks;
  }
}
