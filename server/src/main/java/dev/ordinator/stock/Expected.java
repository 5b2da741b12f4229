package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.core.stock.Atp;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Goods that are on their way to us. */
@Service
public class Expected {
  private static final long MOST_UNITS = 1_000_000;
  private static final int MOST_SLIP_DAYS = 365;

  private final DSLContext db;
  private final Events events;
  private final OrdinatorSettings settings;
  private final Clock clock;

  Expected(DSLContext db, Events events, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.events = events;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * An expected supply.
   *
   * @param quantity units still to come
   * @param confidence per cent of it that is counted on
   * @param slipDays days that it is assumed to come late
   */
  record Card(
      long id,
      long nodeId,
      String node,
      String supplier,
      String number,
      long quantity,
      LocalDate due,
      int confidence,
      int slipDays) {}

  /** One that is noted, or what it is now. */
  public record Wish(
      long nodeId,
      String supplier,
      String number,
      long quantity,
      LocalDate due,
      int confidence,
      int slipDays) {}

  /** Soonest first. */
  List<Card> of(long itemId) {
    return db.select(
            EXPECTED_SUPPLY.ID,
            EXPECTED_SUPPLY.NODE_ID,
            NODE.NAME,
            EXPECTED_SUPPLY.SUPPLIER,
            EXPECTED_SUPPLY.NUMBER,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.CONFIDENCE,
            EXPECTED_SUPPLY.SLIP_DAYS)
        .from(EXPECTED_SUPPLY)
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .where(EXPECTED_SUPPLY.ITEM_ID.eq(itemId))
        .and(EXPECTED_SUPPLY.OPEN.isTrue())
        .orderBy(EXPECTED_SUPPLY.DUE, EXPECTED_SUPPLY.ID)
        .fetch(r ->
            new Card(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9()));
  }

  /**
   * All that is expected, by item, as days from the merchant's today.
   *
   * @param serving codes of the nodes that count; empty: all
   */
  public Map<Long, List<Atp.Supply>> supplies(Set<String> serving) {
    LocalDate today = today();
    return db.select(
            EXPECTED_SUPPLY.ITEM_ID,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.CONFIDENCE,
            EXPECTED_SUPPLY.SLIP_DAYS)
        .from(EXPECTED_SUPPLY)
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .where(EXPECTED_SUPPLY.OPEN.isTrue())
        .and(serving.isEmpty() ? noCondition() : NODE.CODE.in(serving))
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r ->
                        new Atp.Supply(
                            (int) ChronoUnit.DAYS.between(today, r.value2()),
                            r.value3(),
                            r.value4(),
                            r.value5()),
                    Collectors.toList())));
  }

  /**
   * What of some items is expected where, as days from the merchant's today.
   *
   * @return by item and then by node's code
   */
  public Map<Long, Map<String, List<Atp.Supply>>> suppliesByNode(Collection<Long> itemIds) {
    LocalDate today = today();
    return db.select(
            EXPECTED_SUPPLY.ITEM_ID,
            NODE.CODE,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.CONFIDENCE,
            EXPECTED_SUPPLY.SLIP_DAYS)
        .from(EXPECTED_SUPPLY)
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .where(EXPECTED_SUPPLY.OPEN.isTrue())
        .and(EXPECTED_SUPPLY.ITEM_ID.in(itemIds))
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.groupingBy(
                    r -> r.value2(),
                    Collectors.mapping(
                        r ->
                            new Atp.Supply(
                                (int) ChronoUnit.DAYS.between(today, r.value3()),
                                r.value4(),
                                r.value5(),
                                r.value6()),
                        Collectors.toList()))));
  }

  /** Units of items that open orders wait for. */
  public Map<Long, Long> waitedFor(Collection<Long> itemIds) {
    return db.select(
            ORDER_LINE.ITEM_ID,
            sum(ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED).mul(ORDER_LINE.UNITS_EACH)))
        .from(SALES_ORDER)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
        .where(SALES_ORDER.WAITING.isTrue())
        .and(ORDER_LINE.ITEM_ID.in(itemIds))
        .groupBy(ORDER_LINE.ITEM_ID)
        .fetchMap(ORDER_LINE.ITEM_ID, r -> r.value2().longValueExact());
  }

  /** The merchant's day, from which supplies are counted. */
  public LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), settings.timeZone());
  }

  @Transactional
  public void note(long itemId, Wish wish, String actor) {
    check(wish);
    if (!db.fetchExists(ITEM, ITEM.ID.eq(itemId))) {
      throw Problem.notFound("item " + itemId);
    }
    if (!db.fetchExists(NODE, NODE.ID.eq(wish.nodeId()))) {
      throw Problem.invalid("nodeId", "there is no such node");
    }
    db.insertInto(EXPECTED_SUPPLY)
        .set(EXPECTED_SUPPLY.ITEM_ID, itemId)
        .set(EXPECTED_SUPPLY.NODE_ID, wish.nodeId())
        .set(EXPECTED_SUPPLY.SUPPLIER, wish.supplier().strip())
        .set(EXPECTED_SUPPLY.NUMBER, wish.number().strip())
        .set(EXPECTED_SUPPLY.QUANTITY, wish.quantity())
        .set(EXPECTED_SUPPLY.DUE, wish.due())
        .set(EXPECTED_SUPPLY.CONFIDENCE, wish.confidence())
        .set(EXPECTED_SUPPLY.SLIP_DAYS, wish.slipDays())
        .set(EXPECTED_SUPPLY.NOTED_BY, actor)
        .set(EXPECTED_SUPPLY.NOTED_AT, clock.instant())
        .execute();
    noted(
        actor,
        "%d units of item %d are expected on %s".formatted(wish.quantity(), itemId, wish.due()));
  }

  /** What is expected is another quantity, on another day, or less sure. */
  @Transactional
  public void change(long id, Wish wish, String actor) {
    check(wish);
    require(
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.QUANTITY, wish.quantity())
            .set(EXPECTED_SUPPLY.DUE, wish.due())
            .set(EXPECTED_SUPPLY.CONFIDENCE, wish.confidence())
            .set(EXPECTED_SUPPLY.SLIP_DAYS, wish.slipDays())
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute());
    noted(actor, "Of supply %d, %d are expected on %s".formatted(id, wish.quantity(), wish.due()));
  }

  /** It comes on another day, or will not come; what has come already stays. */
  @Transactional
  public void slip(long id, LocalDate due, String actor) {
    int moved =
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.DUE, due)
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute();
    require(moved);
    noted(actor, "Expected supply " + id + " comes on " + due);
  }

  @Transactional
  public void drop(long id, String actor) {
    require(
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.OPEN, false)
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute());
    noted(actor, "Expected supply " + id + " will not come");
  }

  /**
   * @throws Problem if it is not sound
   */
  public void check(Wish wish) {
    require(
        !wish.supplier().isBlank() && wish.supplier().length() <= 80,
        "supplier",
        "say in 1 to 80 characters who sends it");
    require(wish.number().length() <= 40, "number", "at most 40 characters");
    require(
        wish.quantity() >= 1 && wish.quantity() <= MOST_UNITS, "quantity", "1 to 1,000,000 units");
    require(wish.confidence() >= 0 && wish.confidence() <= 100, "confidence", "0 to 100 %");
    require(wish.slipDays() >= 0 && wish.slipDays() <= MOST_SLIP_DAYS, "slipDays", "0 to 365 days");
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }

  private static void require(int changed) {
    if (changed == 0) {
      throw Problem.conflict("that supply has come, or will not come");
    }
  }

  private void noted(String actor, String what) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, what, "");
  }
}
