package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.access.Person;
import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class StockApi {
  private final DSLContext db;
  private final StockGrid grid;
  private final StockDesk desk;
  private final LedgerCheck check;
  private final HomeNodes homes;
  private final SellingAhead ahead;
  private final Substitutes substitutes;
  private final ItemSettings settings;
  private final LedgerProof proof;
  private final Nodes nodes;
  private final Transactions transactions;
  private final Events events;

  StockApi(
      DSLContext db,
      StockGrid grid,
      StockDesk desk,
      LedgerCheck check,
      HomeNodes homes,
      SellingAhead ahead,
      Substitutes substitutes,
      ItemSettings settings,
      LedgerProof proof,
      Nodes nodes,
      Transactions transactions,
      Events events) {
    this.db = db;
    this.grid = grid;
    this.desk = desk;
    this.check = check;
    this.homes = homes;
    this.ahead = ahead;
    this.substitutes = substitutes;
    this.settings = settings;
    this.proof = proof;
    this.nodes = nodes;
    this.transactions = transactions;
    this.events = events;
  }

  record Ending(boolean ended) {}

  /**
   * @param safety units that are never offered
   * @param most more than this on hand is a surplus; null: no limit
   */
  record Limits(long nodeId, long safety, @Nullable Long most) {}

  @Operation(summary = "Items × nodes; by SKU, paged")
  @GetMapping
  StockGrid.Page grid(
      @RequestParam(defaultValue = "") String search,
      @RequestParam(defaultValue = "") String category,
      @RequestParam(defaultValue = "false") boolean shortOnly,
      @RequestParam(defaultValue = "") String after) {
    return grid.page(search, category, shortOnly, after);
  }

  @Operation(summary = "The nodes at which there may be stock, in listed order")
  @GetMapping("/nodes")
  List<StockGrid.NodeHead> nodes() {
    return grid.nodes();
  }

  @Operation(summary = "Where an item is, and who holds it")
  @GetMapping("/items/{id}")
  StockGrid.ItemSheet item(@PathVariable long id) {
    return grid.sheet(id);
  }

  @Operation(summary = "Record a count, a receipt or scrap; orders that waited are routed at once")
  @PostMapping("/items/{id}/adjustments")
  StockDesk.Level adjust(@PathVariable long id, @RequestBody StockDesk.Adjustment adjustment) {
    return desk.adjust(id, adjustment, Person.current().displayName());
  }

  @Operation(
      summary = "Set how much of an item a node keeps back, and what is too much there",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/limits")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void limit(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody Limits limits) {
    String who = Person.current().displayName();
    settings.run(
        id, seen, () -> desk.limit(id, limits.nodeId(), limits.safety(), limits.most(), who));
  }

  record Leaving(LeaveMoment leaves) {}

  @Operation(summary = "Say when goods that a node sends leave its stock")
  @PutMapping("/nodes/{id}/leaves")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void leave(@PathVariable long id, @RequestBody Leaving leaving) {
    transactions.run(() -> {
      nodes.setLeaves(id, leaving.leaves());
      events.record(
          EventKind.STOCK_CHANGED,
          null,
          null,
          Person.current().displayName(),
          "Stock leaves %s at another moment".formatted(nodes.byId(id).name()),
          leaving.leaves().name());
    });
  }

  record Homed(int items) {}

  @Operation(
      summary = "Say whether orders wait for an item, and what is sold of it ahead",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/ahead")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void ahead(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody SellingAhead.Ahead wish) {
    String who = Person.current().displayName();
    settings.run(id, seen, () -> ahead.set(id, wish, who));
  }

  @Operation(summary = "Which items may be sent instead of one, the first to be tried in front")
  @GetMapping("/items/{id}/substitutes")
  List<Substitutes.Substitute> substitutes(@PathVariable long id) {
    return substitutes.of(List.of(id)).getOrDefault(id, List.of());
  }

  @Operation(
      summary = "Say which items may be sent instead of one",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/substitutes")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void substitutes(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody List<Substitutes.Wish> wishes) {
    String who = Person.current().displayName();
    settings.run(id, seen, () -> substitutes.set(id, wishes, who));
  }

  @Operation(
      summary = "Say at which node orders with an item are tried first",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/home")
  Homed home(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody HomeNodes.Home home) {
    String who = Person.current().displayName();
    return new Homed(settings.change(id, seen, () -> homes.set(id, home, who)));
  }

  @Operation(
      summary = "Say that an item is no longer sold, or is again",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/ended")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody Ending ending) {
    settings.run(
        id,
        seen,
        () -> {
          String sku =
              db.select(ITEM.SKU)
                  .from(ITEM)
                  .where(ITEM.ID.eq(id))
                  .fetchOptional(ITEM.SKU)
                  .orElseThrow(() -> Problem.notFound("item " + id));
          db.update(ITEM).set(ITEM.ENDED, ending.ended()).where(ITEM.ID.eq(id)).execute();
          events.record(
              EventKind.STOCK_CHANGED,
              null,
              null,
              Person.current().displayName(),
              sku + (ending.ended() ? " is no longer sold" : " is sold again"),
              "");
        });
  }

  @Operation(
      summary = "Levels that are not what ledger and allocations add up to; empty if all is well")
  @GetMapping("/discrepancies")
  List<LedgerCheck.Discrepancy> discrepancies() {
    return check.discrepancies();
  }

  @Operation(summary = "Make an item’s levels what its ledger and allocations add up to")
  @PostMapping("/items/{id}/mend")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void mend(@PathVariable long id) {
    proof.mend(id, Person.current().displayName());
  }
}
