package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_COUNT;
import static dev.ordinator.schema.Tables.STOCK_COUNT_LINE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.falseCondition;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.val;

import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.StockCountLineRecord;
import dev.ordinator.schema.tables.records.StockCountRecord;
import dev.ordinator.stock.StockDesk.Counted;
import java.time.Clock;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Counting by list: some bins of a node, place by place. Goods come and go meanwhile, so a line
 * keeps what was on record at the moment when it was counted, and only the difference is let in.
 */
@Service
public class Counts {
  private static final int MOST_LINES = 2_000;

  private final DSLContext db;
  private final StockDesk desk;
  private final Clock clock;

  Counts(DSLContext db, StockDesk desk, Clock clock) {
    this.db = db;
    this.desk = desk;
    this.clock = clock;
  }

  /** How far a line is. */
  public enum State {
    OPEN,
    /** Somebody said how many there are. */
    COUNTED,
    /** A manager must let its difference in, for its value or because orders hold the goods. */
    WAITING,
    /** What is on record is what was found. */
    POSTED,
    /** Its difference was not let in. */
    REFUSED
  }

  /** Why there are more or fewer than were on record. */
  public enum Why {
    LOST,
    FOUND,
    DAMAGED,
    /** It lay in a wrong bin. */
    MISLAID,
    /** It was counted or booked wrongly before. */
    MISTAKE,
    OTHER
  }

  /**
   * @param bins how their names begin; empty: all places of the node
   * @param category empty: every one
   * @param blind who counts is not told what is on record
   * @param approveAbove differences of a higher value wait for a manager, in minor units of the
   *     base currency; null: none do
   */
  public record Wish(
      long nodeId,
      String name,
      String bins,
      String category,
      boolean blind,
      @Nullable Long approveAbove) {}

  /**
   * What was found in a bin.
   *
   * @param item an SKU or GTIN
   * @param lot a lot's code or a serial number; empty: of none
   * @param expires for a lot that is not known yet
   * @param why null: not said
   */
  public record Found(
      String item,
      String bin,
      String lot,
      @Nullable LocalDate expires,
      long units,
      @Nullable Why why,
      String note) {}

  /**
   * Makes a list of all sellable goods in some bins.
   *
   * @return its id
   */
  @Transactional
  public long begin(Wish wish, String actor) {
    check(wish);
    long id =
        db.insertInto(STOCK_COUNT)
            .set(STOCK_COUNT.NODE_ID, wish.nodeId())
            .set(STOCK_COUNT.NAME, wish.name().strip())
            .set(STOCK_COUNT.BLIND, wish.blind())
            .set(STOCK_COUNT.APPROVE_ABOVE, wish.approveAbove())
            .set(STOCK_COUNT.MADE_BY, actor)
            .set(STOCK_COUNT.MADE_AT, clock.instant())
            .returningResult(STOCK_COUNT.ID)
            .fetchSingle()
            .value1();
    int lines =
        db.insertInto(
                STOCK_COUNT_LINE,
                STOCK_COUNT_LINE.COUNT_ID,
                STOCK_COUNT_LINE.ITEM_ID,
                STOCK_COUNT_LINE.BIN,
                STOCK_COUNT_LINE.LOT)
            .select(
                db.select(val(id), STOCK_PLACE.ITEM_ID, STOCK_PLACE.BIN, coalesce(LOT.CODE, ""))
                    .from(STOCK_PLACE)
                    .join(ITEM)
                    .on(ITEM.ID.eq(STOCK_PLACE.ITEM_ID))
                    .leftJoin(LOT)
                    .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
                    .where(STOCK_PLACE.NODE_ID.eq(wish.nodeId()))
                    .and(STOCK_PLACE.STATE.eq(Condition.SELLABLE.name()))
                    .and(STOCK_PLACE.ON_HAND.gt(0L))
                    .and(ITEM.COUNTED)
                    .and(
                        wish.bins().isBlank()
                            ? noCondition()
                            : STOCK_PLACE.BIN.startsWithIgnoreCase(wish.bins().strip()))
                    .and(
                        wish.category().isBlank()
                            ? noCondition()
                            : ITEM.CATEGORY.eq(wish.category()))
                    .limit(MOST_LINES + 1))
            .execute();
    if (lines == 0 || lines > MOST_LINES) {
      throw Problem.invalid(
          "bins",
          lines == 0
              ? "nothing lies there"
              : "more than %,d places: count fewer bins at a time".formatted(MOST_LINES));
    }
    return id;
  }

  /**
   * Notes what was found: for a place on the list, or for goods that nobody knew to lie there. May
   * be said again until the list is finished with it.
   */
  @Transactional
  public void found(long countId, Found found, String actor) {
    StockCountRecord count = open(countId);
    long item = item(found.item());
    Counted counted = counted(count, item, found);
    long book = desk.before(counted);
    StockCountLineRecord line =
        line(countId, item, found)
            .orElseGet(() -> {
              StockCountLineRecord fresh = db.newRecord(STOCK_COUNT_LINE);
              fresh.setCountId(countId);
              fresh.setItemId(item);
              fresh.setBin(found.bin().strip());
              fresh.setLot(found.lot().strip());
              return fresh;
            });
    if (line.getId() != null && State.valueOf(line.getState()).compareTo(State.WAITING) >= 0) {
      throw Problem.conflict("its difference is settled, or waits for that");
    }
    if (!count.getBlind() && found.units() != book && found.why() == null) {
      throw Problem.invalid("why", "%d are on record: say why".formatted(book));
    }
    line.setExpires(found.expires());
    line.setState(State.COUNTED.name());
    line.setBook(book);
    line.setCounted(found.units());
    line.setReason(found.why() == null ? "" : found.why().name());
    line.setNote(found.note().strip());
    line.setCountedBy(actor);
    line.setCountedAt(clock.instant());
    line.store();
  }

  /**
   * Lets in the differences of all that was counted, but for those that a manager must see.
   *
   * @return how many wait for that
   */
  @Transactional
  public int finish(long countId, String actor) {
    StockCountRecord count = open(countId);
    for (StockCountLineRecord line : lines(countId, State.COUNTED)) {
      boolean waits = count.getApproveAbove() != null && value(line) > count.getApproveAbove();
      if (waits || !post(count, line, actor)) {
        line.setState(State.WAITING.name());
        line.store();
      }
    }
    closeIfDone(count, actor);
    return lines(countId, State.WAITING).size();
  }

  /**
   * A manager lets differences in, or refuses them.
   *
   * @throws Problem if orders hold goods that were not found
   */
  @Transactional
  public void settle(long countId, Collection<Long> lineIds, boolean let, String actor) {
    StockCountRecord count = open(countId);
    for (StockCountLineRecord line : lines(countId, State.WAITING)) {
      if (!lineIds.contains(line.getId())) {
        continue;
      }
      if (!let) {
        line.setState(State.REFUSED.name());
        line.setSettledBy(actor);
        line.store();
      } else if (!post(count, line, actor)) {
        throw Problem.conflict(
            "%s: orders hold what was not found; free them first".formatted(sku(line)));
      }
    }
    closeIfDone(count, actor);
  }

  /** The list is given up: what is not let in stays as it is on record. */
  @Transactional
  public void close(long countId, String actor) {
    close(open(countId), actor);
  }

  /**
   * @return false if orders hold goods that were not found
   */
  private boolean post(StockCountRecord count, StockCountLineRecord line, String actor) {
    long units = Objects.requireNonNull(line.getCounted());
    Counted counted =
        new Counted(
            line.getItemId(),
            count.getNodeId(),
            line.getBin(),
            line.getLot(),
            line.getExpires(),
            units,
            (line.getReason().toLowerCase(Locale.ROOT) + " " + line.getNote()).strip());
    long difference = units - Objects.requireNonNull(line.getBook());
    if (!desk.differs(counted, difference, count.getId(), actor)) {
      return false;
    }
    line.setState(State.POSTED.name());
    line.setSettledBy(actor);
    line.store();
    return true;
  }

  private void closeIfDone(StockCountRecord count, String actor) {
    boolean done = lines(count.getId(), State.OPEN, State.COUNTED, State.WAITING).isEmpty();
    if (done) {
      close(count, actor);
    }
  }

  private void close(StockCountRecord count, String actor) {
    count.setClosedBy(actor);
    count.setClosedAt(clock.instant());
    count.store();
  }

  /** A unit's part of a difference: its cost, or else its list price. */
  static long worth(@Nullable Long cost, long listPrice) {
    return cost == null ? listPrice : cost;
  }

  /** Of a difference, in minor units of the base currency. */
  private long value(StockCountLineRecord line) {
    var prices =
        db.select(ITEM.COST, ITEM.LIST_PRICE)
            .from(ITEM)
            .where(ITEM.ID.eq(line.getItemId()))
            .fetchSingle();
    long each = worth(prices.value1(), prices.value2());
    long units = Objects.requireNonNull(line.getCounted()) - Objects.requireNonNull(line.getBook());
    return Math.abs(units) * each;
  }

  private StockCountRecord open(long id) {
    StockCountRecord count =
        db.selectFrom(STOCK_COUNT)
            .where(STOCK_COUNT.ID.eq(id))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("count " + id));
    if (count.getClosedAt() != null) {
      throw Problem.conflict("%s is closed: begin another count".formatted(count.getName()));
    }
    return count;
  }

  private List<StockCountLineRecord> lines(long countId, State... states) {
    return db.selectFrom(STOCK_COUNT_LINE)
        .where(STOCK_COUNT_LINE.COUNT_ID.eq(countId))
        .and(STOCK_COUNT_LINE.STATE.in(List.of(states).stream().map(State::name).toList()))
        .orderBy(STOCK_COUNT_LINE.ITEM_ID, STOCK_COUNT_LINE.ID)
        .fetch();
  }

  private Optional<StockCountLineRecord> line(long countId, long item, Found found) {
    return db.selectFrom(STOCK_COUNT_LINE)
        .where(STOCK_COUNT_LINE.COUNT_ID.eq(countId))
        .and(STOCK_COUNT_LINE.ITEM_ID.eq(item))
        .and(STOCK_COUNT_LINE.BIN.eq(found.bin().strip()))
        .and(STOCK_COUNT_LINE.LOT.eq(found.lot().strip()))
        .fetchOptional();
  }

  private static Counted counted(StockCountRecord count, long item, Found found) {
    return new Counted(
        item,
        count.getNodeId(),
        found.bin().strip(),
        found.lot().strip(),
        found.expires(),
        found.units(),
        found.note().strip());
  }

  private long item(String code) {
    String digits = code.strip();
    return db.select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(digits))
        .or(
            digits.matches("\\d{8,14}")
                ? ITEM.GTIN.eq("0".repeat(14 - digits.length()) + digits)
                : falseCondition())
        .limit(1)
        .fetchOptional(ITEM.ID)
        .orElseThrow(() -> Problem.invalid("item", "no item is called ‘" + digits + "’"));
  }

  private String sku(StockCountLineRecord line) {
    return db.select(ITEM.SKU)
        .from(ITEM)
        .where(ITEM.ID.eq(line.getItemId()))
        .fetchSingle()
        .value1();
  }

  private void check(Wish wish) {
    if (!db.fetchExists(NODE, NODE.ID.eq(wish.nodeId()))) {
      throw Problem.invalid("nodeId", "there is no such node");
    }
    if (wish.name().isBlank() || wish.name().length() > 80) {
      throw Problem.invalid("name", "1 to 80 characters");
    }
    if (wish.approveAbove() != null && wish.approveAbove() < 0) {
      throw Problem.invalid("approveAbove", "not below zero");
    }
  }
}
