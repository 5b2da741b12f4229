package dev.ordinator.desk;

import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.stock.StockGrew;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * When stock of an item comes, the orders that waited for it are routed again, most urgent first.
 */
@Component
class StockWatch {
  private final Snags snags;

  StockWatch(Snags snags) {
    this.snags = snags;
  }

  @EventListener
  void stockGrew(StockGrew grew) {
    snags.close(SnagCause.NO_STOCK, grew.itemId(), grew.actor());
  }
}
