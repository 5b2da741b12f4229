package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Goods are put into another bin, out of quarantine, or aside because they are damaged. */
@Service
public class Putting {
  private static final int LONGEST_NOTE = 400;

  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  Putting(
      DSLContext db,
      StockLedger ledger,
      StockPlaces places,
      Events events,
      ApplicationEventPublisher publisher) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * @param bin where to; empty: nobody says where
   * @param state as what it lies there
   * @param note why; needed if that is another state than before
   */
  public record Wish(long units, String bin, Condition state, String note) {}

  /**
   * @throws Problem if so many are not there for the taking, or its lot may not be sold
   */
  @Transactional
  public void put(long placeId, Wish wish, String actor) {
    if (!db.fetchExists(STOCK_PLACE, STOCK_PLACE.ID.eq(placeId))) {
      throw Problem.notFound("place " + placeId);
    }
    Spot from = places.spot(placeId);
    check(from, wish);
    Spot to =
        new Spot(from.itemId(), from.nodeId(), wish.bin().strip(), from.lotId(), wish.state());
    if (to.equals(from)) {
      throw Problem.invalid("bin", "it lies there already");
    }
    boolean isMove = from.state() == to.state();
    Because because =
        Because.of(isMove ? Reason.MOVE : Reason.QUARANTINE, actor, wish.note().strip());
    if (!ledger.move(placeId, wish.units(), to, because)) {
      throw Problem.invalid("units", "not so many lie there that no order holds");
    }
    events.record(
        EventKind.STOCK_CHANGED, null, null, actor, "Stock of item " + from.itemId(), wish.note());
    if (!isMove && to.state() == Condition.SELLABLE) {
      publisher.publishEvent(new StockGrew(from.itemId(), actor));
    }
  }

  private void check(Spot from, Wish wish) {
    Receiving.checkBin(wish.bin().strip(), "bin");
    if (from.state() == Condition.IN_TRANSIT || wish.state() == Condition.IN_TRANSIT) {
      throw Problem.invalid("state", "what is under way comes in by its delivery");
    }
    if (wish.units() < 1 || wish.units() > StockDesk.MOST_UNITS) {
      throw Problem.invalid("units", "1 to %,d units".formatted(StockDesk.MOST_UNITS));
    }
    if (wish.note().length() > LONGEST_NOTE) {
      throw Problem.invalid("note", "a note has at most %d characters".formatted(LONGEST_NOTE));
    }
    if (from.state() != wish.state() && wish.note().isBlank()) {
      throw Problem.invalid("note", "say why");
    }
    boolean recalled =
        from.lotId() != null
            && db.fetchExists(LOT, LOT.ID.eq(from.lotId()).and(LOT.RECALLED_AT.isNotNull()));
    if (recalled && wish.state() == Condition.SELLABLE) {
      throw Problem.invalid("state", "its lot is recalled: it can’t be sold");
    }
  }
}
