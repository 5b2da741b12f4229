package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one door through which stock changes. Levels are locked in one order (item, then node) before
 * the places that they add up, and each statement checks what it takes, so that of many who want
 * the last unit exactly one gets it.
 */
@Service
public class StockLedger {
  private final DSLContext db;
  private final StockPlaces places;
  private final Earmarks earmarks;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  StockLedger(
      DSLContext db,
      StockPlaces places,
      Earmarks earmarks,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.places = places;
    this.earmarks = earmarks;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** Why units came or went. */
  public enum Reason {
    RECEIPT,
    COUNT,
    /** The books were wrong, and somebody says why. */
    ADJUST,
    /** A buyer sent it back. */
    RETURN,
    /** It left the shelves for a consignment, before that was handed over. */
    PICK,
    /** A consignment that it had left for is not sent, or is packed anew. */
    PUT_BACK,
    HAND_OVER,
    SCRAP,
    /** It goes back to whoever supplied it. */
    TO_SUPPLIER,
    /** A channel sent it from its own depot, and told us afterwards. */
    CHANNEL_SHIPPED,
    /** Kits were put together: the kit comes, its components go. */
    ASSEMBLE,
    /** Kits were taken apart. */
    BREAK,
    /** A supplier that sends by itself said how many it has. */
    SUPPLIER_SAID,
    /** It may not be sold for now, or may be again. */
    QUARANTINE,
    TRANSFER_OUT,
    TRANSFER_IN,
    /** It was sent from one node to another, and did not arrive. */
    TRANSFER_LOST,
    /** It was put into another bin. */
    MOVE
  }

  /** Units of an item wanted for a consignment's line. */
  public record Want(long consignmentLineId, long itemId, long quantity) {}

  /** Another took the stock first. The transaction must be rolled back. */
  public static final class TakenMeanwhile extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private TakenMeanwhile(long itemId, long nodeId) {
      super("item " + itemId + " at node " + nodeId + " was taken meanwhile");
    }
  }

  /**
   * Holds stock for lines, all of it or none. Of items whose lots are tracked it says from which
   * lot and bin, by the item's rule.
   *
   * <p>What is set aside for the order is taken first. Of items that nobody counts there is always
   * enough: nothing is held.
   *
   * @param arrival the day on which they would arrive, from which lots must last
   * @throws TakenMeanwhile if some level has too little available
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void allocate(long orderId, long nodeId, List<Want> wants, LocalDate arrival) {
    wants.stream()
        .sorted(Comparator.comparingLong(Want::itemId))
        .forEach(want -> {
          if (!allocatePlainly(nodeId, want) && isCounted(want.itemId())) {
            allocateWithCare(orderId, nodeId, want, arrival);
          }
        });
  }

  /**
   * The common way, in two statements: nothing of it is set aside for anybody, and its lots are not
   * tracked. The allocation is written first: from the moment the level is taken, all others who
   * want of it wait for this transaction's end.
   *
   * @return false if it is not so plain; nothing is changed then
   */
  private boolean allocatePlainly(long nodeId, Want want) {
    long allocation = holdFor(want, nodeId, null, want.quantity(), false);
    int taken =
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.plus(want.quantity()))
            .where(STOCK_LEVEL.ITEM_ID.eq(want.itemId()))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .and(STOCK_LEVEL.EARMARKED.eq(0L))
            .and(Levels.FREE.ge(want.quantity()))
            .andNotExists(
                selectOne()
                    .from(ITEM)
                    .where(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
                    .and(Lots.BY_LOT.or(ITEM.COUNTED.isFalse())))
            .execute();
    if (taken == 0) {
      db.deleteFrom(ALLOCATION).where(ALLOCATION.ID.eq(allocation)).execute();
    }
    return taken == 1;
  }

  private boolean isCounted(long itemId) {
    return db.fetchExists(ITEM, ITEM.ID.eq(itemId).and(ITEM.COUNTED));
  }

  private void allocateWithCare(long orderId, long nodeId, Want want, LocalDate arrival) {
    LotPick.Rule rule = places.rules(List.of(want.itemId())).get(want.itemId());
    List<Taking> setAside =
        takeFirst(
            ofUse(earmarks.forOrder(orderId, List.of(want.itemId())), nodeId, rule, arrival), want);
    long mine = setAside.stream().mapToLong(Taking::units).sum();
    int taken =
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.ALLOCATED, STOCK_LEVEL.ALLOCATED.plus(want.quantity()))
            .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.minus(mine))
            .where(STOCK_LEVEL.ITEM_ID.eq(want.itemId()))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .and(Levels.FREE.ge(want.quantity() - mine))
            .and(STOCK_LEVEL.EARMARKED.ge(mine))
            .execute();
    if (taken == 0) {
      throw new TakenMeanwhile(want.itemId(), nodeId);
    }
    long allocation = hold(want, nodeId, setAside, rule, arrival);
    setAside.forEach(taking -> {
      if (!earmarks.take(taking.from().id(), taking.units())) {
        throw new TakenMeanwhile(want.itemId(), nodeId);
      }
      earmarks.used(allocation, taking.from().id(), taking.units());
    });
  }

  /** What a line takes of an earmark. */
  private record Taking(Earmarks.Own from, long units) {}

  /** Those at a node, without those that name a lot that would not last. */
  private List<Earmarks.Own> ofUse(
      List<Earmarks.Own> own, long nodeId, LotPick.@Nullable Rule rule, LocalDate arrival) {
    List<Earmarks.Own> there = own.stream().filter(e -> e.nodeId() == nodeId).toList();
    List<Long> named = there.stream().map(Earmarks.Own::placeId).filter(Objects::nonNull).toList();
    if (rule == null || named.isEmpty()) {
      return there;
    }
    Set<Long> lasting = places.lasting(named, rule, arrival);
    return there.stream()
        .filter(e -> e.placeId() == null || lasting.contains(e.placeId()))
        .toList();
  }

  /** One after the other. */
  private static List<Taking> takeFirst(List<Earmarks.Own> own, Want want) {
    List<Taking> taken = new ArrayList<>();
    long left = want.quantity();
    for (Earmarks.Own mine : own) {
      long units = Math.min(left, mine.units());
      if (units > 0) {
        taken.add(new Taking(mine, units));
        left -= units;
      }
    }
    return taken;
  }

  /**
   * Holds what a run has named as it named it, and the rest by the item's rule.
   *
   * @return the allocation, or the first of them if several lots are needed
   */
  private long hold(
      Want want,
      long nodeId,
      List<Taking> setAside,
      LotPick.@Nullable Rule rule,
      LocalDate arrival) {
    List<Long> made = new ArrayList<>();
    long rest = want.quantity();
    for (Taking taking : setAside) {
      if (taking.from().placeId() != null) {
        made.add(holdFor(want, nodeId, taking.from().placeId(), taking.units(), true));
        rest -= taking.units();
      }
    }
    if (rest > 0) {
      made.addAll(
          rule == null
              ? List.of(holdFor(want, nodeId, null, rest, false))
              : holdByLot(want, nodeId, rest, rule, arrival));
    }
    return made.getFirst();
  }

  private List<Long> holdByLot(
      Want want, long nodeId, long units, LotPick.Rule rule, LocalDate arrival) {
    return places
        .pick(want.itemId(), nodeId, units, rule, arrival)
        .orElseThrow(() -> new TakenMeanwhile(want.itemId(), nodeId))
        .stream()
        .map(from -> {
          places.hold(from.place(), from.units());
          return holdFor(want, nodeId, from.place(), from.units(), false);
        })
        .toList();
  }

  /**
   * Goods left a channel's depot. They did, whatever we had on record: what is missing there is
   * counted in first.
   *
   * @return how many units were missing
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public long sentByChannel(
      long itemId, long nodeId, long quantity, long consignmentId, String actor) {
    var level = lockLevel(itemId, nodeId);
    long missing = Math.max(0, quantity - (level.value1() - level.value2()));
    if (missing > 0) {
      change(
          itemId,
          nodeId,
          missing,
          Because.of(Reason.COUNT, actor, "the depot had more than we knew"));
    }
    change(
        itemId,
        nodeId,
        -quantity,
        Because.sent(Reason.CHANNEL_SHIPPED, consignmentId, null, actor));
    return missing;
  }

  /**
   * Adds or removes sellable units that are not allocated, wherever they lie.
   *
   * @param quantity units, negative to remove
   * @return false if it would leave less than is allocated; nothing is changed then
   */
  @Transactional
  public boolean adjust(
      long itemId, long nodeId, long quantity, Reason reason, String actor, String note) {
    var level = lockLevel(itemId, nodeId);
    boolean fits = level.value1() + quantity >= level.value2();
    if (fits && quantity != 0) {
      change(itemId, nodeId, quantity, Because.of(reason, actor, note));
      lost(itemId, quantity);
    }
    return fits;
  }

  /**
   * Adds units to a place, or removes some that nobody holds.
   *
   * @return false if there are not so many; nothing is changed then
   */
  @Transactional(propagation = Propagation.MANDATORY)
  boolean adjustAt(long placeId, long quantity, Reason reason, String actor, String note) {
    Because because = Because.of(reason, actor, note);
    if (quantity < 0) {
      return take(placeId, -quantity, because);
    }
    put(places.spot(placeId), quantity, because);
    return true;
  }

  /** Units come to a place, in whichever state. */
  @Transactional(propagation = Propagation.MANDATORY)
  void put(Spot spot, long units, Because because) {
    lockLevel(spot.itemId(), spot.nodeId());
    if (spot.state() == Condition.SELLABLE) {
      setOnHand(spot.itemId(), spot.nodeId(), units);
    }
    places.put(spot, units, because);
  }

  /**
   * Units leave a place.
   *
   * @return false if it has not so many that nobody holds; nothing is changed then
   */
  @Transactional(propagation = Propagation.MANDATORY)
  boolean take(long placeId, long units, Because because) {
    Spot spot = places.spot(placeId);
    var level = lockLevel(spot.itemId(), spot.nodeId());
    boolean sells = spot.state() == Condition.SELLABLE;
    if (sells && level.value1() - units < level.value2()) {
      return false;
    }
    boolean taken = places.takeFrom(placeId, units, because);
    if (taken && sells) {
      setOnHand(spot.itemId(), spot.nodeId(), -units);
      lost(spot.itemId(), -units);
    }
    return taken;
  }

  /**
   * Units are put elsewhere at their node, or into another state.
   *
   * @return false if there are not so many that nobody holds; nothing is changed then
   */
  @Transactional(propagation = Propagation.MANDATORY)
  boolean move(long placeId, long units, Spot to, Because because) {
    Spot from = places.spot(placeId);
    lockLevel(from.itemId(), from.nodeId());
    if (from.state() != to.state()) {
      boolean taken = take(placeId, units, because);
      if (taken) {
        put(to, units, because);
      }
      return taken;
    }
    boolean taken = places.takeFrom(placeId, units, because);
    if (taken) {
      places.put(to, units, because);
    }
    return taken;
  }

  /**
   * A supplier said how many it has at its node; what it holds for our orders is in that, whatever
   * it says.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void suppliedBy(long itemId, long nodeId, long units, String actor, String note) {
    var level = lockLevel(itemId, nodeId);
    long change = Math.max(units, level.value2()) - level.value1();
    if (change != 0) {
      change(itemId, nodeId, change, Because.of(Reason.SUPPLIER_SAID, actor, note));
    }
    if (change > 0) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
    lost(itemId, change);
  }

  /** Those who count on it may have to wait longer. */
  private void lost(long itemId, long change) {
    if (change < 0) {
      publisher.publishEvent(new SupplyMoved(itemId));
    }
  }

  /**
   * @param safety units that are never offered
   * @param most more than this on hand is a surplus; null: no limit
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void setLimits(long itemId, long nodeId, long safety, @Nullable Long most) {
    lockLevel(itemId, nodeId);
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.SAFETY, safety)
        .set(STOCK_LEVEL.MOST, most)
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
  }

  /**
   * Makes sure that so many are free for anything, until the transaction ends.
   *
   * @param field what is named if they are not
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void requireFree(long itemId, long nodeId, long units, String field) {
    lockLevel(itemId, nodeId);
    long free =
        db.select(Levels.FREE)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .fetchSingle()
            .value1();
    if (free < units) {
      throw Problem.invalid(field, "only %d can be spared there".formatted(Math.max(0, free)));
    }
  }

  /** Keeps others from changing a level until the transaction ends. */
  @Transactional(propagation = Propagation.MANDATORY)
  void lock(long itemId, long nodeId) {
    lockLevel(itemId, nodeId);
  }

  /** The level is locked, and has enough that is not allocated. */
  private void change(long itemId, long nodeId, long units, Because because) {
    setOnHand(itemId, nodeId, units);
    if (units > 0) {
      places.put(Spot.anywhere(itemId, nodeId), units, because);
    } else {
      places.takeAnywhere(itemId, nodeId, -units, because);
    }
  }

  /** Units that came out of earmarks are in them again. */
  void setAsideAgain(long itemId, long nodeId, long units) {
    if (units > 0) {
      db.update(STOCK_LEVEL)
          .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.plus(units))
          .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
          .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
          .execute();
    }
  }

  /** The level is locked. */
  void setOnHand(long itemId, long nodeId, long change) {
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ON_HAND.plus(change))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
  }

  /** What is on hand and what of it is allocated, kept from others until the transaction ends. */
  private Record2<Long, Long> lockLevel(long itemId, long nodeId) {
    var level =
        db.select(STOCK_LEVEL.ON_HAND, STOCK_LEVEL.ALLOCATED)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
            .forUpdate();
    // made only where there is none: two that insert at once would wait for one another
    return level
        .fetchOptional()
        .orElseGet(() -> {
          db.insertInto(STOCK_LEVEL)
              .set(STOCK_LEVEL.ITEM_ID, itemId)
              .set(STOCK_LEVEL.NODE_ID, nodeId)
              .set(STOCK_LEVEL.ON_HAND, 0L)
              .onDuplicateKeyIgnore()
              .execute();
          return level.fetchSingle();
        });
  }

  private long holdFor(Want want, long nodeId, @Nullable Long placeId, long units, boolean named) {
    return db.insertInto(ALLOCATION)
        .set(ALLOCATION.CONSIGNMENT_LINE_ID, want.consignmentLineId())
        .set(ALLOCATION.ITEM_ID, want.itemId())
        .set(ALLOCATION.NODE_ID, nodeId)
        .set(ALLOCATION.PLACE_ID, placeId)
        .set(ALLOCATION.QUANTITY, units)
        .set(ALLOCATION.NAMED, named)
        .set(ALLOCATION.MADE_AT, clock.instant())
        .returningResult(ALLOCATION.ID)
        .fetchSingle()
        .value1();
  }
}
