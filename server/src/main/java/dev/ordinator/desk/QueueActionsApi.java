package dev.ordinator.desk;

import dev.ordinator.access.Person;
import dev.ordinator.desk.QueueActions.Action;
import dev.ordinator.desk.QueueActions.Effect;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Backorders")
class QueueActionsApi {
  private static final int MOST = 500;

  private final QueueActions actions;
  private final StockMoves moves;

  QueueActionsApi(QueueActions actions, StockMoves moves) {
    this.actions = actions;
    this.moves = moves;
  }

  record Wish(List<Long> orders, Action action) {}

  @Operation(summary = "What it would do to act on orders that wait; nothing changes")
  @PostMapping("/api/backorders/actions/preview")
  List<Effect> preview(@RequestBody Wish wish) {
    return actions.preview(which(wish), wish.action(), Person.current().displayName());
  }

  @Operation(summary = "Act on orders that wait, each by itself")
  @PostMapping("/api/backorders/actions")
  List<Effect> act(@RequestBody Wish wish) {
    return actions.carryOut(which(wish), wish.action(), Person.current().displayName());
  }

  @Operation(
      summary = "Orders that hold an item for which one waits, and of which nothing is packed yet")
  @GetMapping("/api/backorders/orders/{id}/holders")
  List<StockMoves.Holder> holders(@PathVariable long id, @RequestParam long itemId) {
    return moves.holders(id, itemId);
  }

  record Taking(long order, long from) {}

  @Operation(summary = "What it would do to give an order what another holds; nothing changes")
  @PostMapping("/api/backorders/take/preview")
  StockMoves.Moved previewTake(@RequestBody Taking taking) {
    return moves.preview(taking.order(), taking.from(), Person.current().displayName());
  }

  @Operation(summary = "Give an order what another holds; the other waits in its place")
  @PostMapping("/api/backorders/take")
  StockMoves.Moved take(@RequestBody Taking taking) {
    return moves.take(taking.order(), taking.from(), Person.current().displayName());
  }

  @Operation(summary = "Let an order wait for what is short, whatever its channel says")
  @PostMapping("/api/orders/{id}/let-wait")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void letWait(@PathVariable long id) {
    actions.letWait(id, Person.current().displayName());
  }

  private static Set<Long> which(Wish wish) {
    Set<Long> ids = new LinkedHashSet<>(wish.orders());
    if (ids.isEmpty() || ids.size() > MOST) {
      throw Problem.invalid("orders", "choose 1 to 500 orders");
    }
    return ids;
  }
}
