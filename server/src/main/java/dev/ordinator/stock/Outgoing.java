package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockLedger.Want;
import dev.ordinator.stock.StockPlaces.Because;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What is held for a consignment leaves the shelves, at the moment that its node has chosen, and
 * comes back if it is not sent. Each movement names the allocation that it is of, so that what
 * comes back lies where it lay.
 */
@Service
public class Outgoing {
  private final DSLContext db;
  private final StockLedger ledger;
  private final StockPlaces places;
  private final Earmarks earmarks;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Outgoing(
      DSLContext db,
      StockLedger ledger,
      StockPlaces places,
      Earmarks earmarks,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.places = places;
    this.earmarks = earmarks;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * An allocation of a line.
   *
   * @param placeId null: by quantity only
   */
  private record Held(long id, @Nullable Long placeId, long units, boolean open) {}

  /**
   * What is held for lines leaves, unless it has left before. Of items that nobody counts nothing
   * is held.
   *
   * @param reason a hand-over, or a pick if it leaves before that
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void leave(
      long nodeId, long consignmentId, List<Want> lines, Reason reason, String actor) {
    inOrder(
        nodeId,
        lines,
        line -> {
          List<Held> all = allocations(line);
          List<Held> held = all.stream().filter(Held::open).toList();
          if (held.isEmpty() && all.stream().allMatch(a -> lay(a).isEmpty())) {
            requireUncounted(line);
            return;
          }
          List<Held> leaving =
              held.stream()
                  .filter(h -> reason == Reason.HAND_OVER || isKnown(line.itemId(), h))
                  .toList();
          if (!leaving.isEmpty()) {
            end(line.itemId(), nodeId, leaving);
            ledger.setOnHand(line.itemId(), nodeId, -leaving.stream().mapToLong(Held::units).sum());
            leaving.forEach(h ->
                take(line.itemId(), nodeId, h, Because.sent(reason, consignmentId, h.id(), actor)));
          }
        });
  }

  /** What was held for lines, or has left the shelves for them, is free again. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void free(long nodeId, long consignmentId, List<Want> lines, String actor) {
    inOrder(
        nodeId,
        lines,
        line -> {
          List<Held> all = allocations(line);
          List<Held> open = all.stream().filter(Held::open).toList();
          List<Held> back =
              all.stream()
                  .filter(h -> !h.open())
                  .filter(h -> putBack(line.itemId(), nodeId, consignmentId, h, actor))
                  .toList();
          end(line.itemId(), nodeId, open);
          List<Long> ended = Stream.concat(open.stream(), back.stream()).map(Held::id).toList();
          if (!ended.isEmpty()) {
            ledger.setAsideAgain(line.itemId(), nodeId, earmarks.giveBack(ended));
            publisher.publishEvent(new StockGrew(line.itemId(), actor));
          }
        });
  }

  /** What has left the shelves for lines lies there again, and is held for them as before. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void bringBack(long nodeId, long consignmentId, List<Want> lines, String actor) {
    inOrder(
        nodeId,
        lines,
        line ->
            allocations(line).stream()
                .filter(h -> !h.open())
                .filter(h -> putBack(line.itemId(), nodeId, consignmentId, h, actor))
                .forEach(h -> reopen(line.itemId(), nodeId, h)));
  }

  /** Levels are locked in one order, as everywhere. */
  private void inOrder(long nodeId, List<Want> lines, Consumer<Want> each) {
    lines.stream()
        .sorted(Comparator.comparingLong(Want::itemId))
        .forEach(line -> {
          ledger.lock(line.itemId(), nodeId);
          each.accept(line);
        });
  }

  private void take(long itemId, long nodeId, Held held, Because because) {
    if (held.placeId() == null) {
      places.takeAnywhere(itemId, nodeId, held.units(), because);
    } else if (!places.takeFrom(held.placeId(), held.units(), because)) {
      throw new IllegalStateException("place " + held.placeId() + " lost what it held");
    }
  }

  /**
   * @return false if none of it has left, or all of it is back
   */
  private boolean putBack(long itemId, long nodeId, long consignmentId, Held held, String actor) {
    Because because = Because.sent(Reason.PUT_BACK, consignmentId, held.id(), actor);
    Map<Long, Long> lay = lay(held);
    lay.forEach((place, units) -> ledger.put(places.spot(place), units, because));
    return !lay.isEmpty();
  }

  /** From which places units of an allocation have left, and are not back. */
  private Map<Long, Long> lay(Held held) {
    var left = sum(STOCK_MOVEMENT.QUANTITY).neg();
    return db.select(STOCK_MOVEMENT.PLACE_ID, left)
        .from(STOCK_MOVEMENT)
        .where(STOCK_MOVEMENT.ALLOCATION_ID.eq(held.id()))
        .groupBy(STOCK_MOVEMENT.PLACE_ID)
        .having(left.gt(BigDecimal.ZERO))
        .orderBy(STOCK_MOVEMENT.PLACE_ID)
        .fetchMap(r -> r.value1(), r -> r.value2().longValueExact());
  }

  private void reopen(long itemId, long nodeId, Held held) {
    db.update(ALLOCATION).setNull(ALLOCATION.ENDED_AT).where(ALLOCATION.ID.eq(held.id())).execute();
    hold(itemId, nodeId, held, held.units());
  }

  private void end(long itemId, long nodeId, List<Held> open) {
    if (open.isEmpty()) {
      return;
    }
    db.update(ALLOCATION)
        .set(ALLOCATION.ENDED_AT, clock.instant())
        .where(ALLOCATION.ID.in(open.stream().map(Held::id).toList()))
        .execute();
    open.forEach(held -> hold(itemId, nodeId, held, -held.units()));
  }

  private void hold(long itemId, long nodeId, Held held, long units) {
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.plus(units))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
    if (held.placeId() != null) {
      places.hold(held.placeId(), units);
    }
  }

  private List<Held> allocations(Want line) {
    return db.select(
            ALLOCATION.ID, ALLOCATION.PLACE_ID, ALLOCATION.QUANTITY, ALLOCATION.ENDED_AT.isNull())
        .from(ALLOCATION)
        .where(ALLOCATION.CONSIGNMENT_LINE_ID.eq(line.consignmentLineId()))
        .forUpdate()
        .fetch(r -> new Held(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  /** Of goods with serial numbers it is not known which would leave, until they are scanned. */
  private boolean isKnown(long itemId, Held held) {
    return held.placeId() != null
        || !db.fetchExists(
            ITEM, ITEM.ID.eq(itemId).and(ITEM.TRACKED.eq(Lots.Tracked.SERIAL.name())));
  }

  private void requireUncounted(Want line) {
    if (db.fetchExists(ITEM, ITEM.ID.eq(line.itemId()).and(ITEM.COUNTED))) {
      throw new IllegalStateException(
          "line " + line.consignmentLineId() + " holds no stock that could leave");
    }
  }
}
