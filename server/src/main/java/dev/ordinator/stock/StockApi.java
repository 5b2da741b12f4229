package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;

import dev.ordinator.access.Person;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class StockApi {
  private static final long MOST_UNITS = 1_000_000;
  private static final int MOST_MOVEMENTS = 200;

  private final DSLContext db;
  private final StockGrid grid;
  private final StockLedger ledger;
  private final LedgerProof proof;
  private final Transactions transactions;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  StockApi(
      DSLContext db,
      StockGrid grid,
      StockLedger ledger,
      LedgerProof proof,
      Transactions transactions,
      Events events,
      ApplicationEventPublisher publisher) {
    this.db = db;
    this.grid = grid;
    this.ledger = ledger;
    this.proof = proof;
    this.transactions = transactions;
    this.events = events;
    this.publisher = publisher;
  }

  record Movement(
      long id,
      Instant at,
      String node,
      long quantity,
      StockLedger.Reason reason,
      String actor,
      String note,
      @Nullable Long consignmentId) {}

  /** What was found, or what came. Exactly one of {@code counted} and {@code change} is given. */
  record Adjustment(
      long nodeId,
      StockLedger.Reason reason,
      @Nullable Long counted,
      @Nullable Long change,
      String note) {}

  record Ending(boolean ended) {}

  record LevelNow(long onHand, long allocated, long available) {}

  @Operation(summary = "Items × nodes; by SKU, paged")
  @GetMapping
  StockGrid.Page grid(
      @RequestParam(defaultValue = "") String search,
      @RequestParam(defaultValue = "") String category,
      @RequestParam(defaultValue = "false") boolean shortOnly,
      @RequestParam(defaultValue = "") String after) {
    return grid.page(search, category, shortOnly, after);
  }

  @Operation(summary = "Where an item is, and who holds it")
  @GetMapping("/items/{id}")
  StockGrid.ItemSheet item(@PathVariable long id) {
    return grid.sheet(id);
  }

  @Operation(summary = "An item’s movements, newest first")
  @GetMapping("/items/{id}/movements")
  List<Movement> movements(@PathVariable long id) {
    return db.select(
            STOCK_MOVEMENT.ID,
            STOCK_MOVEMENT.AT,
            NODE.NAME,
            STOCK_MOVEMENT.QUANTITY,
            STOCK_MOVEMENT.REASON,
            STOCK_MOVEMENT.ACTOR,
            STOCK_MOVEMENT.NOTE,
            STOCK_MOVEMENT.CONSIGNMENT_ID)
        .from(STOCK_MOVEMENT)
        .join(NODE)
        .on(NODE.ID.eq(STOCK_MOVEMENT.NODE_ID))
        .where(STOCK_MOVEMENT.ITEM_ID.eq(id))
        .orderBy(STOCK_MOVEMENT.ID.desc())
        .limit(MOST_MOVEMENTS)
        .fetch(r ->
            new Movement(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                StockLedger.Reason.valueOf(r.value5()),
                r.value6(),
                r.value7(),
                r.value8()));
  }

  @Operation(summary = "Record a count, a receipt or scrap; orders that waited are routed at once")
  @PostMapping("/items/{id}/adjustments")
  LevelNow adjust(@PathVariable long id, @RequestBody Adjustment adjustment) {
    return transactions.get(() -> adjustLocked(id, adjustment, Person.current().displayName()));
  }

  @Operation(summary = "Say that an item is no longer sold, or is again")
  @PutMapping("/items/{id}/ended")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable long id, @RequestBody Ending ending) {
    transactions.run(() -> {
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
  List<StockLedger.Discrepancy> discrepancies() {
    return ledger.discrepancies();
  }

  @Operation(summary = "Make an item’s levels what its ledger and allocations add up to")
  @PostMapping("/items/{id}/mend")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void mend(@PathVariable long id) {
    proof.mend(id, Person.current().displayName());
  }

  private LevelNow adjustLocked(long itemId, Adjustment a, String actor) {
    check(a);
    StockLevel before = level(itemId, a.nodeId());
    long change = a.counted() != null ? a.counted() - before.onHand() : 0;
    if (a.change() != null) {
      change = a.change();
    }
    if (change == 0) {
      return now(before);
    }
    if (!ledger.adjust(itemId, a.nodeId(), change, a.reason(), actor, a.note())) {
      throw Problem.invalid(
          a.counted() != null ? "counted" : "change",
          "%d units are allocated to orders; free them first".formatted(before.allocated()));
    }
    events.record(EventKind.STOCK_CHANGED, null, null, actor, "Stock of item " + itemId, a.note());
    if (change > 0) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
    return now(level(itemId, a.nodeId()));
  }

  private static void check(Adjustment a) {
    if ((a.counted() == null) == (a.change() == null)) {
      throw Problem.invalid("counted", "give either what was counted or the change");
    }
    if (a.counted() != null && (a.counted() < 0 || a.counted() > MOST_UNITS)) {
      throw Problem.invalid("counted", "a count is between 0 and " + MOST_UNITS);
    }
    if (a.change() != null && Math.abs(a.change()) > MOST_UNITS) {
      throw Problem.invalid("change", "at most " + MOST_UNITS + " units at once");
    }
    boolean fits =
        switch (a.reason()) {
          case COUNT -> a.counted() != null;
          case RECEIPT -> a.change() != null && a.change() > 0;
          case SCRAP -> a.change() != null && a.change() < 0;
          // goods leave at the packing bench, or a channel says that it sent them
          // and kits are put together and taken apart as a whole
          case HAND_OVER, CHANNEL_SHIPPED, ASSEMBLE, BREAK -> false;
        };
    if (!fits) {
      throw Problem.invalid(
          "reason", "a receipt adds units, scrapping takes some away, a count says what is there");
    }
    if (a.note().length() > 400) {
      throw Problem.invalid("note", "a note has at most 400 characters");
    }
  }

  private StockLevel level(long itemId, long nodeId) {
    if (!db.fetchExists(ITEM, ITEM.ID.eq(itemId)) || !db.fetchExists(NODE, NODE.ID.eq(nodeId))) {
      throw Problem.notFound("item " + itemId + " at node " + nodeId);
    }
    return db.select(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.SAFETY)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .forUpdate()
        .fetchOptional(r -> new StockLevel(r.value1(), r.value2(), r.value3()))
        .orElse(StockLevel.NONE);
  }

  private static LevelNow now(StockLevel level) {
    return new LevelNow(level.onHand(), level.allocated(), level.available());
  }
}
