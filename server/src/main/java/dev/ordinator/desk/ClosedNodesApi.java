package dev.ordinator.desk;

import dev.ordinator.access.Person;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.network.Closures;
import dev.ordinator.network.Closures.Affected;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What was planned to leave a node on days on which it is closed now. */
@RestController
@RequestMapping("/api/network/closures/{id}")
@Tag(name = "Network")
class ClosedNodesApi {
  private final Closures closures;
  private final Orders orders;
  private final Consignments consignments;
  private final Transactions transactions;

  ClosedNodesApi(
      Closures closures, Orders orders, Consignments consignments, Transactions transactions) {
    this.closures = closures;
    this.orders = orders;
    this.consignments = consignments;
    this.transactions = transactions;
  }

  /**
   * @param moved consignments that were taken back; their orders are routed anew
   */
  record Moved(int moved) {}

  @Operation(summary = "What is still planned to leave while a node is closed")
  @GetMapping("/planned")
  List<Affected> planned(@PathVariable long id) {
    return closures.affected(id);
  }

  @Operation(
      summary =
          "Take back what is still planned to leave while a node is closed, and route it anew",
      description = "It goes from elsewhere, or from there on a later day, whichever is better.")
  @PostMapping("/move")
  Moved move(@PathVariable long id) {
    String who = Person.current().displayName();
    int moved = 0;
    for (Affected planned : closures.affected(id)) {
      // each by itself: one that is packed meanwhile keeps none of the others
      moved += transactions.get(() -> takeBack(planned, who));
    }
    return new Moved(moved);
  }

  private int takeBack(Affected planned, String who) {
    orders.lock(planned.orderId());
    List<Head> still =
        consignments.notLeft(planned.orderId()).stream()
            .filter(c -> c.id() == planned.consignmentId())
            .filter(c -> !c.state().reached(ConsignmentState.PACKED))
            .toList();
    if (!still.isEmpty()) {
      consignments.withdraw(still, who, still.getFirst().nodeName() + " is closed then");
      consignments.refresh(planned.orderId());
      orders.setNext(planned.orderId(), Step.ROUTE);
    }
    return still.size();
  }
}
