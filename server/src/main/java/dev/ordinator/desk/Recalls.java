package dev.ordinator.desk;

import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import dev.ordinator.stock.LotRecalled;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Orders that hold some of a lot that is recalled are taken back and routed again. */
@Component
class Recalls {
  private final Orders orders;
  private final Consignments consignments;

  Recalls(Orders orders, Consignments consignments) {
    this.orders = orders;
    this.consignments = consignments;
  }

  @EventListener
  void lotRecalled(LotRecalled recalled) {
    recalled.orderIds().stream()
        .sorted()
        .forEach(id -> {
          orders.lock(id);
          consignments.withdraw(id, recalled.actor(), "lot " + recalled.lot() + " is recalled");
          consignments.refresh(id);
          orders.setNext(id, Step.ROUTE);
        });
  }
}
