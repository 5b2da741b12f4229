package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static dev.ordinator.schema.Tables.TRANSFER_NUMBER;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.ExpectedSupplyRecord;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Goods that one of our nodes sends to another: they leave the one at once, are expected at the
 * other, and come in there as any delivery does.
 */
@Service
class Transfers {
  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final Expected expected;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Transfers(
      DSLContext db,
      StockLedger ledger,
      StockPlaces places,
      Expected expected,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.expected = expected;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * @param lot or number of which it is; null or empty: what the item's rule picks
   */
  record Line(String sku, long units, @Nullable String lot) {}

  /**
   * @param due the day on which it arrives
   */
  record Wish(long fromId, long toId, LocalDate due, List<Line> lines) {}

  /**
   * @param number by which it is received
   */
  record Sent(String number, long units) {}

  private record Piece(long itemId, int at, long units, @Nullable Long lotId) {}

  /**
   * Sends goods off, all of them or none. Of items whose lots are tracked the lot that is named
   * goes, or what expires first.
   *
   * @throws Problem naming the line that can't be sent
   */
  @Transactional
  Sent send(Wish wish, String actor) {
    String from = node(wish.fromId(), "fromId");
    String to = node(wish.toId(), "toId");
    if (wish.fromId() == wish.toId()) {
      throw Problem.invalid("toId", "that is where it is");
    }
    if (wish.due().isBefore(expected.today())) {
      throw Problem.invalid("due", "that day is over");
    }
    List<Piece> pieces = pieces(wish.lines());
    String number =
        "T-"
            + db.insertInto(TRANSFER_NUMBER)
                .defaultValues()
                .returningResult(TRANSFER_NUMBER.ID)
                .fetchSingle()
                .value1();
    Because because = Because.of(Reason.TRANSFER_OUT, actor, number + " to " + to);
    Map<Long, LotPick.Rule> rules = places.rules(pieces.stream().map(Piece::itemId).toList());
    pieces.stream()
        .sorted(Comparator.comparingLong(Piece::itemId))
        .forEach(piece -> {
          String field = "lines[%d].units".formatted(piece.at());
          // both levels in one order, as everywhere
          ledger.lock(piece.itemId(), Math.min(wish.fromId(), wish.toId()));
          ledger.lock(piece.itemId(), Math.max(wish.fromId(), wish.toId()));
          ledger.requireFree(piece.itemId(), wish.fromId(), piece.units(), field);
          LotPick.Rule rule = rules.get(piece.itemId());
          if (rule == null && piece.lotId() != null) {
            throw Problem.invalid(
                "lines[%d].lot".formatted(piece.at()), "its lots are not tracked");
          }
          if (rule == null) {
            ledger.adjust(
                piece.itemId(),
                wish.fromId(),
                -piece.units(),
                Reason.TRANSFER_OUT,
                actor,
                because.note());
            ledger.put(inTransit(piece.itemId(), wish.toId(), null), piece.units(), because);
            expect(wish, from, number, piece.itemId(), null, piece.units(), actor);
          } else {
            byLot(wish, piece, rule, field)
                .forEach(taken -> {
                  Long lot = places.spot(taken.place()).lotId();
                  ledger.take(taken.place(), taken.units(), because);
                  ledger.put(inTransit(piece.itemId(), wish.toId(), lot), taken.units(), because);
                  expect(wish, from, number, piece.itemId(), lot, taken.units(), actor);
                });
          }
        });
    long units = pieces.stream().mapToLong(Piece::units).sum();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "%s: %d units are on their way from %s to %s".formatted(number, units, from, to),
        "");
    return new Sent(number, units);
  }

  /** Where goods lie that are on their way to a node. */
  private static Spot inTransit(long itemId, long nodeId, @Nullable Long lotId) {
    return new Spot(itemId, nodeId, "", lotId, Condition.IN_TRANSIT);
  }

  /**
   * What is still under way of a transfer comes back to the node that sent it.
   *
   * @throws Problem if nothing of it is under way
   */
  @Transactional
  public void comeBack(long expectedId, String actor) {
    ExpectedSupplyRecord supply = end(expectedId);
    long from = Objects.requireNonNull(supply.getFromNode());
    ledger.lock(supply.getItemId(), Math.min(from, supply.getNodeId()));
    ledger.lock(supply.getItemId(), Math.max(from, supply.getNodeId()));
    Because because = Because.of(Reason.TRANSFER_IN, actor, supply.getNumber() + " came back");
    arrive(supply, supply.getQuantity(), because);
    Condition state = mayBeSold(supply.getLotId()) ? Condition.SELLABLE : Condition.QUARANTINE;
    ledger.put(
        new Spot(supply.getItemId(), from, "", supply.getLotId(), state),
        supply.getQuantity(),
        because);
    publisher.publishEvent(new StockGrew(supply.getItemId(), actor));
    noted(supply, "came back", actor);
  }

  /**
   * What is still under way of a transfer will not arrive.
   *
   * @throws Problem if nothing of it is under way, or nobody says why
   */
  @Transactional
  public void lost(long expectedId, String why, String actor) {
    if (why.isBlank() || why.length() > 200) {
      throw Problem.invalid("reason", "say in 1 to 200 characters what became of it");
    }
    ExpectedSupplyRecord supply = end(expectedId);
    lose(
        supply,
        supply.getQuantity(),
        Because.of(Reason.TRANSFER_LOST, actor, supply.getNumber() + ": " + why.strip()));
    publisher.publishEvent(new SupplyMoved(supply.getItemId()));
    noted(supply, "is lost: " + why.strip(), actor);
  }

  /** A lot may have been recalled, or have expired, while it was under way. */
  private boolean mayBeSold(@Nullable Long lotId) {
    return lotId == null
        || db.fetchExists(
            LOT,
            LOT.ID
                .eq(lotId)
                .and(LOT.RECALLED_AT.isNull())
                .and(LOT.EXPIRES.isNull().or(LOT.EXPIRES.ge(expected.today()))));
  }

  /** Units of a transfer are no longer under way. */
  void arrive(ExpectedSupplyRecord supply, long units, Because because) {
    long place = placeOf(supply);
    if (!ledger.take(place, units, because)) {
      throw new IllegalStateException(
          "transfer %s has not %d units under way".formatted(supply.getNumber(), units));
    }
  }

  /** Units of a transfer did not arrive. */
  void lose(ExpectedSupplyRecord supply, long units, Because because) {
    if (units > 0) {
      arrive(supply, units, because);
    }
  }

  private long placeOf(ExpectedSupplyRecord supply) {
    return db.select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.ITEM_ID.eq(supply.getItemId()))
        .and(STOCK_PLACE.NODE_ID.eq(supply.getNodeId()))
        .and(STOCK_PLACE.STATE.eq(Condition.IN_TRANSIT.name()))
        .and(STOCK_PLACE.LOT_KEY.eq(Objects.requireNonNullElse(supply.getLotId(), 0L)))
        .fetchSingle()
        .value1();
  }

  private ExpectedSupplyRecord end(long expectedId) {
    ExpectedSupplyRecord supply =
        db.selectFrom(EXPECTED_SUPPLY)
            .where(EXPECTED_SUPPLY.ID.eq(expectedId))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .and(EXPECTED_SUPPLY.FROM_NODE.isNotNull())
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.conflict("nothing of it is under way any more"));
    db.update(EXPECTED_SUPPLY)
        .set(EXPECTED_SUPPLY.OPEN, false)
        .where(EXPECTED_SUPPLY.ID.eq(expectedId))
        .execute();
    return supply;
  }

  private void noted(ExpectedSupplyRecord supply, String what, String actor) {
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "%s: %d units %s".formatted(supply.getNumber(), supply.getQuantity(), what),
        "");
  }

  private List<LotPick.Taken> byLot(Wish wish, Piece piece, LotPick.Rule rule, String field) {
    LotPick.Rule lasting = new LotPick.Rule(rule.order(), rule.oneLot(), 0);
    return places
        .pick(piece.itemId(), wish.fromId(), piece.units(), lasting, wish.due(), piece.lotId())
        .orElseThrow(() ->
            Problem.invalid(
                field,
                piece.lotId() == null
                    ? "not so many would be usable on their arrival"
                    : "not so many of that lot are free there and usable on their arrival"));
  }

  private List<Piece> pieces(List<Line> lines) {
    if (lines.isEmpty()) {
      throw Problem.invalid("lines", "say what is sent");
    }
    List<Piece> pieces = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < lines.size(); i++) {
      Line line = lines.get(i);
      String place = "lines[%d]".formatted(i);
      String sku = line.sku().strip();
      Long item = db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchOne(ITEM.ID);
      if (item == null) {
        throw Problem.invalid(place + ".sku", "no item has the SKU ‘" + sku + "’");
      }
      String lot = Objects.requireNonNullElse(line.lot(), "").strip();
      if (!seen.add(sku + "\n" + lot)) {
        throw Problem.invalid(place + ".sku", sku + " stands there twice");
      }
      if (line.units() < 1) {
        throw Problem.invalid(place + ".units", "at least one unit");
      }
      Long lotId = lot.isEmpty() ? null : lot(item, lot, place + ".lot");
      pieces.add(new Piece(item, i, line.units(), lotId));
    }
    return pieces;
  }

  private long lot(long itemId, String code, String field) {
    return db.select(LOT.ID)
        .from(LOT)
        .where(LOT.ITEM_ID.eq(itemId))
        .and(LOT.CODE.eq(code))
        .fetchOptional(LOT.ID)
        .orElseThrow(() -> Problem.invalid(field, "it has no lot or number ‘" + code + "’"));
  }

  private void expect(
      Wish wish,
      String from,
      String number,
      long itemId,
      @Nullable Long lotId,
      long units,
      String actor) {
    db.insertInto(EXPECTED_SUPPLY)
        .set(EXPECTED_SUPPLY.ITEM_ID, itemId)
        .set(EXPECTED_SUPPLY.LOT_ID, lotId)
        .set(EXPECTED_SUPPLY.NODE_ID, wish.toId())
        .set(EXPECTED_SUPPLY.FROM_NODE, wish.fromId())
        .set(EXPECTED_SUPPLY.SUPPLIER, from)
        .set(EXPECTED_SUPPLY.NUMBER, number)
        .set(EXPECTED_SUPPLY.QUANTITY, units)
        .set(EXPECTED_SUPPLY.DUE, wish.due())
        .set(EXPECTED_SUPPLY.NOTED_BY, actor)
        .set(EXPECTED_SUPPLY.NOTED_AT, clock.instant())
        .execute();
  }

  private String node(long id, String field) {
    return db.select(NODE.NAME)
        .from(NODE)
        .where(NODE.ID.eq(id))
        .fetchOptional(NODE.NAME)
        .orElseThrow(() -> Problem.invalid(field, "there is no such node"));
  }
}
