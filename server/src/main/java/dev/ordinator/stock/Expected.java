package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static org.jooq.impl.DSL.noCondition;

import dev.ordinator.core.limits.Limits;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.ExpectedSupplyRecord;
import java.time.Clock;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Goods that are on their way to us. */
@Service
public class Expected {
  private static final long MOST_UNITS = 1_000_000;
  private static final int MOST_SLIP_DAYS = 365;

  private final DSLContext db;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final OrdinatorSettings settings;
  private final Clock clock;

  Expected(
      DSLContext db,
      Events events,
      ApplicationEventPublisher publisher,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.events = events;
    this.publisher = publisher;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * An expected supply.
   *
   * @param quantity units still to come
   * @param confidence per cent of it that is counted on
   * @param slipDays days that it is assumed to come late
   * @param fromOurNode whether another node of ours sent it: it is under way
   */
  public record Card(
      long id,
      long nodeId,
      String node,
      String supplier,
      String number,
      long quantity,
      LocalDate due,
      int confidence,
      int slipDays,
      boolean fromOurNode) {}

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
  public List<Card> of(long itemId) {
    return db.select(
            EXPECTED_SUPPLY.ID,
            EXPECTED_SUPPLY.NODE_ID,
            NODE.NAME,
            EXPECTED_SUPPLY.SUPPLIER,
            EXPECTED_SUPPLY.NUMBER,
            EXPECTED_SUPPLY.QUANTITY,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.CONFIDENCE,
            EXPECTED_SUPPLY.SLIP_DAYS,
            EXPECTED_SUPPLY.FROM_NODE)
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
                r.value9(),
                r.value10() != null));
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

  /**
   * Units of items that orders wait for, but for those that are kept for them already: so what is
   * free, what is expected and this add up to what can be promised to others.
   */
  public Map<Long, Long> waitedFor(Collection<Long> itemIds) {
    return db.select(BACKORDER.ITEM_ID, WaitedFor.UNITS)
        .from(BACKORDER)
        .where(BACKORDER.CLOSED_AT.isNull())
        .and(BACKORDER.ITEM_ID.in(itemIds))
        .groupBy(BACKORDER.ITEM_ID)
        .fetchMap(BACKORDER.ITEM_ID, r -> r.value2().longValueExact());
  }

  /**
   * All that is expected of some items at nodes that send for us, by item, as days from the
   * merchant's today.
   */
  public Map<Long, List<Atp.Supply>> suppliesOf(Collection<Long> itemIds) {
    return suppliesByNode(itemIds).entrySet().stream()
        .collect(
            Collectors.toMap(
                Map.Entry::getKey,
                e -> e.getValue().values().stream().flatMap(List::stream).toList()));
  }

  /** The merchant's day, from which supplies are counted. */
  public LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), settings.timeZone());
  }

  /** A supply of an item that is to be noted. */
  public record Noted(long itemId, Wish wish) {}

  @Transactional
  public void note(long itemId, Wish wish, String actor) {
    if (!db.fetchExists(ITEM, ITEM.ID.eq(itemId))) {
      throw Problem.notFound("item " + itemId);
    }
    if (!db.fetchExists(NODE, NODE.ID.eq(wish.nodeId()))) {
      throw Problem.invalid("nodeId", "there is no such node");
    }
    noteAll(List.of(new Noted(itemId, wish)), actor);
    noted(
        actor,
        "%d units of item %d are expected on %s".formatted(wish.quantity(), itemId, wish.due()));
  }

  /** Notes many at once, of items and nodes that there are; whoever asks says so in the trail. */
  @Transactional
  public void noteAll(List<Noted> many, String actor) {
    List<ExpectedSupplyRecord> rows = new ArrayList<>();
    for (Noted one : many) {
      Wish wish = one.wish();
      check(wish);
      ExpectedSupplyRecord row = db.newRecord(EXPECTED_SUPPLY);
      row.setItemId(one.itemId());
      row.setNodeId(wish.nodeId());
      row.setSupplier(wish.supplier().strip());
      row.setNumber(wish.number().strip());
      row.setQuantity(wish.quantity());
      row.setDue(wish.due());
      row.setConfidence(wish.confidence());
      row.setSlipDays(wish.slipDays());
      row.setNotedBy(actor);
      row.setNotedAt(clock.instant());
      rows.add(row);
    }
    db.batchInsert(rows).execute();
    many.stream().map(Noted::itemId).distinct().forEach(this::moved);
  }

  /** What is expected is another quantity, on another day, or less sure. */
  @Transactional
  public void change(long id, Wish wish, String actor) {
    check(wish);
    requireNoTransfer(id, "it is under way from one of our nodes: only its day can change");
    require(
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.QUANTITY, wish.quantity())
            .set(EXPECTED_SUPPLY.DUE, wish.due())
            .set(EXPECTED_SUPPLY.CONFIDENCE, wish.confidence())
            .set(EXPECTED_SUPPLY.SLIP_DAYS, wish.slipDays())
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute());
    moved(itemOf(id));
    noted(actor, "Of supply %d, %d are expected on %s".formatted(id, wish.quantity(), wish.due()));
  }

  /** It comes on another day, or will not come; what has come already stays. */
  @Transactional
  public void slip(long id, LocalDate due, String actor) {
    require(
        !due.isBefore(today()) && Limits.holds(due),
        "due",
        "is past, or too far off: say the day on which it is expected now");
    int moved =
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.DUE, due)
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute();
    require(moved);
    moved(itemOf(id));
    noted(actor, "Expected supply " + id + " comes on " + due);
  }

  /**
   * It will not come. What one of our nodes sent comes back there instead, see {@link Transfers}.
   */
  @Transactional
  public void drop(long id, String actor) {
    requireNoTransfer(id, "it is under way: say that it comes back, or is lost");
    require(
        db.update(EXPECTED_SUPPLY)
            .set(EXPECTED_SUPPLY.OPEN, false)
            .where(EXPECTED_SUPPLY.ID.eq(id))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .execute());
    moved(itemOf(id));
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

  private void requireNoTransfer(long id, String otherwise) {
    if (db.fetchExists(
        EXPECTED_SUPPLY, EXPECTED_SUPPLY.ID.eq(id).and(EXPECTED_SUPPLY.FROM_NODE.isNotNull()))) {
      throw Problem.conflict(otherwise);
    }
  }

  private long itemOf(long id) {
    return db.select(EXPECTED_SUPPLY.ITEM_ID)
        .from(EXPECTED_SUPPLY)
        .where(EXPECTED_SUPPLY.ID.eq(id))
        .fetchSingle()
        .value1();
  }

  private void moved(long itemId) {
    publisher.publishEvent(new SupplyMoved(itemId));
  }

  private void noted(String actor, String what) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, what, "");
  }
}
