package dev.ordinator.backorders;

import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.routing.Routing.Shortage;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What an order lacks, in its own lines and as its channel counts. */
@Component
public class Lacking {
  private final QueueStore store;
  private final Orders orders;

  Lacking(QueueStore store, Orders orders) {
    this.store = store;
    this.orders = orders;
  }

  /**
   * Units of lines that wait for something that is short; of a line whose item is a kit, or of
   * which there are several in each, all that waits.
   *
   * @param itemIds of these items; empty: of all
   */
  public Map<Long, Long> units(long orderId, Set<Long> itemIds) {
    return units(
        orderId,
        store.ofOrders(List.of(orderId)).values().stream()
            .flatMap(List::stream)
            .filter(row -> itemIds.isEmpty() || itemIds.contains(row.itemId()))
            .map(row -> new Shortage(row.lineId(), row.itemId(), row.units(), row.lacking()))
            .toList());
  }

  /** The same of what was found short just now. */
  public Map<Long, Long> units(long orderId, List<Shortage> shortages) {
    Map<Long, OrderLine> lines =
        orders.lines(orderId).stream().collect(Collectors.toMap(OrderLine::id, line -> line));
    Map<Long, Long> units = new LinkedHashMap<>();
    for (Shortage shortage : shortages) {
      OrderLine line = lines.get(shortage.lineId());
      if (shortage.lacking() && line != null) {
        boolean plain = Objects.equals(line.itemId(), shortage.itemId());
        long whole = line.quantity() / line.unitsEach();
        long waits = (shortage.units() + line.unitsEach() - 1) / line.unitsEach();
        units.put(line.id(), plain ? Math.min(whole, waits) : whole);
      }
    }
    return units;
  }
}
