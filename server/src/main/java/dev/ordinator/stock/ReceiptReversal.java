package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.RECEIPT;
import static dev.ordinator.schema.Tables.RECEIPT_LINE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static org.jooq.impl.DSL.when;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.ReceiptLineRecord;
import dev.ordinator.schema.tables.records.ReceiptRecord;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes a receipt back that was entered wrongly: each of its movements is made the other way round,
 * and what was expected is expected again. It can be done as long as nothing of it was used.
 */
@Service
public class ReceiptReversal {
  private static final int LONGEST_REASON = 200;

  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  ReceiptReversal(
      DSLContext db,
      StockLedger ledger,
      StockPlaces places,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * @param units negative if it took them away
   */
  private record Moved(long itemId, long nodeId, long placeId, long units, Reason reason) {}

  /**
   * Takes a receipt back, all of it or nothing.
   *
   * @param why 1 to 200 characters
   * @throws Problem if it is taken back already, or something of it is not free any more
   */
  @Transactional
  public void reverse(long receiptId, String why, String actor) {
    if (why.isBlank() || why.length() > LONGEST_REASON) {
      throw Problem.invalid("reason", "say in 1 to 200 characters why it is taken back");
    }
    ReceiptRecord receipt =
        db.selectFrom(RECEIPT)
            .where(RECEIPT.ID.eq(receiptId))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("receipt " + receiptId));
    if (receipt.getReversedAt() != null) {
      throw Problem.conflict("this receipt is taken back already");
    }
    List<Moved> moved = moved(receiptId);
    // levels are locked in one order, as everywhere
    moved.stream()
        .map(m -> List.of(m.itemId(), m.nodeId()))
        .distinct()
        .sorted(Comparator.comparing((List<Long> l) -> l.get(0)).thenComparing(l -> l.get(1)))
        .forEach(level -> ledger.lock(level.get(0), level.get(1)));
    moved.forEach(m -> moveBack(m, receiptId, why.strip(), actor));
    db.selectFrom(RECEIPT_LINE)
        .where(RECEIPT_LINE.RECEIPT_ID.eq(receiptId))
        .forEach(this::expectAgain);
    receipt.setReversedAt(clock.instant());
    receipt.setReversedBy(actor);
    receipt.setReversalNote(why.strip());
    receipt.store();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "The receipt from %s %s is taken back"
            .formatted(receipt.getSupplier(), receipt.getNumber()),
        why.strip());
  }

  /** Those that brought units come first: what is under way again must not be taken for them. */
  private List<Moved> moved(long receiptId) {
    return db.select(
            STOCK_MOVEMENT.ITEM_ID,
            STOCK_MOVEMENT.NODE_ID,
            STOCK_MOVEMENT.PLACE_ID,
            STOCK_MOVEMENT.QUANTITY,
            STOCK_MOVEMENT.REASON)
        .from(STOCK_MOVEMENT)
        .where(STOCK_MOVEMENT.RECEIPT_ID.eq(receiptId))
        .orderBy(when(STOCK_MOVEMENT.QUANTITY.gt(0L), 0).otherwise(1), STOCK_MOVEMENT.ID)
        .fetch(r ->
            new Moved(r.value1(), r.value2(), r.value3(), r.value4(), Reason.valueOf(r.value5())));
  }

  private void moveBack(Moved moved, long receiptId, String why, String actor) {
    Because because = Because.came(moved.reason(), receiptId, actor, "receipt taken back: " + why);
    if (moved.units() < 0) {
      ledger.put(places.spot(moved.placeId()), -moved.units(), because);
    } else if (!ledger.take(moved.placeId(), moved.units(), because) || !coversEarmarks(moved)) {
      String sku =
          db.select(ITEM.SKU).from(ITEM).where(ITEM.ID.eq(moved.itemId())).fetchSingle().value1();
      throw Problem.conflict(
          "of the %d units of %s some are used: orders hold them, or they lie elsewhere by now"
              .formatted(moved.units(), sku));
    }
  }

  /** What is set aside for an order can't be taken away, either. */
  private boolean coversEarmarks(Moved moved) {
    return db.fetchExists(
        STOCK_LEVEL,
        STOCK_LEVEL
            .ITEM_ID
            .eq(moved.itemId())
            .and(STOCK_LEVEL.NODE_ID.eq(moved.nodeId()))
            .and(STOCK_LEVEL.ON_HAND.ge(STOCK_LEVEL.ALLOCATED.plus(STOCK_LEVEL.EARMARKED))));
  }

  private void expectAgain(ReceiptLineRecord line) {
    Long supply = line.getExpectedSupplyId();
    if (supply == null && line.getExpected() > 0) {
      throw Problem.conflict(
          "it was taken in before receipts kept what they were expected as: correct the stock");
    }
    if (supply != null) {
      db.update(EXPECTED_SUPPLY)
          .set(
              EXPECTED_SUPPLY.QUANTITY,
              when(EXPECTED_SUPPLY.OPEN, EXPECTED_SUPPLY.QUANTITY)
                  .otherwise(0L)
                  .plus(line.getSettled()))
          .set(EXPECTED_SUPPLY.OPEN, true)
          .where(EXPECTED_SUPPLY.ID.eq(supply))
          .execute();
      publisher.publishEvent(new SupplyMoved(line.getItemId()));
    }
  }
}
